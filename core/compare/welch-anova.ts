import { fUpper } from '../distributions/index.ts';
import type { Location } from './sample.ts';

/**
 * Welch's test of equal means, spreads may differ.
 * @param locations k ≥ 2 items with two readings or more and some spread each
 * @returns undefined where an item has no spread or a single reading
 * @source Welch (1951), Biometrika 38
 */
export function welchAnova(
  locations: readonly Location[],
): { f: number; df1: number; df2: number; p: number } | undefined {
  const k = locations.length;
  if (k < 2 || locations.some(({ n, varianceOfMean }) => n < 2 || !(varianceOfMean > 0))) return undefined;
  const shift = (locations[0] as Location).mean;
  const weights = locations.map(({ varianceOfMean }) => 1 / varianceOfMean);
  const total = weights.reduce((sum, weight) => sum + weight, 0);
  const centre =
    locations.reduce((sum, { mean }, i) => sum + (weights[i] as number) * (mean - shift), 0) / total;
  const between =
    locations.reduce((sum, { mean }, i) => sum + (weights[i] as number) * (mean - shift - centre) ** 2, 0) /
    (k - 1);
  const spread = locations.reduce(
    (sum, { df }, i) => sum + (1 - (weights[i] as number) / total) ** 2 / df,
    0,
  );
  const df1 = k - 1;
  const df2 = (k * k - 1) / (3 * spread);
  const f = between / (1 + (2 * (k - 2) * spread) / (k * k - 1));
  return { f, df1, df2, p: fUpper(f, df1, df2) };
}
