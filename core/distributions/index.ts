/**
 * The only door to the statistics library. Upper tails are asked for as such, never as 1 − lower,
 * so that small p-values keep their digits.
 */
import { pchisq, pf, pnorm, pt, ptukey, qchisq, qnorm, qt, qtukey } from 'lib-r-math.js';

/** Upper tail of Student's t: P(T > t), df > 0 degrees of freedom (Infinity is the normal). */
export const tUpper = (t: number, df: number): number =>
  Number.isFinite(df) ? pt(t, df, undefined, false) : pnorm(t, 0, 1, false);

/** Two-sided p-value of Student's t. */
export const tTwoSided = (t: number, df: number): number => Math.min(1, 2 * tUpper(Math.abs(t), df));

/** The t that is exceeded with the given probability, 0 < upper < 1. */
export const tQuantileUpper = (upper: number, df: number): number =>
  Number.isFinite(df) ? qt(upper, df, undefined, false) : qnorm(upper, 0, 1, false);

/** Upper tail of the noncentral t: P(T > t) with noncentrality `ncp`. */
export const noncentralTUpper = (t: number, df: number, ncp: number): number => pt(t, df, ncp, false);

/** Upper tail of Snedecor's F: P(F > f). */
export const fUpper = (f: number, df1: number, df2: number): number => pf(f, df1, df2, undefined, false);

/** Upper tail of χ². */
export const chiSquaredUpper = (x: number, df: number): number => pchisq(x, df, undefined, false);

/** The χ² that is exceeded with the given probability. */
export const chiSquaredQuantileUpper = (upper: number, df: number): number =>
  qchisq(upper, df, undefined, false);

/** The χ² below which the given probability lies. */
export const chiSquaredQuantileLower = (lower: number, df: number): number =>
  qchisq(lower, df, undefined, true);

/** Upper tail of the standard normal. */
export const normalUpper = (z: number): number => pnorm(z, 0, 1, false);

/** The z that is exceeded with the given probability. */
export const normalQuantileUpper = (upper: number): number => qnorm(upper, 0, 1, false);

/** The library tabulates df up to here; above, the studentized range has settled to its limit. */
const DF_LIMIT = 25000;

/** Upper tail of the studentized range of `groups` means: P(Q > q). */
export const studentizedRangeUpper = (q: number, groups: number, df: number): number =>
  q <= 0 ? 1 : Math.min(1, Math.max(0, ptukey(q, groups, Math.min(df, DF_LIMIT), 1, false)));

const quantiles = new Map<string, number>();

/** The studentized range that is exceeded with the given probability. Kept, since it is slow to find. */
export function studentizedRangeQuantileUpper(upper: number, groups: number, df: number): number {
  const key = `${String(upper)}/${String(groups)}/${String(df)}`;
  let q = quantiles.get(key);
  if (q === undefined) {
    q = qtukey(upper, groups, Math.min(df, DF_LIMIT), 1, false);
    if (quantiles.size > 5000) quantiles.clear();
    quantiles.set(key, q);
  }
  return q;
}
