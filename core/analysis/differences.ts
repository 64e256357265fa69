import { percentOf } from '../compare/ratio.ts';
import { pairBetween } from '../rank/place.ts';
import type { ClassAnalysis } from './analyse-study.ts';

/** What an item differs by from another one; intervals hold with those of all pairs at once. */
export interface DifferenceFrom {
  /** Its mean less the other's, in the readings' unit. */
  difference: number;
  interval: readonly [number, number] | null;
  /** A range is known of one of the two, so that the difference has no middle that would mean anything. */
  ranged: boolean;
  /** The same in per cent of the other's mean; null where per cent mean nothing. */
  percent: number | null;
  percentInterval: readonly [number, number] | null;
}

/**
 * What every item differs by from one of them.
 * @param from index of that item
 * @param ratios whether values are above a true zero, so that per cent mean something
 * @returns one per item; undefined for that item, and for those that were not compared with it
 */
export function differencesFrom(
  { analysis: { items, pairs, ranksOnly } }: Pick<ClassAnalysis, 'analysis'>,
  from: number,
  ratios: boolean,
): (DifferenceFrom | undefined)[] {
  const reference = items[from];
  return items.map((item, index) => {
    const pair = pairBetween(pairs, from, index);
    if (!pair || ranksOnly) return undefined;
    const sign = pair.a === from ? 1 : -1;
    const { low, high } = pair;
    const interval =
      low === null || high === null ? null : sign === 1 ? ([low, high] as const) : ([-high, -low] as const);
    const difference = sign * pair.difference;
    const known = reference?.known && item.known && pair.se !== null && pair.critical !== null;
    const of = reference?.placedBy;
    const ranged = [item, reference].some((compared) => compared?.typed?.kind === 'range');
    const inPercent =
      !ratios || ranged || of == null || !(of > 0)
        ? undefined
        : known
          ? percentOf(
              {
                of,
                mean: of + difference,
                varianceOf: (reference.known?.se as number) ** 2,
                variance: (item.known?.se as number) ** 2,
                varianceOfDifference: (pair.se as number) ** 2,
              },
              pair.critical as number,
            )
          : { percent: (100 * difference) / of, interval: null };
    return {
      ...{ difference, interval, ranged },
      percent: inPercent?.percent ?? null,
      percentInterval: inPercent?.interval ?? null,
    };
  });
}
