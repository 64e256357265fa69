import { fUpper } from '../distributions/index.ts';
import { moments } from '../summary/moments.ts';
import { winsorizedSumOfSquares } from '../summary/winsorized.ts';
import { sorted } from '../summary/quantile.ts';
import { fromOneOrigin } from './anova.ts';
import type { Sample } from './sample.ts';

/**
 * Welch's test of equal means, spreads may differ; of trimmed means under a rule that always cuts. Readings are told
 * from one exact origin first.
 * @param samples k ≥ 2 items with two readings or more and some spread each
 * @returns undefined where an item has no spread or a single reading
 * @source Welch (1951), Biometrika 38; trimmed: Yuen (1974)
 */
export function welchAnova(
  samples: readonly Sample[],
): { f: number; df1: number; df2: number; p: number } | undefined {
  const k = samples.length;
  const groups = fromOneOrigin(samples.map(({ kept }) => kept));
  const locations = groups.map((group, i) => {
    const { n, mean, sumOfSquares } = moments(group);
    const perEnd = samples[i]?.trim?.perEnd ?? 0;
    const squares = perEnd > 0 && n > 1 ? winsorizedSumOfSquares(sorted(group), perEnd) : sumOfSquares;
    return { n, mean, varianceOfMean: squares / (n * (n - 1)), df: n - 1 };
  });
  if (k < 2 || locations.some(({ n, varianceOfMean }) => n < 2 || !(varianceOfMean > 0))) return undefined;
  const weights = locations.map(({ varianceOfMean }) => 1 / varianceOfMean);
  const total = weights.reduce((sum, weight) => sum + weight, 0);
  const centre = locations.reduce((sum, { mean }, i) => sum + (weights[i] as number) * mean, 0) / total;
  const between =
    locations.reduce((sum, { mean }, i) => sum + (weights[i] as number) * (mean - centre) ** 2, 0) / (k - 1);
  const spread = locations.reduce(
    (sum, { df }, i) => sum + (1 - (weights[i] as number) / total) ** 2 / df,
    0,
  );
  const df1 = k - 1;
  const df2 = (k * k - 1) / (3 * spread);
  const f = between / (1 + (2 * (k - 2) * spread) / (k * k - 1));
  return { f, df1, df2, p: fUpper(f, df1, df2) };
}
