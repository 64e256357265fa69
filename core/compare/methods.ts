import { dunn } from './methods/dunn.ts';
import { gamesHowell } from './methods/games-howell.ts';
import { ownDifferences } from './methods/own-differences.ts';
import { rankSums } from './methods/rank-sums.ts';
import { rounds } from './methods/rounds.ts';
import { tamhaneT2 } from './methods/tamhane-t2.ts';
import { tukey } from './methods/tukey.ts';
import { withinRounds } from './methods/within-rounds.ts';
import type { PairMethod } from './method.ts';
import type { PairMethodName } from './method-names.ts';

/** Every way to compare pairs, in the order in which they are offered. */
export const METHODS: readonly PairMethod[] = [
  withinRounds,
  ownDifferences,
  rounds,
  tamhaneT2,
  gamesHowell,
  tukey,
  rankSums,
  dunn,
];

/** @throws RangeError for a name that no method has */
export function pairMethod(name: PairMethodName): PairMethod {
  const method = METHODS.find((candidate) => candidate.name === name);
  if (!method) throw new RangeError(`no way of comparing is called “${name}”`);
  return method;
}
