import { seededRandom } from '../random/seeded.ts';
import { quantile, sorted } from './quantile.ts';

const RESAMPLES = 2000;
/** From so many normal readings on the interval covers the median in 92 to 95 cases of 100, by simulation. */
export const FEWEST_TO_DRAW = 6;

/**
 * Percentile interval of a figure of some readings, by drawing as many of them again with replacement.
 * @param figure of readings in ascending order
 * @param alpha 1 − coverage
 * @returns undefined where there are too few readings
 * @source Efron (1979), Annals of Statistics 7; Efron and Tibshirani (1993), chapter 13
 */
export function bootstrapInterval(
  values: ArrayLike<number>,
  figure: (ascending: Float64Array) => number,
  { alpha, seed }: { alpha: number; seed: number },
): readonly [number, number] | undefined {
  const n = values.length;
  if (n < FEWEST_TO_DRAW) return undefined;
  const random = seededRandom(seed);
  const drawn = new Float64Array(n);
  const figures = new Float64Array(RESAMPLES);
  for (let i = 0; i < RESAMPLES; i += 1) {
    for (let k = 0; k < n; k += 1) drawn[k] = values[random.below(n)] as number;
    figures[i] = figure(drawn.sort());
  }
  const ascending = sorted(figures);
  return [quantile(ascending, alpha / 2), quantile(ascending, 1 - alpha / 2)];
}
