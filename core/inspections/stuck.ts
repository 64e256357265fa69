import { normalUpper } from '../distributions/normal.ts';
import { formatReading, withUnit } from '../quantity/format.ts';
import { moments } from '../summary/moments.ts';
import { median, sorted } from '../summary/quantile.ts';
import type { Inspection } from './inspection.ts';

/** Equal readings in a row that are looked at. */
const FEWEST = 4;

/** The share of the readings that the likeliest value has: its step lies around their mean. */
export const shareOfLikeliest = (spread: number, step: number): number =>
  1 - 2 * normalUpper(Math.max(step, 0.02 * spread) / (2 * spread));

/** The most that the chance of so many equal readings in a row can be, somewhere among n. */
export const chanceOfRun = (length: number, n: number, equal: number): number =>
  Math.min(1, (n - length + 1) * equal ** (length - 1));

/**
 * The same value again and again, more often than the step of the readings explains: where the spread is s and the step
 * a, no value has more than the share 2Φ(a/2s) − 1 of the readings.
 */
export const stuck: Inspection = ({ measurands, items }) =>
  measurands.flatMap(({ measurand, cells, step, derived, untested }) => {
    if (derived || untested) return [];
    const spreads = cells.flatMap(({ kept }) => {
      const { n, sumOfSquares } = moments(kept.map(({ value }) => value as number));
      return n > 1 && sumOfSquares > 0 ? [Math.sqrt(sumOfSquares / (n - 1))] : [];
    });
    if (spreads.length === 0) return [];
    const spread = median(sorted(spreads));
    const equal = shareOfLikeliest(spread, step);
    return cells.flatMap(({ itemId, kept }) => {
      let [longest, run, end] = [1, 1, 0];
      for (let i = 1; i < kept.length; i += 1) {
        run = kept[i]?.value === kept[i - 1]?.value ? run + 1 : 1;
        if (run > longest) [longest, end] = [run, i];
      }
      if (longest < FEWEST) return [];
      const repeated = kept.slice(end - longest + 1, end + 1);
      const name = items.get(itemId)?.name ?? '';
      return [
        {
          p: chanceOfRun(longest, kept.length, equal),
          finding: () => ({
            id: `stuck/${repeated[0]?.id ?? ''}`,
            kind: 'the same value again and again',
            measurandId: measurand.id,
            message: `${name} read ${withUnit(formatReading(repeated[0]?.value as number), measurand.unit)} ${String(longest)} times in a row.`,
            why: 'That is more often than the step of the readings explains: an instrument that is stuck, held or at its limit repeats itself.',
            todo: 'Check the instrument and its range, and leave the repeats out if it was stuck.',
            source: 'chance of equal readings at this spread and step, within the level of all findings',
            method: 'stuck',
            readingIds: repeated.map(({ id }) => id),
          }),
        },
      ];
    });
  });
