import type { Scoring } from '../model/study.ts';
import { type ScoreVerdicts, scoreVerdicts } from '../rank/score-verdicts.ts';
import { type Scored, criterionWeights, lacking, scored, sharesOf, whyNoScore } from '../rank/scores.ts';
import { DRAWS } from './draws.ts';
import type { ClassBasis, ScoreBasis } from './score-basis.ts';

/** Scores of a class before anything is drawn: quick enough to follow a hand. */
export interface ClassScores extends Scored {
  basis: ClassBasis;
  /** Share of each measurand, in the order of the basis. */
  shares: number[];
  /** Weight of each criterion. */
  weights: number[];
  /** The measurands that have a weight. */
  weighed: ClassBasis['measurands'];
  /** What each of these gives to each item's score, all its settings together; null where it gives nothing. Rows are items. */
  given: (number | null)[][];
  /** What each item lacks, by the names of the measurands. */
  missing: string[][];
  /** Why nothing is scored, where nothing is. */
  notScored: string | undefined;
}

/** The scores of a class of items. */
export function classScores(basis: ClassBasis, scoring: Scoring): ClassScores {
  const measurandIds = basis.measurands.map(({ id }) => id);
  const weights = criterionWeights(basis.criteria, measurandIds, scoring);
  const shares = sharesOf(measurandIds, scoring);
  const weighed = basis.measurands.filter((_, i) => (shares[i] as number) > 0);
  const notScored = whyNoScore(basis.criteria, weights, scoring);
  const found: Scored =
    notScored === undefined
      ? scored(basis.criteria, weights, scoring)
      : { scaled: [], scores: basis.items.map(() => null), parts: [], order: [] };
  return {
    basis,
    shares,
    weights,
    notScored,
    weighed,
    given: basis.items.map((_, item) =>
      weighed.map(({ id }) => {
        const parts = basis.criteria.flatMap(({ measurandId }, i) =>
          measurandId === id ? (found.parts[i]?.[item] ?? []) : [],
        );
        return parts.length === 0 ? null : parts.reduce((sum, part) => sum + part, 0);
      }),
    ),
    missing: basis.items.map((_, item) => [
      ...new Set(lacking(basis.criteria, weights, item).map((i) => basis.criteria[i]?.name ?? '')),
    ]),
    ...found,
  };
}

/** What the readings support of the scores of a class. */
export const classVerdicts = (
  scores: ClassScores,
  scoring: Scoring,
  { alpha, seed }: Pick<ScoreBasis, 'alpha' | 'seed'>,
): ScoreVerdicts =>
  scoreVerdicts(scores.basis.criteria, scores.weights, scoring, scores, { alpha, seed, draws: DRAWS });
