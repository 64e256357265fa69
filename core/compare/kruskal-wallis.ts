import { chiSquaredUpper } from '../distributions/index.ts';
import { sorted } from '../summary/quantile.ts';

/**
 * Kruskal–Wallis rank test with the correction for ties, p by χ².
 * @param groups readings of each item; k ≥ 2
 * @returns undefined where there are fewer than two items with readings, or all readings are equal
 * @source Kruskal and Wallis (1952), Journal of the American Statistical Association 47
 */
export function kruskalWallis(
  groups: readonly Float64Array[],
): { h: number; df: number; p: number } | undefined {
  const filled = groups.filter((group) => group.length > 0);
  const n = filled.reduce((sum, group) => sum + group.length, 0);
  if (filled.length < 2 || n <= filled.length) return undefined;
  const pooled = new Float64Array(n);
  let offset = 0;
  for (const group of filled) {
    pooled.set(group, offset);
    offset += group.length;
  }
  pooled.sort();
  // One walk through the pooled readings ranks a whole sorted group; ties share their mean rank.
  const ends: number[] = [];
  let ties = 0;
  for (let i = 1; i <= n; i += 1) {
    if (i < n && pooled[i] === pooled[i - 1]) continue;
    const size = i - (ends[ends.length - 1] ?? 0);
    ties += size ** 3 - size;
    ends.push(i);
  }
  const correction = 1 - ties / (n ** 3 - n);
  if (!(correction > 0)) return undefined;
  const centre = (n + 1) / 2;
  let sum = 0;
  for (const group of filled) {
    let deviation = 0;
    let start = 0;
    for (const value of sorted(group)) {
      while ((pooled[(ends[start] as number) - 1] as number) < value) start += 1;
      deviation += ((ends[start - 1] ?? 0) + 1 + (ends[start] as number)) / 2 - centre;
    }
    sum += (deviation * deviation) / group.length;
  }
  const h = ((12 / (n * (n + 1))) * sum) / correction;
  const df = filled.length - 1;
  return { h, df, p: chiSquaredUpper(h, df) };
}
