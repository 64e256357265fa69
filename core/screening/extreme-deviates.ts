import { tQuantileUpper } from '../distributions/index.ts';
import { moments } from '../summary/moments.ts';
import { sorted } from '../summary/quantile.ts';

/** The most extreme reading of those that remain at one step. */
export interface ExtremeDeviate {
  /** Which of the readings it is. */
  index: () => number;
  /** |x − x̄| / s of the readings that remain. */
  deviate: number;
  /** How many readings remained at this step, this one included. */
  remaining: number;
}

/**
 * Removes the most extreme reading again and again, and says at each step how extreme it was. Sorted once; the
 * sum of squares is taken down as readings go and taken again whenever it has shrunk much, so that one huge
 * reading does not cost the rest its digits.
 * @param values readings of one item, n ≥ 3
 * @yields one deviate a step, until two readings or no spread remain
 */
export function* extremeDeviates(values: ArrayLike<number>): Generator<ExtremeDeviate> {
  const ascending = sorted(values);
  const indexAt = indicesInOrder(values);
  let first = 0;
  let last = ascending.length - 1;
  let anchor = moments(ascending);
  let { mean, sumOfSquares } = anchor;
  while (last - first + 1 >= 3) {
    const remaining = last - first + 1;
    const below = mean - (ascending[first] as number);
    const above = (ascending[last] as number) - mean;
    const sd = Math.sqrt(sumOfSquares / (remaining - 1));
    if (!(sd > 0)) return;
    const takeLow = below > above;
    const deviation = takeLow ? -below : above;
    const place = takeLow ? first : last;
    yield { index: () => indexAt(place), deviate: Math.abs(deviation) / sd, remaining };
    if (takeLow) first += 1;
    else last -= 1;
    mean -= deviation / (remaining - 1);
    sumOfSquares -= (deviation * deviation * remaining) / (remaining - 1);
    if (sumOfSquares < 0.5 * anchor.sumOfSquares) {
      anchor = moments(ascending.subarray(first, last + 1));
      ({ mean, sumOfSquares } = anchor);
    }
  }
}

/** Which reading stands at a place from the smallest to the largest; put in order once it is asked for, which is rare. */
function indicesInOrder(values: ArrayLike<number>): (place: number) => number {
  let order: Uint32Array | undefined;
  return (place) => {
    order ??= Uint32Array.from({ length: values.length }, (_, index) => index).sort(
      (a, b) => (values[a] as number) - (values[b] as number),
    );
    return order[place] as number;
  };
}

/**
 * Two-sided limit of the extreme studentized deviate of n normal readings.
 * @source Grubbs (1969), Technometrics 11; Rosner (1983), Technometrics 25: λ for the readings that remain
 * @example extremeDeviateLimit(8, 0.05) // 2.1266
 */
export function extremeDeviateLimit(n: number, alpha: number): number {
  const t = tQuantileUpper(alpha / (2 * n), n - 2);
  return ((n - 1) / Math.sqrt(n)) * Math.sqrt((t * t) / (n - 2 + t * t));
}
