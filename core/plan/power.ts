import { noncentralTUpper, tQuantileUpper } from '../distributions/index.ts';
import { turningPoint } from '../distributions/halving.ts';
import { mostLent } from '../compare/moderation.ts';
import { rangeCritical } from '../distributions/range.ts';

export interface PowerInput {
  /** Difference to be seen, in the readings' unit, > 0. */
  difference: number;
  /** Spread (SD) of the readings of one item, same unit, > 0. */
  sd: number;
  /** Chance of seeing a difference where there is none, two-sided. */
  alpha: number;
  /** Degrees of freedom of a difference with n readings of each; 2(n − 1) when left out. */
  df?: ((n: number) => number) | undefined;
}

const independentDf = (n: number): number => 2 * (n - 1);

/**
 * Degrees of freedom of a pair within n rounds of k items: its own n − 1, and what the other pairs lend where items turn
 * out to scatter alike.
 */
export const alikeDf =
  (items: number) =>
  (n: number): number => {
    const lends = items > 2 && (n > 2 || items <= 6);
    return n - 1 + (lends ? Math.min(((n - 1) * (items - 2)) / 2, mostLent(n)) : 0);
  };

/** The same where items scatter differently, so that no pair can lend another one anything. */
export const ownDf = (n: number): number => n - 1;

/** More readings of an item than this are not planned. */
export const MOST_PLANNED = 10000;

/**
 * Chance of seeing a difference between two items with n readings each: two-sided t-test, equal spread, from the
 * noncentral t; the other tail, which would see it the wrong way round, is not counted.
 * @param n readings per item, ≥ 2, need not be whole
 * @source Cohen (1988), Statistical Power Analysis; as R's power.t.test
 * @example power(10, { difference: 1.5, sd: 1, alpha: 0.05 }) // 0.8870
 */
export function power(n: number, { difference, sd, alpha, df: dfOf = independentDf }: PowerInput): number {
  const df = dfOf(n);
  return noncentralTUpper(tQuantileUpper(alpha / 2, df), df, (Math.sqrt(n / 2) * difference) / sd);
}

/**
 * Readings per item that give a stated chance of seeing a difference; round up to plan with it.
 * @param chance 0 < chance < 1, such as 0.8
 * @returns not whole; undefined when more than 10,000 would be needed
 * @example Math.ceil(readingsNeeded(0.9, { difference: 1, sd: 1, alpha: 0.05 })) // 23
 */
export function readingsNeeded(chance: number, input: PowerInput): number | undefined {
  if (!(input.difference > 0) || !(input.sd > 0)) return undefined;
  if (power(MOST_PLANNED, input) < chance) return undefined;
  if (power(2, input) >= chance) return 2;
  return turningPoint(2, MOST_PLANNED, (n) => power(n, input) < chance);
}

/** The smallest difference that is seen with a stated chance, which rises with it; looked for up to a million spreads. */
function seenBy(chance: number, sd: number, chanceOf: (difference: number) => number): number {
  const isMissed = (difference: number) => chanceOf(difference) < chance;
  let high = sd;
  while (isMissed(high) && high < 1e6 * sd) high *= 2;
  return turningPoint(0, high, isMissed);
}

/**
 * The smallest difference that n readings per item give a stated chance of seeing.
 * @returns in the unit of the spread
 */
export function differenceSeen(n: number, chance: number, input: Omit<PowerInput, 'difference'>): number {
  return seenBy(chance, input.sd, (difference) => power(n, { ...input, difference }));
}

/**
 * The smallest difference that n complete rounds of k items give a stated chance of seeing where all items are promised
 * to scatter alike: the studentized range on the residual of all of them.
 * @source Tukey (1953), randomized blocks
 */
export function differenceSeenPooled(
  n: number,
  chance: number,
  { sd, alpha, items }: { sd: number; alpha: number; items: number },
): number | undefined {
  const df = (n - 1) * (items - 1);
  if (df < 2) return undefined;
  const critical = rangeCritical(alpha, items, df);
  const chanceOf = (difference: number) =>
    noncentralTUpper(critical, df, (Math.sqrt(n / 2) * difference) / sd);
  return seenBy(chance, sd, chanceOf);
}

/** Level of each pair when all m pairs of k items must hold at once. Šidák (1967). */
export function levelPerPair(alpha: number, items: number): number {
  const pairs = (items * (items - 1)) / 2;
  return pairs < 2 ? alpha : -Math.expm1(Math.log1p(-alpha) / pairs);
}
