import { tQuantileUpper } from '../distributions/index.ts';
import { moments } from '../summary/moments.ts';

/** What an item indicated beside what a trusted instrument said, in one unit. */
export interface Pair {
  reference: number;
  indicated: number;
}

/** How well readings agree with a reference. In the readings' unit, but the relative difference, a plain ratio. */
export interface Agreement {
  n: number;
  bias: number;
  meanAbsolute: number;
  /** Mean of |e|/|reference|, references of 0 left out; null where all are 0. */
  meanRelative: number | null;
  /** References of 0, which no relative difference can be taken from. */
  zeros: number;
  rmse: number;
  largest: number;
  /** SD of the errors; null below two pairs. */
  sd: number | null;
  /** Between these, 95 % of errors are expected: bias ± 1.96 SD. */
  limits: readonly [number, number] | null;
  /** Interval of the lower and of the upper limit. */
  limitIntervals: readonly [readonly [number, number], readonly [number, number]] | null;
}

/** Two-sided 95 % of a normal distribution, as Bland and Altman have it. */
const K = 1.96;

/**
 * Agreement of what was indicated with a reference, e = indicated − reference.
 * @param pairs in one unit
 * @param alpha 1 − coverage of the intervals of the limits
 * @returns undefined without a pair
 * @source Bland and Altman (1986), Lancet 327; intervals of the limits: Bland and Altman (1999), Statistical Methods in
 *   Medical Research 8, SE² = SD²·(1/n + 1.96²/(2(n − 1)))
 * @example agreement([{ reference: 10, indicated: 9 }], 0.05)?.meanRelative // 0.1
 */
export function agreement(pairs: readonly Pair[], alpha: number): Agreement | undefined {
  if (pairs.length === 0) return undefined;
  const errors = pairs.map(({ reference, indicated }) => indicated - reference);
  const { n, mean: bias, sumOfSquares } = moments(errors);
  const relative = pairs.flatMap(({ reference }, i) =>
    reference === 0 ? [] : [Math.abs((errors[i] as number) / reference)],
  );
  const sd = n > 1 ? Math.sqrt(sumOfSquares / (n - 1)) : null;
  const low = sd === null ? null : bias - K * sd;
  const high = sd === null ? null : bias + K * sd;
  const half =
    sd === null ? 0 : tQuantileUpper(alpha / 2, n - 1) * sd * Math.sqrt(1 / n + K ** 2 / (2 * (n - 1)));
  return {
    n,
    bias,
    meanAbsolute: moments(errors.map(Math.abs)).mean,
    meanRelative: relative.length > 0 ? moments(relative).mean : null,
    zeros: pairs.length - relative.length,
    rmse: Math.sqrt(moments(errors.map((error) => error * error)).mean),
    largest: errors.reduce((most, error) => (Math.abs(error) > Math.abs(most) ? error : most), 0),
    sd,
    limits: low === null || high === null ? null : [low, high],
    limitIntervals:
      low === null || high === null
        ? null
        : [
            [low - half, low + half],
            [high - half, high + half],
          ],
  };
}
