import type { ItemFigure } from '../../../core/analysis/item-figures.ts';
import type { Item } from '../../../core/model/parts.ts';
import { bestValue } from '../../../core/rank/value.ts';

export interface AgainstProps {
  items: readonly Item[];
  /** What is held against the attributes, with its unit. */
  name: string;
  unit: string;
  /** One per item; null where it has none. */
  values: readonly (number | null)[];
  /** The same turned so that more is better. */
  merits: readonly (number | null)[];
  intervals?: readonly (readonly [number, number] | null)[];
}

/** Indices of the items that no other beats on both. */
export function unbeatenOf(
  { merits }: AgainstProps,
  { values }: ItemFigure,
  less: 'less' | 'more',
): number[] {
  return bestValue(
    merits.flatMap((merit, index) => {
      const value = values[index];
      return merit === null || value == null
        ? []
        : [{ index, merit, cost: less === 'less' ? value : -value }];
    }),
  );
}
