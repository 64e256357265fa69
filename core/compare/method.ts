import type { PairMethodName } from './method-names.ts';
import type { Blocks } from './blocks.ts';
import type { Sample } from './sample.ts';

/** An estimate with an interval that holds for all pairs of the study at once; in the readings' unit. */
export interface Contrast {
  estimate: number;
  se: number;
  low: number;
  high: number;
}

/** The difference of two items, with an interval that holds for all pairs of the study at once. */
export interface PairDifference {
  /** Indices of the two items. */
  a: number;
  b: number;
  /** b − a, in the readings' unit. */
  difference: number;
  se: number | null;
  df: number | null;
  p: number | null;
  low: number | null;
  high: number | null;
  /** Half-width of the interval in standard errors. */
  critical: number | null;
  /** Variance of the difference of one reading (or one round) of each, in the square of the unit. */
  variance: number | null;
  /** Variance of the difference that more readings would not lessen, in the square of the unit. */
  fixed: number;
  /** a + b, where distances from a target are compared. */
  sum?: Contrast;
  /** b's mean rank less a's, for a method that goes by ranks. */
  rankDifference?: number;
  /** Whether the pair was compared within the rounds that it shares. */
  inRounds?: true;
}

/** What a pairwise method is given. */
export interface PairInput {
  samples: readonly Sample[];
  /** undefined where no two items share two rounds. */
  blocks: Blocks | undefined;
  /** Chance that any of the intervals misses, 0 < alpha < 1. */
  alpha: number;
}

/** Half-width of an interval in standard errors if each item had n readings, and its degrees of freedom. */
export type CriticalAt = (n: number) => { critical: number; df: number };

/** What a method found. */
export interface Comparison {
  pairs: PairDifference[];
  /** undefined where the method gives no intervals. */
  criticalAt?: CriticalAt;
  /** Variance of each item's mean and its degrees of freedom, where the method has its own. */
  spread?: readonly { variance: number; df: number }[];
  /** Mean rank of each item, for a method that goes by ranks. */
  meanRanks?: readonly number[];
}

/** A way to compare pairs. One file each; methods.ts lists them once. */
export interface PairMethod {
  name: PairMethodName;
  label: string;
  /** Who published it, and when. */
  source: string;
  /** Why it is used, in one sentence for the tester. */
  because: string;
  /** What it takes for granted, in one sentence. */
  assumes: string;
  /** Applies only where items share rounds. */
  needsRounds?: true;
  /** Goes by ranks: it can say who is ahead and not by how much. */
  ranksOnly?: true;
  /**
   * @throws RangeError where the readings do not allow it
   */
  compare(input: PairInput): Comparison;
}

/** A pair of which nothing but its difference is known. */
export const bare = (a: number, b: number, difference: number): PairDifference => ({
  a,
  b,
  difference,
  se: null,
  df: null,
  p: null,
  low: null,
  high: null,
  critical: null,
  variance: null,
  fixed: 0,
});

/** Indices of all pairs of k items, in order. */
export function allPairs(k: number): [number, number][] {
  const pairs: [number, number][] = [];
  for (let a = 0; a < k; a += 1) for (let b = a + 1; b < k; b += 1) pairs.push([a, b]);
  return pairs;
}
