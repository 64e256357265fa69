import { moments } from './moments.ts';

/** How many readings were cut from each end of how many, where a rule always cuts. */
export interface Trim {
  perEnd: number;
  of: number;
}

/**
 * Winsorized sum of squares: each cut reading replaced by the nearest kept one.
 * @param ascending the kept readings, smallest first
 * @param perEnd how many were cut at each end
 */
export function winsorizedSumOfSquares(ascending: Float64Array, perEnd: number): number {
  const low = ascending[0] as number;
  const high = ascending[ascending.length - 1] as number;
  const filled = [...Array<number>(perEnd).fill(low), ...ascending, ...Array<number>(perEnd).fill(high)];
  return moments(filled).sumOfSquares;
}
