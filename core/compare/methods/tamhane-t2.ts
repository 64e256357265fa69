import { tQuantileUpper } from '../../distributions/index.ts';
import { levelOfEach } from '../../distributions/several.ts';
import { eachPair } from '../independent.ts';
import type { CriticalAt, PairMethod } from '../method.ts';
import { byT, welch } from '../welch-pair.ts';

/** Half-widths of intervals of m pairs, if each item had n readings of equal spread. */
export const criticalOfPairs = (items: number, alpha: number): CriticalAt => {
  const each = levelOfEach(alpha, (items * (items - 1)) / 2);
  return (n) => {
    const df = 2 * (n - 1);
    return { critical: tQuantileUpper(each / 2, df), df };
  };
};

/**
 * Tamhane's T2: Welch's t with Šidák's correction over all m pairs; Yuen's t under a trimming rule.
 * @source Tamhane (1979), Journal of the American Statistical Association 74; Šidák (1967)
 */
export const tamhaneT2: PairMethod = {
  name: 'tamhane-t2',
  source: 'Tamhane 1979; Šidák 1967',
  label: 'Tamhane’s T2',
  because: 'It allows each item its own spread and keeps its promise with few readings.',
  assumes: 'Readings of different items have nothing in common; what drifts between rounds counts as spread.',
  compare({ samples, alpha }) {
    const m = (samples.length * (samples.length - 1)) / 2;
    return {
      pairs: eachPair({ samples }, (a, b) => {
        const { se, df } = welch(a, b);
        return byT(b.mean - a.mean, se, df, alpha, m);
      }),
      criticalAt: criticalOfPairs(samples.length, alpha),
    };
  },
};
