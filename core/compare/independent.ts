import { type PairDifference, type PairInput, allPairs, bare } from './method.ts';
import { type Location, locate } from './sample.ts';
import { contrast } from './welch-pair.ts';

/** Variance of the difference of one reading each, and what of it more readings would not lessen. */
export const spreadOfPair = (a: Location, b: Location): Pick<PairDifference, 'variance' | 'fixed'> => ({
  variance: (a.varianceOfMean - a.fixed) * a.n + (b.varianceOfMean - b.fixed) * b.n,
  fixed: a.fixed + b.fixed,
});

/** Compares each pair of items with two readings or more, whatever round they were read in. */
export function eachPair(
  { samples }: Pick<PairInput, 'samples'>,
  test: (a: Location, b: Location) => Omit<PairDifference, 'a' | 'b' | 'difference' | 'variance' | 'fixed'>,
): PairDifference[] {
  const locations = samples.map(locate);
  return allPairs(samples.length).map(([a, b]) => {
    const [left, right] = [locations[a] as Location, locations[b] as Location];
    const difference = right.mean - left.mean;
    if (left.n < 2 || right.n < 2) return bare(a, b, difference);
    const tested = test(left, right);
    return {
      a,
      b,
      difference,
      ...tested,
      ...spreadOfPair(left, right),
      ...(tested.se === null || tested.critical === null
        ? {}
        : { sum: contrast(left.mean + right.mean, tested.se, tested.critical) }),
    };
  });
}
