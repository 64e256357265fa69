import { eachPair } from '../independent.ts';
import type { PairMethod } from '../method.ts';
import { byRange, welch } from '../welch-pair.ts';

/**
 * Games–Howell: Welch's t against the studentized range.
 * @source Games and Howell (1976), Journal of Educational Statistics 1
 */
export const gamesHowell: PairMethod = {
  name: 'games-howell',
  source: 'Games and Howell 1976',
  label: 'Games–Howell',
  because: 'It allows each item its own spread and is a little bolder than T2.',
  assumes: 'At least seven readings of each item; with fewer it calls somebody ahead too often.',
  compare: ({ samples, alpha }) => ({
    pairs: eachPair({ samples }, (a, b) => {
      const { se, df } = welch(a, b);
      return byRange(b.mean - a.mean, se, df, samples.length, alpha);
    }),
  }),
};
