/**
 * The door to the statistics library. Upper tails are asked for as such, never as 1 − lower,
 * so that small p-values keep their digits.
 */
import {
  digamma as libraryDigamma,
  lbeta,
  lgamma,
  pchisq,
  pt,
  ptukey,
  qchisq,
  qt,
  qtukey,
  trigamma as libraryTrigamma,
} from 'lib-r-math.js';
import { betaUpper } from './beta.ts';
import { normalQuantileUpper, normalUpper } from './normal.ts';

/** Upper tail of Student's t: P(T > t), df > 0 degrees of freedom (Infinity is the normal). */
export const tUpper = (t: number, df: number): number =>
  Number.isFinite(df) ? pt(t, df, undefined, false) : normalUpper(t);

/** Two-sided p-value of Student's t. */
export const tTwoSided = (t: number, df: number): number => Math.min(1, 2 * tUpper(Math.abs(t), df));

/** Quantiles are slow to find, and the pairs of a study ask for the same ones. */
function kept(find: (upper: number, ...about: number[]) => number) {
  const found = new Map<string, number>();
  return (upper: number, ...about: number[]): number => {
    const key = [upper, ...about].join('/');
    let quantile = found.get(key);
    if (quantile === undefined) {
      quantile = find(upper, ...about);
      if (found.size > MOST_KEPT) found.clear();
      found.set(key, quantile);
    }
    return quantile;
  };
}
const MOST_KEPT = 5000;
/** Of finding a root, which is found long before. */
const MOST_STEPS = 60;

const tQuantile = kept((upper, df) => qt(upper, df, undefined, false));

/** The t that is exceeded with the given probability, 0 < upper < 1. */
export const tQuantileUpper = (upper: number, df: number): number =>
  Number.isFinite(df) ? tQuantile(upper, df) : normalQuantileUpper(upper);

/** Upper tail of the noncentral t: P(T > t) with noncentrality `ncp`. */
export const noncentralTUpper = (t: number, df: number, ncp: number): number => pt(t, df, ncp, false);

/**
 * Upper tail of Snedecor's F: P(F > f), through the incomplete beta function. The library's own is off by up to 3e-3
 * for some degrees of freedom.
 * @source DLMF 8.17 and 26.5 of Abramowitz and Stegun: P(F > f) = I_x(df2/2, df1/2), x = df2/(df2 + df1·f)
 */
export const fUpper = (f: number, df1: number, df2: number): number =>
  f <= 0 ? 1 : betaUpper(df1 * f, df2, df1 / 2, df2 / 2, lbeta(df1 / 2, df2 / 2));

/** Upper tail of χ². */
export const chiSquaredUpper = (x: number, df: number): number => pchisq(x, df, undefined, false);

/** The χ² that is exceeded with the given probability. */
export const chiSquaredQuantileUpper = (upper: number, df: number): number =>
  qchisq(upper, df, undefined, false);

/** The χ² below which the given probability lies. */
export const chiSquaredQuantileLower = (lower: number, df: number): number =>
  qchisq(lower, df, undefined, true);

/** Logarithm of the gamma function, x > 0. */
export const logGamma = (x: number): number => lgamma(x);

/** First derivative of the logarithm of the gamma function, x > 0. */
export const digamma = (x: number): number => libraryDigamma(x);

/** Second derivative of the logarithm of the gamma function, x > 0. */
export const trigamma = (x: number): number => libraryTrigamma(x);

/**
 * The x > 0 whose trigamma is y.
 * @param y above 0
 * @source Newton's method on 1/trigamma, which is nearly a straight line: Smyth (2004), appendix
 * @example trigammaInverse(0.49035775610023486) // 2.5
 */
export function trigammaInverse(y: number): number {
  if (y > 1e7) return 1 / Math.sqrt(y);
  if (y < 1e-6) return 1 / y;
  let x = 0.5 + 1 / y;
  for (let step = 0; step < MOST_STEPS; step += 1) {
    const value = trigamma(x);
    // The slope of trigamma, by a centred difference: Newton's method settles in spite of its last digits.
    const h = 1e-5 * x;
    const slope = (trigamma(x + h) - trigamma(x - h)) / (2 * h);
    const change = (value * (1 - value / y)) / slope;
    x += change;
    if (Math.abs(change) < 1e-13 * x) break;
  }
  return x;
}

/** The library tabulates df up to here; above, the studentized range has settled to its limit. */
const DF_LIMIT = 25000;

/** Upper tail of the studentized range of `groups` means: P(Q > q). */
export const studentizedRangeUpper = (q: number, groups: number, df: number): number =>
  q <= 0 ? 1 : Math.min(1, Math.max(0, ptukey(q, groups, Math.min(df, DF_LIMIT), 1, false)));

/** The studentized range that is exceeded with the given probability. */
export const studentizedRangeQuantileUpper: (upper: number, groups: number, df: number) => number = kept(
  (upper, groups, df) => qtukey(upper, groups, Math.min(df, DF_LIMIT), 1, false),
);
