import { tQuantileUpper } from '../distributions/index.ts';
import { levelOfEach } from '../distributions/several.ts';
import { middleOf } from '../summary/typed.ts';
import { type PairDifference, allPairs, bare } from './method.ts';
import { type Sample, locate } from './sample.ts';
import { byT, contrast, welch } from './welch-pair.ts';

type Interval = readonly [number, number];

/** Where an item lies: its range, or the interval of its mean; undefined of a single reading. */
function reach(sample: Sample, level: number): Interval | undefined {
  const { typed } = sample;
  if (typed?.kind === 'range')
    return [typed.low ?? Number.NEGATIVE_INFINITY, typed.high ?? Number.POSITIVE_INFINITY];
  const { n, mean, varianceOfMean, df } = locate(sample);
  if (n < 2) return undefined;
  const half = tQuantileUpper(level / 2, df) * Math.sqrt(varianceOfMean);
  return [mean - half, mean + half];
}

/**
 * Pairs of which at least one item is known from elsewhere: two summaries by Welch's t with Šidák's correction; a range
 * against anything by what it surely allows, that is by its ends against the interval of the other.
 * @param samples all items
 * @param alpha chance that any of these intervals misses, 0 < alpha < 1
 * @source Welch (1947); Šidák (1967)
 */
export function elsewherePairs(samples: readonly Sample[], alpha: number): PairDifference[] {
  const pairs = allPairs(samples.length).filter(([a, b]) => samples[a]?.typed ?? samples[b]?.typed);
  const m = pairs.length;
  return pairs.map(([a, b]): PairDifference => {
    const [left, right] = [samples[a] as Sample, samples[b] as Sample];
    const ranged = [left, right].some(({ typed }) => typed?.kind === 'range');
    const difference = centreOf(right) - centreOf(left);
    if (ranged) {
      const [from, to] = [reach(left, levelOfEach(alpha, m)), reach(right, levelOfEach(alpha, m))];
      if (!from || !to) return bare(a, b, difference);
      const [low, high] = [to[0] - from[1], to[1] - from[0]];
      const sum = {
        estimate: centreOf(left) + centreOf(right),
        se: 0,
        low: from[0] + to[0],
        high: from[1] + to[1],
      };
      // No spread of its own: the ends of a range are where it ends.
      return { ...bare(a, b, difference), se: 0, low, high, sum };
    }
    const [first, other] = [locate(left), locate(right)];
    if (first.n < 2 || other.n < 2) return bare(a, b, difference);
    const { se, df } = welch(first, other);
    const tested = byT(difference, se, df, alpha, m);
    return {
      ...bare(a, b, difference),
      ...tested,
      ...(tested.critical === null ? {} : { sum: contrast(first.mean + other.mean, se, tested.critical) }),
    };
  });
}

/** What an item is placed by: its mean, or where its range stands. */
export const centreOf = ({ typed, summary }: Sample): number =>
  typed?.kind === 'range' ? middleOf(typed) : (summary.mean ?? Number.NaN);

/** How many readings of an item its verdicts rest on; those of a range need none. */
export const countOf = ({ typed, summary }: Sample): number =>
  typed?.kind === 'range' ? Number.POSITIVE_INFINITY : summary.n;

/** The level of the pairs that were read here, and of those with an item from elsewhere: each its share of all. */
export function sharedLevel(read: number, typed: number, alpha: number): { read: number; elsewhere: number } {
  // Each pair is counted from both of its sides.
  const pairs = (items: number) => items * (items - 1);
  const share = typed === 0 ? 1 : pairs(read) / pairs(read + typed);
  return { read: alpha * share, elsewhere: alpha * (1 - share) };
}
