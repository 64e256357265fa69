import type { Scoring } from '../model/study.ts';
import { type ScoreVerdicts, scoreVerdicts } from '../rank/score-verdicts.ts';
import { possibleValues } from '../rank/ranges.ts';
import {
  type Scored,
  criterionWeights,
  lacking,
  scoredBy,
  sharesOf,
  valuesScored,
  whyNoScore,
} from '../rank/scores.ts';
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
  /** From where to where scores, and what is given to them, may lie by the ranges that are known of some values. */
  reach: { scores: Reach[]; given: Reach[][] };
  /** Whether a range is known of any value that is scored. */
  isRanged: boolean;
  /** What each item lacks, by the names of the measurands. */
  missing: string[][];
  /** Why nothing is scored, where nothing is. */
  notScored: string | undefined;
}

/** The least and the most that a score may be; null where there is none. */
export type Reach = readonly [number, number] | null;

function reachOf(cases: readonly (number | null | undefined)[]): Reach {
  const known = cases.flatMap((value) => value ?? []);
  return known.length === 0 ? null : [Math.min(...known), Math.max(...known)];
}

/** The scores of a class of items. */
export function classScores(basis: ClassBasis, scoring: Scoring): ClassScores {
  const { items, criteria, measurands } = basis;
  const measurandIds = measurands.map(({ id }) => id);
  const weights = criterionWeights(criteria, measurandIds, scoring);
  const shares = sharesOf(measurandIds, scoring);
  const weighed = measurands.filter((_, i) => (shares[i] as number) > 0);
  const notScored = whyNoScore(criteria, weights, scoring);
  const cases =
    notScored === undefined
      ? scoredCases(basis, weights, scoring)
      : [{ scaled: [], scores: items.map(() => null), parts: [], order: [] }];
  const given = cases.map((found) => givenOf(basis, weighed, found));
  return {
    ...{ basis, shares, weights, notScored, weighed },
    given: given[0] ?? [],
    reach: {
      scores: items.map((_, item) => reachOf(cases.map(({ scores }) => scores[item]))),
      given: items.map((_, item) => weighed.map((__, i) => reachOf(given.map((rows) => rows[item]?.[i])))),
    },
    isRanged: cases.length > 1,
    missing: items.map((_, item) => [
      ...new Set(lacking(criteria, weights, item).map((i) => criteria[i]?.name ?? '')),
    ]),
    ...(cases[0] as Scored),
  };
}

/** The scores as they stand, and behind them as they may be by the ranges that are known of some values. */
const scoredCases = (
  { criteria }: ClassBasis,
  weights: readonly number[],
  { school, missing }: Scoring,
): Scored[] =>
  possibleValues(criteria, weights, valuesScored(criteria, weights, missing)).map((values) =>
    scoredBy(criteria, weights, school, values),
  );

/** What each measurand gives to each item, all its settings together. */
const givenOf = (
  { items, criteria }: ClassBasis,
  weighed: ClassBasis['measurands'],
  { parts }: Scored,
): (number | null)[][] =>
  items.map((_, item) =>
    weighed.map(({ id }) => {
      const ofMeasurand = criteria.flatMap(({ measurandId }, i) =>
        measurandId === id ? (parts[i]?.[item] ?? []) : [],
      );
      return ofMeasurand.length === 0 ? null : ofMeasurand.reduce((sum, part) => sum + part, 0);
    }),
  );

/** What the readings support of the scores of a class. */
export const classVerdicts = (
  scores: ClassScores,
  scoring: Scoring,
  { alpha, seed }: Pick<ScoreBasis, 'alpha' | 'seed'>,
): ScoreVerdicts =>
  scoreVerdicts(scores.basis.criteria, scores.weights, scoring, scores, { alpha, seed, draws: DRAWS });
