import { tQuantileUpper } from '../distributions/index.ts';
import { energyMean } from './energy.ts';
import { moments } from './moments.ts';
import { type Trim, winsorizedSumOfSquares } from './winsorized.ts';
import { median, medianAbsoluteDeviation, quantile, sorted } from './quantile.ts';
import { roundingVariance } from './step.ts';

/** Location and spread of the readings of one item, all in the readings' unit unless stated. */
export interface Summary {
  n: number;
  mean: number | null;
  sd: number | null;
  /** Standard error of the mean; the winsorized one where a rule always takes from both ends. */
  se: number | null;
  /** Its square, in the square of the unit: what comparisons use. */
  varianceOfMean: number | null;
  /** Degrees of freedom of the standard error. */
  df: number;
  interval: readonly [number, number] | null;
  /** Whether the spread is hidden by the readings' step, so that the step stands in for it. */
  hidden: boolean;
  median: number | null;
  mad: number | null;
  min: number | null;
  max: number | null;
  q1: number | null;
  q3: number | null;
  /** Coefficient of variation, SD over |mean|, a plain ratio. */
  cv: number | null;
}

const finite = (value: number): number | null => (Number.isFinite(value) ? value : null);

export interface SummaryOptions {
  /**
   * Where a rule always cuts from both ends, so that the SD of what is left is too small: then the standard error is
   * s_w/((1 − 2γ)√n) with h − 1 degrees of freedom.
   */
  trim?: Trim | undefined;
  /**
   * “energy”: the readings are levels in decibels; mean, standard error and interval are then those of the mean
   * energy, given as a level.
   */
  average?: 'energy' | undefined;
  /**
   * Step of the readings, in their unit, 0 where none is known. The variance of a reading is never taken as less than
   * step²/12; where the readings spread less than that, the rounding of the mean itself, step²/12, comes on top, since
   * equal readings may all be rounded to the same side.
   */
  step?: number | undefined;
}

/**
 * Summary of the kept readings of one item, with the t interval of the mean.
 * @param kept readings in one unit, n ≥ 0
 * @param alpha 1 − coverage of the interval, 0 < alpha < 1
 * @returns null for what n does not allow, never NaN
 * @source Student (1908); Tukey and McLaughlin (1963), Sankhyā A 25, for the trimmed mean; GUM F.2.2.1 for the step
 * @example summarise([4, 5, 6], 0.05).interval // [2.516, 7.484]
 */
export function summarise(
  kept: ArrayLike<number>,
  alpha: number,
  { trim, average, step = 0 }: SummaryOptions = {},
): Summary {
  const { n, mean: plainMean, sumOfSquares } = moments(kept);
  const ascending = sorted(kept);
  const sd = n > 1 ? Math.sqrt(sumOfSquares / (n - 1)) : Number.NaN;
  const df = Math.max(0, n - 1);
  const floor = roundingVariance(step);
  const hidden = n > 1 && floor > 0 && sd * sd < floor;
  let mean = plainMean;
  let centre = plainMean;
  let variance = (sd * sd) / n;
  if (average === 'energy') {
    const levels = energyMean(ascending, trim);
    mean = levels.mean;
    centre = levels.centre;
    variance = levels.se * levels.se;
  } else if (trim && trim.perEnd > 0 && n > 1) {
    variance = winsorizedSumOfSquares(ascending, trim.perEnd) / (n * (n - 1));
  }
  const varianceOfMean = n > 1 ? Math.max(variance, floor / n) + (hidden ? floor : 0) : Number.NaN;
  let se = Math.sqrt(varianceOfMean);
  if (average !== 'energy' && trim && trim.perEnd > 0 && n > 1) {
    const winsorized = Math.sqrt(winsorizedSumOfSquares(ascending, trim.perEnd) / (trim.of - 1));
    se = Math.max(
      (winsorized * Math.sqrt(trim.of)) / n,
      hidden ? Math.sqrt(floor / n + floor) : Math.sqrt(floor / n),
    );
  }
  const half = n > 1 ? tQuantileUpper(alpha / 2, df) * se : Number.NaN;
  return {
    n,
    mean: finite(mean),
    sd: finite(sd),
    se: finite(se),
    varianceOfMean: finite(varianceOfMean),
    df,
    interval: Number.isFinite(half) ? [centre - half, centre + half] : null,
    hidden,
    median: finite(median(ascending)),
    mad: n > 0 ? medianAbsoluteDeviation(ascending) : null,
    min: n > 0 ? (ascending[0] as number) : null,
    max: n > 0 ? (ascending[n - 1] as number) : null,
    q1: finite(quantile(ascending, 0.25)),
    q3: finite(quantile(ascending, 0.75)),
    cv: mean !== 0 ? finite(sd / Math.abs(mean)) : null,
  };
}
