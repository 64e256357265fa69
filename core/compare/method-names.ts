/** The ways to compare pairs, without their computation, so that a page or a command can list them. */
export const PAIR_METHODS = [
  'within-rounds',
  'own-differences',
  'rounds',
  'tamhane-t2',
  'games-howell',
  'tukey',
  'rank-sums',
  'dunn',
] as const;
export type PairMethodName = (typeof PAIR_METHODS)[number];
