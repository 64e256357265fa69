/** What is known of two means together. */
export interface MeanPair {
  /** The mean that is compared with, above 0, and the other one; same unit. */
  of: number;
  mean: number;
  /** Variances of the two means and of their difference, in the square of the unit. */
  varianceOf: number;
  variance: number;
  varianceOfDifference: number;
}

/**
 * By how many per cent a mean differs from another, with the interval of their ratio by Fieller's theorem; what the two
 * share, such as rounds, follows from the variance of their difference.
 * @param critical half-width of the interval of the difference in standard errors
 * @returns per cent of the other mean; no interval where the other mean is not told from 0
 * @source Fieller (1954), Journal of the Royal Statistical Society B 16
 * @example percentOf({ of: 2, mean: 3, varianceOf: 0, variance: 0.01, varianceOfDifference: 0.01 }, 2)
 *   // { percent: 50, interval: [40, 60] }
 */
export function percentOf(
  { of, mean, varianceOf, variance, varianceOfDifference }: MeanPair,
  critical: number,
): { percent: number; interval: readonly [number, number] | null } {
  const percent = 100 * (mean / of - 1);
  const squared = critical * critical;
  const covariance = (varianceOf + variance - varianceOfDifference) / 2;
  const a = of * of - squared * varianceOf;
  const b = of * mean - squared * covariance;
  const c = mean * mean - squared * variance;
  const discriminant = b * b - a * c;
  if (!(a > 0) || !(discriminant >= 0)) return { percent, interval: null };
  const half = Math.sqrt(discriminant);
  return { percent, interval: [100 * ((b - half) / a - 1), 100 * ((b + half) / a - 1)] };
}
