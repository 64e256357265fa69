import { roundingVariance } from '../summary/step.ts';
import type { Summary } from '../summary/summary.ts';
import type { Typed } from '../summary/typed.ts';
import type { Trim } from '../summary/winsorized.ts';

/** The kept readings of one item, ready to be compared. */
export interface Sample {
  item: string;
  kept: Float64Array;
  summary: Summary;
  /** Step of the readings, in their unit; 0 where none is known. */
  step?: number;
  trim?: Trim | undefined;
  /** What corrections leave open, as a standard uncertainty in the readings' unit that is not shared by what it is compared with. */
  doubt?: number;
  /** “energy”: levels in decibels, whose mean is that of their energies. */
  average?: 'energy' | undefined;
  /** Known from elsewhere in place of readings. */
  typed?: Typed | undefined;
}

/** What a pairwise method needs of an item: its location, the variance of that, and the degrees of freedom. */
export interface Location {
  n: number;
  mean: number;
  varianceOfMean: number;
  /**
   * The part of it that more readings would not lessen: the rounding of the mean, where the step hides the spread, and
   * what corrections leave open.
   */
  fixed: number;
  /** What corrections leave open, which is no spread of the readings. */
  doubtVariance: number;
  df: number;
}

/**
 * Location of one item: mean and the square of its standard error, which is Yuen's under a rule that always cuts from
 * both ends, that of the energies for levels, and never less than the readings' step allows (see summarise). What corrections
 * leave open comes on top.
 * @source Welch (1947); Yuen (1974), Biometrika 61
 */
export function locate({ summary, step = 0, doubt = 0 }: Sample): Location {
  const { n, mean, varianceOfMean, hidden } = summary;
  const doubtVariance = doubt ** 2;
  return {
    n,
    mean: mean ?? Number.NaN,
    varianceOfMean: (varianceOfMean ?? Number.NaN) + doubtVariance,
    fixed: (hidden ? roundingVariance(step) : 0) + doubtVariance,
    doubtVariance,
    df: n - 1,
  };
}
