/**
 * Mean and centred sum of squares, in two passes: the mean is corrected by the mean of the residuals, and the
 * sum of squares by the residual sum, so that readings with many leading digits in common keep their digits.
 * @param values readings, any unit, n ≥ 1
 * @returns mean in the readings' unit, sum of squared deviations in its square; NaN mean when n is 0
 * @source Chan, Golub and LeVeque (1983), The American Statistician 37, corrected two-pass algorithm
 * @example moments([1, 2, 3]) // { n: 3, mean: 2, sumOfSquares: 2 }
 */
export function moments(values: ArrayLike<number>): { n: number; mean: number; sumOfSquares: number } {
  const n = values.length;
  if (n === 0) return { n, mean: Number.NaN, sumOfSquares: 0 };
  const shift = values[0] as number;
  let sum = 0;
  for (let i = 0; i < n; i += 1) sum += (values[i] as number) - shift;
  const centre = shift + sum / n;
  let residual = 0;
  let squares = 0;
  for (let i = 0; i < n; i += 1) {
    const deviation = (values[i] as number) - centre;
    residual += deviation;
    squares += deviation * deviation;
  }
  return { n, mean: centre + residual / n, sumOfSquares: Math.max(0, squares - (residual * residual) / n) };
}
