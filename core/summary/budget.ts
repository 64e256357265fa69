import { tQuantileUpper } from '../distributions/index.ts';
import type { Static } from 'typebox';
import type { Instrument } from '../model/parts.ts';
import type { Summary } from './summary.ts';

/** What a mean is uncertain by, each as a standard uncertainty in the readings' unit. */
export interface Budget {
  /** s/√n; null with one reading, which shows no spread. */
  repeatability: number | null;
  /** The step's, a/√12: rounding does not average out. */
  resolution: number;
  /** The stated accuracy as a rectangle, /√3; null where none is stated. */
  accuracy: number | null;
  /** What corrections leave open: an estimated ambient, a calibration that may be off; 0 where there are none. */
  corrections: number;
  /** All of them together. */
  combined: number;
  /** Welch–Satterthwaite; Infinity where only what is stated counts. */
  df: number;
  /** U = k·u at the coverage asked for. */
  expanded: number;
  k: number;
  /** What to improve first. */
  largest: 'repeatability' | 'resolution' | 'accuracy' | 'corrections';
}

/** What is stated of an instrument. */
export type Stated = Pick<Static<typeof Instrument>, 'accuracyPercent' | 'accuracyConstant'>;

/**
 * The uncertainty of a mean: its spread, the step of the readings, what the instrument may be off by, and what corrections
 * leave open.
 * @param summary of the readings that count
 * @param step of the readings, in their unit; 0 where none is known
 * @param alpha 1 − coverage of the expanded uncertainty
 * @param corrections standard uncertainty that corrections leave, in the readings' unit
 * @returns undefined without a reading, and where nothing is known to be uncertain
 * @source GUM, JCGM 100:2008, 4.2.3, 4.3.7, F.2.2.1, 5.1.2, G.4.1
 * @example mean 100 of n = 4 with s = 2, step 1, ± 3 %: u = √(1² + 0.289² + 1.732²) = 2.02
 */
export function uncertaintyBudget(
  { n, mean, se, df, hidden, varianceOfMean }: Summary,
  instrument: Stated,
  step: number,
  alpha: number,
  corrections = 0,
): Budget | undefined {
  if (mean === null) return undefined;
  const resolution = step / Math.sqrt(12);
  // Where the step hides the spread it is in the standard error already.
  const spread =
    hidden && varianceOfMean !== null ? Math.sqrt(Math.max(0, varianceOfMean - resolution ** 2)) : se;
  const { accuracyPercent, accuracyConstant } = instrument;
  const accuracy =
    accuracyPercent === null && accuracyConstant === null
      ? null
      : (((accuracyPercent ?? 0) / 100) * Math.abs(mean) + (accuracyConstant ?? 0)) / Math.sqrt(3);
  const combined = Math.hypot(spread ?? 0, resolution, accuracy ?? 0, corrections);
  if (combined === 0 && (n < 2 || spread === null)) return undefined;
  const effective =
    spread !== null && spread > 0 && df > 0 ? (df * combined ** 4) / spread ** 4 : Number.POSITIVE_INFINITY;
  const k = tQuantileUpper(alpha / 2, effective);
  const largest = (
    [
      ['repeatability', spread ?? 0],
      ['resolution', resolution],
      ['accuracy', accuracy ?? 0],
      ['corrections', corrections],
    ] as const
  ).reduce((most, part) => (part[1] > most[1] ? part : most))[0];
  return {
    ...{ repeatability: spread, resolution, accuracy, corrections, combined },
    ...{ df: effective, expanded: k * combined, k, largest },
  };
}
