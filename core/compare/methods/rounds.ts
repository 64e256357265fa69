import { moments } from '../../summary/moments.ts';
import { roundingVariance } from '../../summary/step.ts';
import { completeRounds } from '../blocks.ts';
import { blockedAnova } from '../complete-rounds.ts';
import { type PairDifference, type PairMethod, allPairs } from '../method.ts';
import { rangeCritical } from '../../distributions/range.ts';
import { byRange, contrast } from '../welch-pair.ts';

/**
 * Differences within complete rounds: the studentized range on the residual of the two-way analysis.
 * @source Tukey (1953); randomized blocks, Fisher (1935)
 */
export const rounds: PairMethod = {
  name: 'rounds',
  source: 'Tukey 1953; Fisher 1935',
  label: 'Rounds, one spread for all',
  because: 'What drifted between rounds cancels, and all items share one spread.',
  assumes: 'All items scatter alike. Where one scatters more, false winners come in up to 25 % of studies.',
  needsRounds: true,
  compare({ samples, blocks, alpha }) {
    const rows = blocks ? completeRounds(blocks) : [];
    const residual = blockedAnova(rows);
    if (!residual)
      throw new RangeError('“Rounds, one spread for all” needs two rounds with every item in them.');
    const k = samples.length;
    const floor = roundingVariance(Math.max(0, ...samples.map(({ step = 0 }) => step)));
    const variance = 2 * Math.max(residual.msResidual, floor);
    const doubts = samples.map(({ doubt = 0 }) => doubt ** 2);
    const means = samples.map((_, item) => moments(rows.map((row) => row[item] as number)).mean);
    const pairs = allPairs(k).map(([a, b]): PairDifference => {
      const [left, right] = [means[a] as number, means[b] as number];
      const fixed = (doubts[a] as number) + (doubts[b] as number);
      const se = Math.sqrt(variance / rows.length + fixed);
      const tested = byRange(right - left, se, residual.df2, k, alpha);
      return {
        a,
        b,
        difference: right - left,
        ...tested,
        variance,
        fixed,
        inRounds: true,
        ...(tested.critical === null ? {} : { sum: contrast(left + right, se, tested.critical) }),
      };
    });
    return {
      pairs,
      criticalAt: (n) => {
        const df = (n - 1) * (k - 1);
        return { critical: df < 2 ? Number.POSITIVE_INFINITY : rangeCritical(alpha, k, df), df };
      },
      spread: doubts.map((doubt) => ({
        variance: variance / 2 / rows.length + doubt,
        df: residual.df2,
      })),
    };
  },
};
