import { type Better, merit } from './better.ts';
import type { PairDifference } from './pairs.ts';

export type VerdictWord = 'a ahead' | 'b ahead' | 'same' | 'not settled' | 'too few';
export type Matters = 'yes' | 'no' | 'unsure';

export interface Verdict {
  verdict: VerdictWord;
  /** Whether the difference is beyond the margin. */
  matters: Matters;
  /** Interval of a's advantage over b in the better direction; null where there is none. */
  advantage: readonly [number, number] | null;
  /** a's advantage by the means. */
  lead: number;
}

export interface VerdictInput {
  pair: PairDifference;
  means: readonly [number, number];
  /** Kept readings of a and of b. */
  counts: readonly [number, number];
  better: Better;
  /** Smallest difference that matters, in the readings' unit, ≥ 0. */
  margin: number;
  alpha: number;
  /** Expanded uncertainty of one reading of the instrument, where it is stated. */
  instrumentUncertainty?: number | undefined;
}

/**
 * What the readings support about two items, from the simultaneous interval D of a's advantage and the margin M:
 * the same if D lies within (−M, M); else ahead if D excludes 0, and it matters if D lies beyond M; else not
 * settled. With a single reading the instrument's uncertainty U decides (ahead if |d| > √2·U), or nothing does.
 * Near a target, D is the difference of the two distances, with the interval's own half-width.
 * @source interval inclusion for equivalence: Schuirmann (1987); comparison of two results: GUM, JCGM 100
 */
export function verdictOf(input: VerdictInput): Verdict {
  const { pair, means, counts, better, margin, alpha, instrumentUncertainty } = input;
  const lead = merit(means[0], better) - merit(means[1], better);
  const ahead = (value: number): VerdictWord => (value > 0 ? 'a ahead' : 'b ahead');
  if (Math.min(...counts) < 2) {
    const clear = instrumentUncertainty !== undefined && Math.abs(lead) > Math.SQRT2 * instrumentUncertainty;
    return { verdict: clear ? ahead(lead) : 'too few', matters: 'unsure', advantage: null, lead };
  }
  if (pair.low === null || pair.high === null) {
    // A rank test gives no interval: it can say who is ahead, not whether by more than the margin.
    const settled = pair.p !== null && pair.p < alpha && lead !== 0;
    return { verdict: settled ? ahead(lead) : 'not settled', matters: 'unsure', advantage: null, lead };
  }
  const half = (pair.high - pair.low) / 2;
  const advantage = [lead - half, lead + half] as const;
  const [low, high] = advantage;
  if (low > -margin && high < margin) return { verdict: 'same', matters: 'no', advantage, lead };
  if (low > 0 || high < 0) {
    const beyond = low >= 0 ? low : -high;
    return { verdict: ahead(lead), matters: beyond > margin ? 'yes' : 'unsure', advantage, lead };
  }
  return { verdict: 'not settled', matters: 'unsure', advantage, lead };
}
