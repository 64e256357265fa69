import { chiSquaredUpper, fUpper } from '../distributions/index.ts';
import { moments } from '../summary/moments.ts';
import { ranks } from './ranks.ts';

/** Readings in complete rounds: one row a round, one column an item, no cell empty. */
export type CompleteRounds = readonly Float64Array[];

export interface BlockedAnova {
  f: number | null;
  df1: number;
  df2: number;
  p: number | null;
  msResidual: number;
}

/**
 * Item effects within rounds: two-way analysis of variance without interaction.
 * @param rounds b ≥ 2 rounds of k ≥ 2 items
 * @returns mean square of the residual in the readings' unit squared; f null where there is no residual spread
 * @source Fisher (1935), randomized blocks; example of Hollander and Wolfe (1973) as in R's friedman.test
 */
export function blockedAnova(rounds: CompleteRounds): BlockedAnova | undefined {
  const b = rounds.length;
  const k = rounds[0]?.length as number;
  if (b < 2 || k < 2) return undefined;
  // Taking each round's mean off removes the rounds; what is left are item effects and residuals.
  const centres = rounds.map((round) => moments(round).mean);
  const effects = new Float64Array(k);
  rounds.forEach((round, r) => {
    for (let item = 0; item < k; item += 1) {
      effects[item] = (effects[item] as number) + ((round[item] as number) - (centres[r] as number)) / b;
    }
  });
  let ssResidual = 0;
  rounds.forEach((round, r) => {
    for (let item = 0; item < k; item += 1) {
      ssResidual += ((round[item] as number) - (centres[r] as number) - (effects[item] as number)) ** 2;
    }
  });
  const ssItems = b * effects.reduce((sum, effect) => sum + effect ** 2, 0);
  const df1 = k - 1;
  const df2 = (b - 1) * (k - 1);
  const msResidual = ssResidual / df2;
  const f = msResidual > 0 ? ssItems / df1 / msResidual : null;
  return { f, df1, df2, p: f === null ? null : fUpper(f, df1, df2), msResidual };
}

/**
 * Friedman's rank test with the correction for ties, p by χ².
 * @source Friedman (1937), Journal of the American Statistical Association 32; Hollander and Wolfe (1973)
 */
export function friedman(rounds: CompleteRounds): { chiSquared: number; df: number; p: number } | undefined {
  const b = rounds.length;
  const k = rounds[0]?.length as number;
  if (b < 2 || k < 2) return undefined;
  const sums = new Float64Array(k);
  let ties = 0;
  for (const round of rounds) {
    const ranked = ranks(round);
    ties += ranked.ties;
    for (let item = 0; item < k; item += 1)
      sums[item] = (sums[item] as number) + (ranked.ranks[item] as number);
  }
  const centre = (b * (k + 1)) / 2;
  const spread = sums.reduce((sum, rankSum) => sum + (rankSum - centre) ** 2, 0);
  const scale = b * k * (k + 1) - ties / (k - 1);
  if (!(scale > 0)) return undefined;
  const chiSquared = (12 * spread) / scale;
  return { chiSquared, df: k - 1, p: chiSquaredUpper(chiSquared, k - 1) };
}
