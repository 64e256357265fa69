import { moments } from './moments.ts';

/** What is cut from each end. */
const TRIMMED_SHARE = 0.1;

/** How many of n readings are cut from each end: a share such as 0.29 of 100 is 29, whatever the binary digits say. */
export const cutPerEnd = (n: number, share = TRIMMED_SHARE): number => Math.floor(share * n + 1e-9);

/**
 * Mean of what is left when a tenth of the readings is left out at each end, ⌊n/10⌋ of them.
 * @param ascending in ascending order
 * @source Tukey and McLaughlin (1963), Sankhyā A 25
 * @example trimmedMean(Float64Array.of(1, 2, 3, 4, 5, 6, 7, 8, 9, 100)) // 5.5
 */
export function trimmedMean(ascending: Float64Array): number {
  const cut = cutPerEnd(ascending.length);
  return moments(ascending.subarray(cut, ascending.length - cut)).mean;
}
