import { digamma, trigamma, trigammaInverse } from '../distributions/index.ts';

/** Variances that lend each other strength. */
export interface Moderation {
  /** Degrees of freedom of the prior as the variances suggest it; Infinity where they differ by chance alone. */
  d0: number;
  /** The variance that they share, in the square of the readings' unit. */
  s0: number;
  /** How many degrees of freedom of it are lent to each. */
  lent: number;
}

const mean = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;

/**
 * Most degrees of freedom that are lent in few rounds. An item that scatters widely looks calm in three or four rounds
 * now and then; if others lent it their calm as well, it would be called ahead of them or behind in up to 12 % of
 * studies (our simulation: 12 items in three rounds, one scattering six to ten times as much).
 */
export const mostLent = (rounds: number): number => Math.max(2, 4 * (rounds - 1) - 6);

/**
 * What the variances of the pairs' differences lend each other: a scaled inverse χ² prior by the moments of ln s². Pairs
 * share items, so only half of it is used, and never more than (n − 1)(k − 2) degrees of freedom stand behind it.
 * Two items have nothing to lend; in two rounds of more than six items one odd item would carry the prior, so nothing
 * is lent there either.
 * @param variances of the differences of each pair, above 0, in the square of the readings' unit
 * @param dfs their degrees of freedom, ≥ 1
 * @source Smyth (2004), Statistical Applications in Genetics and Molecular Biology 3, article 3
 */
export function moderation(
  variances: readonly number[],
  dfs: readonly number[],
  { rounds, items }: { rounds: number; items: number },
): Moderation {
  const m = variances.length;
  if (m < 2 || items < 3 || (rounds === 2 && items > 6)) return { d0: 0, s0: 0, lent: 0 };
  const e = variances.map((variance, i) => {
    const half = (dfs[i] as number) / 2;
    return Math.log(variance) - digamma(half) + Math.log(half);
  });
  const centre = mean(e);
  const spread = e.reduce((sum, value) => sum + (value - centre) ** 2, 0) / (m - 1);
  const beyondChance = spread - mean(dfs.map((df) => trigamma(df / 2)));
  const d0 = beyondChance > 0 ? 2 * trigammaInverse(beyondChance) : Number.POSITIVE_INFINITY;
  const s0 = Number.isFinite(d0) ? Math.exp(centre + digamma(d0 / 2) - Math.log(d0 / 2)) : Math.exp(centre);
  const half = Math.min(d0, (rounds - 1) * (items - 2)) / 2;
  return { d0, s0, lent: Math.min(half, mostLent(rounds)) };
}
