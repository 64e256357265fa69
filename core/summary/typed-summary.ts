import { tQuantileUpper } from '../distributions/index.ts';
import type { Summary } from './summary.ts';
import type { Typed } from './typed.ts';

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
