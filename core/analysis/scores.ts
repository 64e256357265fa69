import type { Scoring } from '../model/study.ts';
import { type ScoreVerdicts, scoreVerdicts } from '../rank/score-verdicts.ts';
import {
  type Scored,
  criterionWeights,
  lacking,
  scoredBy,
  scoredReach,
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

const reachBetween = (least: number | null | undefined, most: number | null | undefined): Reach =>
  least == null || most == null ? null : [least, most];

/** The scores of a class of items. */
export function classScores(basis: ClassBasis, scoring: Scoring): ClassScores {
  const { items, criteria, measurands } = basis;
  const measurandIds = measurands.map(({ id }) => id);
  const weights = criterionWeights(criteria, measurandIds, scoring);
  const shares = sharesOf(measurandIds, scoring);
  const weighed = measurands.filter((_, i) => (shares[i] as number) > 0);
  const notScored = whyNoScore(criteria, weights, scoring);
  const { school } = scoring;
  const values = valuesScored(criteria, weights, scoring.missing);
  const found: Scored =
    notScored === undefined
      ? scoredBy(criteria, weights, school, values)
      : { scaled: [], scores: items.map(() => null), parts: [], order: [] };
  const ends = notScored === undefined ? scoredReach(criteria, weights, school, values) : undefined;
  const { least, most } = ends ?? { least: found, most: found };
  const given = givenOf(basis, weighed, found);
  const [givenLeast, givenMost] = ends
    ? [givenOf(basis, weighed, least), givenOf(basis, weighed, most)]
    : [given, given];
  return {
    ...{ basis, shares, weights, notScored, weighed, given },
    reach: {
      scores: items.map((_, item) => reachBetween(least.scores[item], most.scores[item])),
      given: items.map((_, item) =>
        weighed.map((__, i) => reachBetween(givenLeast[item]?.[i], givenMost[item]?.[i])),
      ),
    },
    isRanged: ends !== undefined,
    missing: items.map((_, item) => [
      ...new Set(lacking(criteria, weights, item).map((i) => criteria[i]?.name ?? '')),
    ]),
    ...found,
  };
}

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
