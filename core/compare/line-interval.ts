/** Where the points lie, and how far from the line. */
export interface LineSpread {
  n: number;
  meanX: number;
  sumOfSquaresX: number;
  /** Residual standard deviation, in the unit of y. */
  residual: number;
  /** Half-width of an interval in standard errors. */
  critical: number;
}

/**
 * Where the line itself lies at x, with the coverage that it was fitted with.
 * @source confidence band of a mean response, point by point: Working and Hotelling (1929), Journal of the American
 *   Statistical Association 24, with Student’s t at each x
 */
export function lineInterval(
  { slope, intercept }: { slope: number; intercept: number },
  { n, meanX, sumOfSquaresX, residual, critical }: LineSpread,
  x: number,
): readonly [number, number] {
  const onLine = intercept + slope * x;
  const half = critical * residual * Math.sqrt(1 / n + (x - meanX) ** 2 / sumOfSquaresX);
  return [onLine - half, onLine + half];
}
