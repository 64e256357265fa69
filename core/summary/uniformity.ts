import { moments } from './moments.ts';
import { sorted } from './quantile.ts';

/** How evenly something is spread over the cells of a grid. Ratios as plain numbers, the rest in per cent. */
export interface Uniformity {
  cells: number;
  mean: number;
  maxToMin: number | null;
  minToMean: number | null;
  /** Coefficient of variation, %. */
  cv: number | null;
  /** Christiansen's coefficient of uniformity, %. */
  christiansen: number | null;
  /** Low-quarter distribution uniformity, %. */
  lowQuarter: number | null;
}

/**
 * Uniformity of a grid of catches or levels; empty cells are left out by the caller.
 * @param cells amounts in one unit, at least one; ratios need a mean above 0
 * @returns undefined without a cell; null for what the amounts do not allow
 * @source Christiansen (1942), University of California Bulletin 670; Merriam and Keller (1978), Farm Irrigation
 *   System Evaluation; ratios of the extremes: common practice, no source
 * @example uniformity([8, 10, 12, 10])?.christiansen // 90
 */
export function uniformity(cells: readonly number[]): Uniformity | undefined {
  const { n, mean, sumOfSquares } = moments(cells);
  if (n === 0) return undefined;
  const ascending = sorted(cells);
  const [low, high] = [ascending[0] as number, ascending[n - 1] as number];
  const positive = mean > 0;
  const deviation = cells.reduce((sum, cell) => sum + Math.abs(cell - mean), 0);
  // The lowest quarter is the lowest n/4 cells; where n is no multiple of four, the last of them counts in part.
  const quarter = n / 4;
  let lowest = 0;
  for (let i = 0; i < quarter; i += 1) lowest += (ascending[i] as number) * Math.min(1, quarter - i);
  return {
    cells: n,
    mean,
    maxToMin: low > 0 ? high / low : null,
    minToMean: positive ? low / mean : null,
    cv: positive && n > 1 ? (100 * Math.sqrt(sumOfSquares / (n - 1))) / mean : null,
    christiansen: positive ? 100 * (1 - deviation / (n * mean)) : null,
    lowQuarter: positive ? (100 * (lowest / quarter)) / mean : null,
  };
}
