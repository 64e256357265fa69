import { compareInRounds, lendHalf } from '../in-rounds.ts';
import type { PairMethod } from '../method.ts';

/**
 * Pairs within the rounds that they share, with moderated variances and Šidák's correction; for two items the paired
 * t-test. A pair that does not share two rounds is compared by Welch's t.
 * @source Smyth (2004), Statistical Applications in Genetics and Molecular Biology 3, half of the prior
 */
export const withinRounds: PairMethod = {
  name: 'within-rounds',
  source: 'Smyth 2004; Šidák 1967',
  label: 'Within rounds',
  because:
    'Readings of one round share what drifts, so it cancels; the pairs’ spreads lend each other strength.',
  assumes: 'Nothing about equal spreads: each pair has its own.',
  needsRounds: true,
  compare: (input) => compareInRounds(input, lendHalf),
};
