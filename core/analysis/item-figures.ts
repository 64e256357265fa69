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

/** A figure made of two, item by item; null where either is missing or they cannot be put together. */
const madeOf = (
  figure: ItemFigure,
  of: ItemFigure,
  work: (value: number, other: number) => number | null,
): ItemFigure['values'] =>
  figure.values.map((value, i) => {
    const other = of.values[i];
    return value === null || other == null ? null : work(value, other);
  });

/** One figure for each unit of another: a price for a kilogram. Where the other is 0 there is none. */
export const perUnit = (figure: ItemFigure, of: ItemFigure): ItemFigure => ({
  key: `${figure.key} / ${of.key}`,
  name: `${figure.name} per ${of.name.toLowerCase()}`,
  unit: `${figure.unit || '1'}/${of.unit || '1'}`,
  values: madeOf(figure, of, (value, other) => (other === 0 ? null : value / other)),
});

/** One figure times another: a length times a width. */
export const timesFigure = (figure: ItemFigure, other: ItemFigure): ItemFigure => ({
  key: `${figure.key} × ${other.key}`,
  name: `${figure.name} times ${other.name.toLowerCase()}`,
  unit: [figure.unit, other.unit].filter(Boolean).join('·'),
  values: madeOf(figure, other, (value, factor) => value * factor),
});
