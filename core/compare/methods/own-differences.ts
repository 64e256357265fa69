import { compareInRounds, lendNothing } from '../in-rounds.ts';
import type { PairMethod } from '../method.ts';

/**
 * The paired t-test for each pair by itself, with Šidák's correction.
 * @source Student (1908), Biometrika 6; Šidák (1967)
 */
export const ownDifferences: PairMethod = {
  name: 'own-differences',
  source: 'Student 1908; Šidák 1967',
  label: 'Own differences',
  because: 'Each pair is judged by its own differences within rounds and by nothing else.',
  assumes: 'Nothing, and so it needs many rounds: with four it sees large leads only.',
  needsRounds: true,
  compare: (input) => compareInRounds(input, lendNothing),
};
