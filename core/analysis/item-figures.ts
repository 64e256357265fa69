import type { Item } from '../model/parts.ts';

/** A number of each item to hold results against: an attribute, or one attribute for each unit of another. */
export interface ItemFigure {
  key: string;
  name: string;
  unit: string;
  /** In the order of the items; null where an item lacks it, or states it in another unit. */
  values: (number | null)[];
}

/** Fewer items than this make no figure to hold results against. */
const LEAST = 2;
const known = (values: readonly (number | null)[]) => values.filter((value) => value !== null).length;

/** The attributes that two items or more have a number of. */
export function attributeFigures(items: readonly Item[]): ItemFigure[] {
  const names = [...new Set(items.flatMap(({ attributes }) => attributes.map(({ name }) => name)))];
  return names
    .map((name): ItemFigure => {
      const stated = items.map(({ attributes }) => attributes.find((attribute) => attribute.name === name));
      const unit = stated.find((attribute) => attribute?.value != null)?.unit ?? '';
      return {
        ...{ key: name, name, unit },
        values: stated.map((attribute) => (attribute?.unit === unit ? attribute.value : null)),
      };
    })
    .filter(({ values }) => known(values) >= LEAST);
}

/** One figure for each unit of another: a price for a kilogram. Where the other is 0 there is none. */
export function perUnit(figure: ItemFigure, of: ItemFigure): ItemFigure {
  return {
    key: `${figure.key} / ${of.key}`,
    name: `${figure.name} per ${of.name.toLowerCase()}`,
    unit: `${figure.unit || '1'}/${of.unit || '1'}`,
    values: figure.values.map((value, i) => {
      const divisor = of.values[i];
      return value === null || divisor == null || divisor === 0 ? null : value / divisor;
    }),
  };
}
