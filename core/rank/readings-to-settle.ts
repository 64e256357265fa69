import { tQuantileUpper } from '../distributions/index.ts';
import { type PairMethodName, pairMethod } from '../compare/pairs.ts';

/** More than this many readings of an item are not worth naming. */
export const MOST_READINGS = 2000;

export interface SettleInput {
  /** Observed difference in the readings' unit; its sign does not matter. */
  difference: number;
  margin: number;
  /** s_a² + s_b², or twice the residual mean square of complete rounds. */
  varianceSum: number;
  items: number;
  method: PairMethodName;
  alpha: number;
  /** Readings per item so far. */
  readings: number;
}

/**
 * How many readings per item would be likely (80 %) to settle a pair at the observed difference and spread: either
 * the interval then excludes 0, or it lies within the margin.
 * @returns readings per item in all, more than `readings`; undefined when even 2,000 would not be likely to
 * @source two-sample size by critical value plus power quantile of t: Cochran and Cox (1957), section 2.21
 */
export function readingsToSettle(input: SettleInput): number | undefined {
  const { margin, varianceSum, items, alpha } = input;
  const own = pairMethod(input.method);
  const planned = own.criticalAt ? own : pairMethod('tamhane-t2');
  const distance = Math.max(Math.abs(input.difference), margin - Math.abs(input.difference));
  const likely = (n: number) => {
    const found = planned.criticalAt?.(n, items, alpha);
    if (!found) return false;
    return (found.critical + tQuantileUpper(0.2, found.df)) * Math.sqrt(varianceSum / n) <= distance;
  };
  let low = Math.max(2, input.readings);
  let high = MOST_READINGS;
  if (!(distance > 0) || !likely(high)) return undefined;
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2);
    if (likely(middle)) high = middle;
    else low = middle;
  }
  return high;
}
