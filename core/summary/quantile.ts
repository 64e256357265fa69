/** A sorted copy, smallest first. */
export function sorted(values: ArrayLike<number>): Float64Array {
  return new Float64Array(values).sort();
}

/**
 * Quantile by linear interpolation between order statistics (type 7, the default of R).
 * @param ascending readings sorted smallest first, n ≥ 1
 * @param probability 0 to 1
 * @returns in the readings' unit; NaN when there are none
 * @source Hyndman and Fan (1996), The American Statistician 50, definition 7
 * @example quantile([1, 2, 3, 4], 0.25) // 1.75
 */
export function quantile(ascending: ArrayLike<number>, probability: number): number {
  const n = ascending.length;
  if (n === 0) return Number.NaN;
  const place = (n - 1) * probability;
  const below = Math.floor(place);
  const low = ascending[below] as number;
  const high = ascending[Math.min(below + 1, n - 1)] as number;
  return low + (place - below) * (high - low);
}

/** Median of readings sorted smallest first. */
export const median = (ascending: ArrayLike<number>): number => quantile(ascending, 0.5);

/**
 * Median absolute deviation from the median, not scaled.
 * @source Hampel (1974), Journal of the American Statistical Association 69
 */
export function medianAbsoluteDeviation(ascending: ArrayLike<number>): number {
  const centre = median(ascending);
  const deviations = new Float64Array(ascending.length);
  for (let i = 0; i < deviations.length; i += 1) deviations[i] = Math.abs((ascending[i] as number) - centre);
  return median(deviations.sort());
}
