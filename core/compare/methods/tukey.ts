import { eachPair } from '../independent.ts';
import type { PairMethod } from '../method.ts';
import { locate } from '../sample.ts';
import { byRange } from '../welch-pair.ts';

/**
 * Tukey's honestly significant difference, equal spread assumed (Tukey–Kramer where counts differ).
 * @source Tukey (1953); Kramer (1956), Biometrics 12
 */
export const tukey: PairMethod = {
  name: 'tukey',
  source: 'Tukey 1953; Kramer 1956',
  label: 'Tukey’s HSD',
  because: 'It pools the spread of all items, which helps where each has few readings.',
  assumes: 'All items scatter alike. Where they do not, it calls winners that are none.',
  compare({ samples, alpha }) {
    const locations = samples.map(locate);
    const df = locations.reduce((sum, { n }) => sum + Math.max(0, n - 1), 0);
    const pooled =
      locations.reduce(
        (sum, { n, varianceOfMean, doubtVariance }) =>
          sum + (n > 1 ? (n - 1) * n * (varianceOfMean - doubtVariance) : 0),
        0,
      ) / df;
    return {
      pairs: eachPair({ samples }, (a, b) => {
        const variance = pooled * (1 / a.n + 1 / b.n) + a.doubtVariance + b.doubtVariance;
        return byRange(b.mean - a.mean, Math.sqrt(variance), df, samples.length, alpha);
      }),
    };
  },
};
