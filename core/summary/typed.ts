import { tQuantileUpper } from '../distributions/index.ts';
import { formatReading, withUnit } from '../quantity/format.ts';
import type { Summary } from './summary.ts';

/** What is known of an item from elsewhere, in place of readings: a summary of n readings, or a range. In the measurand’s unit. */
export type Typed =
  | {
      kind: 'summary';
      n: number;
      mean: number;
      /** null of a single reading. */
      sd: number | null;
      /** The smallest and the largest of the readings, where they are known. */
      low: number | null;
      high: number | null;
    }
  /** From low to high; open where an end is null: “more than 8”. Equal ends are one figure without a spread. */
  | { kind: 'range'; low: number | null; high: number | null };

/**
 * A summary that was typed in, as one of readings: what needs the readings themselves is null.
 * @param alpha 1 − coverage of the interval, 0 < alpha < 1
 */
export function typedSummary(typed: Typed, alpha: number): Summary {
  const unknown = {
    ...{ median: null, mad: null, q1: null, q3: null, hidden: false },
    ...{ min: typed.low, max: typed.high },
  };
  if (typed.kind === 'range') {
    return {
      ...unknown,
      ...{ n: 0, mean: null, sd: null, se: null, varianceOfMean: null, df: 0, interval: null, cv: null },
    };
  }
  const { n, mean, sd } = typed;
  const df = n - 1;
  const se = sd === null || n < 2 ? null : sd / Math.sqrt(n);
  const half = se === null ? null : tQuantileUpper(alpha / 2, df) * se;
  return {
    ...unknown,
    ...{ n, mean, sd, se, df },
    varianceOfMean: se === null ? null : se * se,
    interval: half === null ? null : [mean - half, mean + half],
    cv: sd === null || mean === 0 ? null : sd / Math.abs(mean),
  };
}

/** Where a range stands among means: its middle, or its end where the other is open. */
export const middleOf = ({ low, high }: Pick<Typed, 'low' | 'high'>): number =>
  low !== null && high !== null ? low + (high - low) / 2 : (low ?? high ?? Number.NaN);

/**
 * A range in words, shortly: “> 8”, “1 to 1.6”.
 * @param figure how its ends are printed
 */
export function rangeWords(
  { low, high }: Pick<Typed, 'low' | 'high'>,
  unit = '',
  figure: (end: number) => string = (end) => formatReading(end),
): string {
  const [from, to] = [low, high].map((end) => (end === null ? undefined : figure(end)));
  if (from === undefined) return withUnit(`< ${to ?? ''}`, unit);
  if (to === undefined) return withUnit(`> ${from}`, unit);
  return withUnit(from === to ? from : `${from} to ${to}`, unit);
}
