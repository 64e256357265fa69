import { normalUpper } from '../../distributions/normal.ts';
import { holm } from '../holm.ts';
import { type PairDifference, type PairMethod, allPairs, bare } from '../method.ts';
import { ranks } from '../ranks.ts';
import type { Sample } from '../sample.ts';

/**
 * Dunn's test on mean ranks with Holm's correction. Gives p-values and no interval.
 * @source Dunn (1964), Technometrics 6; Holm (1979), Scandinavian Journal of Statistics 6
 */
export const dunn: PairMethod = {
  name: 'dunn',
  source: 'Dunn 1964; Holm 1979',
  label: 'Dunn',
  because: 'It compares mean ranks only, for readings that are marks in an order.',
  assumes: 'Readings of different items have nothing in common.',
  ranksOnly: true,
  compare({ samples }) {
    const pooled = Float64Array.from(samples.flatMap(({ kept }) => [...kept]));
    const n = pooled.length;
    const ranked = ranks(pooled);
    const variance = (n * (n + 1)) / 12 - ranked.ties / (12 * (n - 1));
    let offset = 0;
    const meanRanks = samples.map(({ kept }) => {
      const ofItem = ranked.ranks.subarray(offset, offset + kept.length);
      offset += kept.length;
      return ofItem.reduce((sum, rank) => sum + rank, 0) / kept.length;
    });
    const pairs = allPairs(samples.length).map(([a, b]): PairDifference => {
      const [left, right] = [samples[a] as Sample, samples[b] as Sample];
      const rankDifference = (meanRanks[b] as number) - (meanRanks[a] as number);
      const difference = (right.summary.mean ?? Number.NaN) - (left.summary.mean ?? Number.NaN);
      const se = Math.sqrt(variance * (1 / left.kept.length + 1 / right.kept.length));
      const p =
        se > 0 && Number.isFinite(se) ? Math.min(1, 2 * normalUpper(Math.abs(rankDifference) / se)) : null;
      return { ...bare(a, b, difference), rankDifference, p };
    });
    const corrected = holm(pairs.map(({ p }) => p));
    return { pairs: pairs.map((pair, i) => ({ ...pair, p: corrected[i] ?? null })), meanRanks };
  },
};
