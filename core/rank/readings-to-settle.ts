import { tQuantileUpper } from '../distributions/index.ts';
import type { CriticalAt } from '../compare/method.ts';
import { MOST_MORE } from './most-more.ts';

export interface SettleInput {
  /** Observed difference in the readings' unit; its sign does not matter. */
  difference: number;
  margin: number;
  /** Variance of the difference of one reading (or one round) of each, in the square of the unit. */
  variance: number;
  /** What of the difference's variance more readings would not lessen. */
  fixed: number;
  /** Variance of both means' rounding, step²/6, which more readings do not lessen. */
  rounding: number;
  criticalAt: CriticalAt;
  /** Readings per item so far. */
  readings: number;
}

/** One end must hold with a chance of 80 %. */
const ONE_END = 0.2;
/** Both ends must hold, together with a chance of 80 %. */
const BOTH_ENDS = 0.1;

/**
 * How many more readings per item would be likely (80 %) to settle a pair at the observed difference and spread: either
 * the interval then excludes 0, or it lies within the margin.
 * @returns from 1 on; undefined when even 50 more would not be likely to
 * @source two-sample size by critical value plus power quantile of t: Cochran and Cox (1957), section 2.21; both ends:
 *   Schuirmann (1987), Journal of Pharmacokinetics and Biopharmaceutics 15
 */
export function readingsToSettle(input: SettleInput): number | undefined {
  const { margin, variance, fixed, rounding, criticalAt, readings } = input;
  const difference = Math.abs(input.difference);
  const likely = (n: number) => {
    const { critical, df } = criticalAt(n);
    const apart = (critical + tQuantileUpper(ONE_END, df)) * Math.sqrt(variance / n + fixed);
    const alike = (critical + tQuantileUpper(BOTH_ENDS, df)) * Math.sqrt(variance / n + fixed + rounding);
    return apart <= difference || alike <= margin - difference;
  };
  let low = Math.max(2, readings);
  let high = readings + MOST_MORE;
  if (high <= low || !likely(high)) return undefined;
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2);
    if (likely(middle)) high = middle;
    else low = middle;
  }
  return high - readings;
}
