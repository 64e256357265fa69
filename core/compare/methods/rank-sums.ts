import { seededRandom } from '../../random/seeded.ts';
import { completeRounds } from '../blocks.ts';
import { type PairDifference, type PairMethod, allPairs, bare } from '../method.ts';
import { ranks } from '../ranks.ts';

/** Shuffles of the ranks within each round; a p of 0.05 is then good to 0.003. */
const SHUFFLES = 5000;
const SEED = 1;

/** How far apart the largest and the smallest rank sum lie when ranks are shuffled within rounds, smallest first. */
function shuffledRanges(rows: readonly Float64Array[], k: number): Float64Array {
  const random = seededRandom(SEED);
  const shuffled = rows.map((row) => row.slice());
  const sums = new Float64Array(k);
  const ranges = new Float64Array(SHUFFLES);
  for (let shuffle = 0; shuffle < SHUFFLES; shuffle += 1) {
    sums.fill(0);
    for (const row of shuffled) {
      for (let last = k - 1; last > 0; last -= 1) {
        const chosen = random.below(last + 1);
        const held = row[last] as number;
        row[last] = row[chosen] as number;
        row[chosen] = held;
      }
      for (let item = 0; item < k; item += 1) sums[item] = (sums[item] as number) + (row[item] as number);
    }
    ranges[shuffle] = Math.max(...sums) - Math.min(...sums);
  }
  return ranges.sort();
}

/**
 * Rank sums within complete rounds, each pair against the largest distance that chance alone brings. The distribution
 * comes from seeded shuffles of the ranks within rounds, so that ties and few rounds are taken as they are.
 * @source Nemenyi (1963), Distribution-free multiple comparisons; as Friedman's test, by permutation
 */
export const rankSums: PairMethod = {
  name: 'rank-sums',
  source: 'Nemenyi 1963; Friedman 1937',
  label: 'Rank sums within rounds',
  because:
    'It ranks the items within each round, so that the mood of a round cancels, and uses their order only.',
  assumes: 'Every item in every round; rounds with a gap are not used.',
  needsRounds: true,
  ranksOnly: true,
  compare({ samples, blocks }) {
    const rows = blocks ? completeRounds(blocks) : [];
    if (rows.length < 2)
      throw new RangeError('“Rank sums within rounds” needs two rounds with every item in them.');
    const k = samples.length;
    const ranked = rows.map((row) => ranks(row).ranks);
    const sums = samples.map((_, item) => ranked.reduce((sum, row) => sum + (row[item] as number), 0));
    const ranges = shuffledRanges(ranked, k);
    const asFarByChance = (distance: number) => {
      // Shuffles whose range reaches the distance, this arrangement among them.
      let low = 0;
      let high = ranges.length;
      while (low < high) {
        const middle = (low + high) >> 1;
        if ((ranges[middle] as number) < distance - 1e-9) low = middle + 1;
        else high = middle;
      }
      return (ranges.length - low + 1) / (ranges.length + 1);
    };
    const pairs = allPairs(k).map(([a, b]): PairDifference => {
      const distance = (sums[b] as number) - (sums[a] as number);
      const difference =
        ((samples[b] as (typeof samples)[number]).summary.mean ?? Number.NaN) -
        ((samples[a] as (typeof samples)[number]).summary.mean ?? Number.NaN);
      return {
        ...bare(a, b, difference),
        rankDifference: distance / rows.length,
        p: asFarByChance(Math.abs(distance)),
        inRounds: true,
      };
    });
    return { pairs, meanRanks: sums.map((sum) => sum / rows.length) };
  },
};
