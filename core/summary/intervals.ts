import { chiSquaredQuantileUpper, chiSquaredQuantileLower } from '../distributions/index.ts';
import { normalQuantileUpper } from '../distributions/normal.ts';

/**
 * Wilson's interval for a share of counts, without a correction for continuity.
 * @param hits of `of`, 0 ≤ hits ≤ of, of ≥ 1
 * @param alpha 1 − coverage
 * @returns low and high as shares from 0 to 1
 * @source Wilson (1927), Journal of the American Statistical Association 22
 * @example wilsonInterval(8, 10, 0.05) // [0.490, 0.943]
 */
export function wilsonInterval(hits: number, of: number, alpha: number): readonly [number, number] {
  const z = normalQuantileUpper(alpha / 2);
  const share = hits / of;
  const scale = 1 + (z * z) / of;
  const centre = (share + (z * z) / (2 * of)) / scale;
  const half = (z / scale) * Math.sqrt((share * (1 - share)) / of + (z * z) / (4 * of * of));
  return [hits === 0 ? 0 : Math.max(0, centre - half), hits === of ? 1 : Math.min(1, centre + half)];
}

/**
 * Exact interval for the mean of a Poisson count.
 * @param count events seen, a whole number ≥ 0
 * @source Garwood (1936), Biometrika 28: quantiles of χ² with 2c and 2c + 2 degrees of freedom
 * @example poissonInterval(10, 0.05) // [4.795, 18.390]
 */
export function poissonInterval(count: number, alpha: number): readonly [number, number] {
  return [
    count === 0 ? 0 : chiSquaredQuantileLower(alpha / 2, 2 * count) / 2,
    chiSquaredQuantileUpper(alpha / 2, 2 * count + 2) / 2,
  ];
}
