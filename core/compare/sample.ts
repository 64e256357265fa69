import type { Summary } from '../summary/summary.ts';
import { type Trim, winsorizedSumOfSquares } from '../summary/winsorized.ts';
import { sorted } from '../summary/quantile.ts';

/** The kept readings of one item, ready to be compared. */
export interface Sample {
  item: string;
  kept: Float64Array;
  summary: Summary;
  trim?: Trim | undefined;
  /** “energy”: levels in decibels, whose mean is that of their energies. */
  average?: 'energy' | undefined;
}

/** What a pairwise method needs of an item: its location, the variance of that, and the degrees of freedom. */
export interface Location {
  n: number;
  mean: number;
  varianceOfMean: number;
  df: number;
}

/**
 * Location of one item: mean and s²/n; under a rule that always cuts from both ends, the trimmed mean and
 * Yuen's (n − 1)s_w²/(h(h − 1)) with h − 1 degrees of freedom.
 * Levels in decibels: the energy mean and the square of its standard error.
 * @source Welch (1947); Yuen (1974), Biometrika 61
 */
export function locate({ kept, summary, trim, average }: Sample): Location {
  const { n, mean, sd, se } = summary;
  if (average === 'energy') {
    return { n, mean: mean ?? Number.NaN, varianceOfMean: (se ?? Number.NaN) ** 2, df: n - 1 };
  }
  if (trim && trim.perEnd > 0 && n > 1) {
    const varianceOfMean = winsorizedSumOfSquares(sorted(kept), trim.perEnd) / (n * (n - 1));
    return { n, mean: mean ?? Number.NaN, varianceOfMean, df: n - 1 };
  }
  return { n, mean: mean ?? Number.NaN, varianceOfMean: (sd ?? Number.NaN) ** 2 / n, df: n - 1 };
}
