import { Matrix, solve } from 'ml-matrix';
import { tQuantileUpper } from '../distributions/index.ts';
import { levelOfEach } from '../distributions/several.ts';
import { roundingVariance } from '../summary/step.ts';
import { type RoundDifferences, roundDifferences } from './blocks.ts';
import { spreadOfPair } from './independent.ts';
import { type Comparison, type PairDifference, type PairInput, allPairs, bare } from './method.ts';
import { type Moderation, moderation } from './moderation.ts';
import { type Location, type Sample, locate } from './sample.ts';
import { byT, contrast, welch } from './welch-pair.ts';

/** No item's variance is taken as less than this share of their mean. */
const LEAST_SHARE = 0.1;

/**
 * Variances of the items that fit those of the pairs' differences best, σ_i² + σ_j² ≈ s²_ij by least squares; none
 * below a tenth of their mean.
 * @param pairs each with the variance of its difference
 * @example itemVariances(3, [{ a: 0, b: 1, variance: 3 }, { a: 0, b: 2, variance: 4 }, { a: 1, b: 2, variance: 5 }])
 *   // [1, 2, 3]
 */
export function itemVariances(
  k: number,
  pairs: readonly { a: number; b: number; variance: number }[],
): number[] {
  const left = Matrix.zeros(k, k);
  const right = Matrix.zeros(k, 1);
  for (const { a, b, variance } of pairs) {
    for (const [i, j] of [
      [a, b],
      [b, a],
    ] as const) {
      left.set(i, i, left.get(i, i) + 1);
      left.set(i, j, left.get(i, j) + 1);
      right.set(i, 0, right.get(i, 0) + variance);
    }
  }
  const meanOfAll = pairs.reduce((sum, { variance }) => sum + variance / 2, 0) / pairs.length;
  // Pairs that leave a split open (two items; a chain of them) are pulled towards equal shares, ever so slightly.
  for (let i = 0; i < k; i += 1) {
    left.set(i, i, left.get(i, i) + 1e-9);
    right.set(i, 0, right.get(i, 0) + 1e-9 * meanOfAll);
  }
  const found = solve(left, right).to1DArray();
  return found.map((variance) => Math.max(variance, LEAST_SHARE * meanOfAll));
}

/** Pairs within the rounds that they share, with whatever strength their variances lend each other. */
export function compareInRounds(
  { samples, blocks, alpha }: PairInput,
  lend: (
    variances: readonly number[],
    dfs: readonly number[],
    size: { rounds: number; items: number },
  ) => Moderation,
): Comparison {
  if (!blocks) throw new RangeError('This way of comparing needs two rounds that items share.');
  const k = samples.length;
  const indices = allPairs(k);
  const m = indices.length;
  const step = Math.max(0, ...samples.flatMap((sample) => sample.step ?? []));
  const floor = 2 * roundingVariance(step);
  const shared = indices.map(([a, b]) => roundDifferences(blocks, a, b));
  const spreading = shared.filter(({ variance }) => Math.max(variance, floor) > 0);
  const { lent, s0 } = lend(
    spreading.map(({ variance }) => Math.max(variance, floor)),
    spreading.map(({ n }) => n - 1),
    { rounds: blocks.rounds, items: k },
  );
  const locations = samples.map(locate);
  const pairs = indices.map(([a, b], i): PairDifference => {
    const differences = shared[i] as RoundDifferences;
    const [left, right] = [locations[a] as Location, locations[b] as Location];
    const doubt = left.doubtVariance + right.doubtVariance;
    if (differences.n >= 2) return sharedPair(a, b, differences, { lent, s0, floor, doubt, alpha, m });
    const difference = right.mean - left.mean;
    if (left.n < 2 || right.n < 2) return bare(a, b, difference);
    // Two items that were not read together twice are compared as what they are: independent samples.
    const { se, df } = welch(left, right);
    const tested = byT(difference, se, df, alpha, m);
    return {
      a,
      b,
      difference,
      ...tested,
      ...spreadOfPair(left, right),
      ...(tested.critical === null ? {} : { sum: contrast(left.mean + right.mean, se, tested.critical) }),
    };
  });
  return {
    pairs,
    criticalAt: (n) => {
      const df = lent + n - 1;
      return { critical: tQuantileUpper(levelOfEach(alpha, m) / 2, df), df };
    },
    ...spreadOf(samples, pairs, lent),
  };
}

/**
 * A pair by the rounds that it shares, two at least; one of m that hold at once.
 * @param doubt variance of what corrections leave open about the difference
 */
export function sharedPair(
  a: number,
  b: number,
  { n, mean, variance: observed, sum, sumVariance }: RoundDifferences,
  {
    lent,
    s0,
    floor,
    doubt,
    alpha,
    m,
  }: { lent: number; s0: number; floor: number; doubt: number; alpha: number; m: number },
): PairDifference {
  const ownDf = n - 1;
  const df = lent + ownDf;
  const variance = Math.max(floor, (lent * s0 + ownDf * Math.max(observed, floor)) / df);
  // Where the step hides the spread, rounding does not average out: it comes on top.
  const fixed = (observed < floor ? floor : 0) + doubt;
  const tested = byT(mean, Math.sqrt(variance / n + fixed), df, alpha, m);
  const sumCritical = tQuantileUpper(levelOfEach(alpha, m) / 2, ownDf);
  const sumSe = Math.sqrt(Math.max(sumVariance, floor) / n + (sumVariance < floor ? floor : 0) + doubt);
  return {
    a,
    b,
    difference: mean,
    ...tested,
    variance,
    fixed,
    sum: contrast(sum, sumSe, sumCritical),
    inRounds: true,
  };
}

/** Variance of each item's mean, for draws: its share of the pairs' variances over its readings. */
function spreadOf(
  samples: readonly Sample[],
  pairs: readonly PairDifference[],
  lent: number,
): Pick<Comparison, 'spread'> {
  const known = pairs.flatMap(({ a, b, variance }) => (variance === null ? [] : [{ a, b, variance }]));
  if (known.length === 0) return {};
  const variances = itemVariances(samples.length, known);
  return {
    spread: samples.map(({ summary: { n, hidden }, step = 0, doubt = 0 }, item) => ({
      variance: (variances[item] as number) / n + (hidden ? roundingVariance(step) : 0) + doubt ** 2,
      df: lent + n - 1,
    })),
  };
}

export const lendNothing = (): Moderation => ({ d0: 0, s0: 0, lent: 0 });
export { moderation as lendHalf };
