import { type Better, merit } from '../compare/better.ts';
import type { Scoring } from '../model/study.ts';
import type { MISSING_VALUES, SCORING_SCHOOLS } from '../model/words.ts';
import { moments } from '../summary/moments.ts';
import { type RangedValues, type Values, possibleValues } from './ranges.ts';

export type ScoringSchool = (typeof SCORING_SCHOOLS)[number];
export type MissingValues = (typeof MISSING_VALUES)[number];

/** A school of scoring, in words for the tester. */
export interface ScoringWords {
  name: ScoringSchool;
  label: string;
  /** How a value becomes a score. */
  how: string;
  /** What it is good for, and what it hides. */
  when: string;
}

export const SCORING_WORDS: readonly ScoringWords[] = [
  {
    name: 'span',
    label: 'Span',
    how: 'The best of the items gets 1, the worst 0, the others by where they lie between.',
    when: 'Suits any measurand. An item far off squeezes the others together.',
  },
  {
    name: 'ratio',
    label: 'Ratio to the best',
    how: 'The best gets 1, half as good gets 0.5.',
    when: 'Keeps the proportions. Needs values with a true zero: no temperatures, no decibels.',
  },
  {
    name: 'standard',
    label: 'Standard score',
    how: 'How many standard deviations of the items’ means an item lies above their average.',
    when: 'Measurands with much and little between the items count alike.',
  },
  {
    name: 'points',
    label: 'Points by place',
    how: 'The first of six gets 6 points, the last 1; equal ones share.',
    when: 'Suits marks. A hair’s breadth counts as much as a mile.',
  },
];

/** One thing that a score is made of: a measurand at one setting. */
export interface Criterion extends RangedValues {
  measurandId: string;
}

/** Weight of each measurand as a share of all, in the order given; all weigh the same where nothing is said. */
export function sharesOf(measurandIds: readonly string[], { weights }: Pick<Scoring, 'weights'>): number[] {
  const said = measurandIds.map((id) =>
    weights.reduce((sum, { measurandId, weight }) => sum + (measurandId === id ? weight : 0), 0),
  );
  const all = said.reduce((sum, weight) => sum + weight, 0);
  if (weights.every(({ measurandId }) => !measurandIds.includes(measurandId)))
    return said.map(() => 1 / measurandIds.length);
  return all > 0 ? said.map((weight) => weight / all) : said;
}

/** Shares with one of them set, the others in proportion; alike where they all are 0. */
export function withShare(shares: readonly number[], changed: number, share: number): number[] {
  const others = shares.reduce((sum, other, i) => (i === changed ? sum : sum + other), 0);
  return shares.map((other, i) =>
    i === changed ? share : others > 0 ? ((1 - share) * other) / others : (1 - share) / (shares.length - 1),
  );
}

/** Weights are set in thousandths. */
const FINEST = 1000;

/**
 * One weight set to another value, the others in proportion, so that all sum to 1. In thousandths, which add up exactly.
 * @example balanced([0.5, 0.3, 0.2], 0, 0.6) // [0.6, 0.24, 0.16]
 */
export function balanced(weights: readonly number[], changed: number, to: number): number[] {
  const set = Math.round(FINEST * Math.min(1, Math.max(0, to)));
  if (weights.length === 1) return [1];
  const exact = withShare(weights, changed, set / FINEST).map((weight) => FINEST * weight);
  // A whole thousandth may have become a hair less than one.
  const whole = exact.map((weight) => Math.floor(weight + 1e-9));
  // What rounding down left over goes to those that lost most by it.
  const short = FINEST - whole.reduce((sum, weight) => sum + weight, 0);
  const byLoss = exact
    .map((weight, i) => ({ i, loss: i === changed ? -1 : weight - (whole[i] as number) }))
    .sort((a, b) => b.loss - a.loss)
    .slice(0, short);
  for (const { i } of byLoss) whole[i] = (whole[i] as number) + 1;
  return whole.map((weight) => weight / FINEST);
}

/** Points by place: as many as there are items for the best, one less for each that is better; equal ones share. */
function points(merits: Float64Array, into: Float64Array): void {
  for (let item = 0; item < merits.length; item += 1) {
    const value = merits[item] as number;
    let above = 0;
    let equal = 0;
    for (let other = 0; other < merits.length; other += 1) {
      if ((merits[other] as number) > value) above += 1;
      else if (merits[other] === value) equal += 1;
    }
    into[item] = Number.isNaN(value) ? value : merits.length - above - (equal - 1) / 2;
  }
}

/** Where each lies between the worst and the best; where all are equal, all are the best. */
function span(merits: Float64Array, into: Float64Array): void {
  let [worst, best] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (let item = 0; item < merits.length; item += 1) {
    const value = merits[item] as number;
    if (value < worst) worst = value;
    if (value > best) best = value;
  }
  for (let item = 0; item < merits.length; item += 1) {
    const value = merits[item] as number;
    into[item] = best > worst || Number.isNaN(value) ? (value - worst) / (best - worst) : 1;
  }
}

/** How many standard deviations each lies above the mean of all; where all are equal, all are at it. */
function standardScores(merits: Float64Array, into: Float64Array): void {
  const { n, mean, sumOfSquares } = moments(
    merits.some(Number.isNaN) ? merits.filter((value) => !Number.isNaN(value)) : merits,
  );
  const sd = n > 1 ? Math.sqrt(sumOfSquares / (n - 1)) : 0;
  for (let item = 0; item < merits.length; item += 1) {
    const value = merits[item] as number;
    into[item] = sd > 0 || Number.isNaN(value) ? (value - mean) / sd : 0;
  }
}

/** Share of the best: x over the largest, or the smallest over x where less is better. */
function ratios(values: Float64Array, better: Better, into: Float64Array): void {
  const lower = better.kind === 'lower';
  let best = lower ? Number.POSITIVE_INFINITY : Number.NEGATIVE_INFINITY;
  for (let item = 0; item < values.length; item += 1) {
    const value = values[item] as number;
    if (lower ? value < best : value > best) best = value;
  }
  for (let item = 0; item < values.length; item += 1) {
    const value = values[item] as number;
    // In a draw a value may fall to zero, where a share of the best means nothing more: nothing is left of it.
    const share = best > 0 ? Math.max(0, lower ? best / value : value / best) : 0;
    into[item] = Number.isNaN(value) ? value : value === best ? 1 : share;
  }
}

/**
 * Scores of the items by one criterion, more is better; NaN where an item has no value.
 * @param values one per item, in the unit of the measurand; NaN where there is none
 * @param into is written into, one per item
 */
export function scaleInto(
  school: ScoringSchool,
  better: Better,
  values: Float64Array,
  into: Float64Array,
): void {
  if (school === 'ratio') {
    ratios(values, better, into);
    return;
  }
  // Turned so that more is better, in a place of its own: points look at all of them while they are written.
  const merits = better.kind === 'higher' ? values : values.map((value) => merit(value, better));
  if (school === 'points') points(merits, into);
  else if (school === 'span') span(merits, into);
  else standardScores(merits, into);
}

/**
 * Weighted scores over all criteria; an item is scored on what it has.
 * @param scaled of each criterion, each item's score; NaN where it has none
 * @param weights of the criteria
 * @param into is written into; NaN for an item that has nothing
 */
export function weigh(scaled: readonly Float64Array[], weights: readonly number[], into: Float64Array): void {
  for (let item = 0; item < into.length; item += 1) {
    let sum = 0;
    let weighed = 0;
    for (let criterion = 0; criterion < scaled.length; criterion += 1) {
      const weight = weights[criterion] as number;
      const score = (scaled[criterion] as Float64Array)[item] as number;
      if (weight === 0 || Number.isNaN(score)) continue;
      sum += weight * score;
      weighed += weight;
    }
    into[item] = weighed > 0 ? sum / weighed : Number.NaN;
  }
}

/** Which criteria of any weight an item has no value of. */
export const lacking = (
  criteria: readonly Pick<Criterion, 'values'>[],
  weights: readonly number[],
  item: number,
): number[] =>
  criteria.flatMap(({ values }, i) => ((weights[i] as number) > 0 && values[item] === null ? [i] : []));

/** Values as they are scored: what lacks one plays no part at all where the study says so. */
export const valuesScored = (
  criteria: readonly Pick<Criterion, 'values'>[],
  weights: readonly number[],
  missing: MissingValues,
): (number | null)[][] =>
  criteria.map(({ values }) =>
    values.map((value, item) =>
      missing === 'no-score' && lacking(criteria, weights, item).length > 0 ? null : value,
    ),
  );

/** The weight of each criterion: its measurand's, shared equally by the settings of that. */
export function criterionWeights(
  criteria: readonly Pick<Criterion, 'measurandId'>[],
  measurandIds: readonly string[],
  scoring: Pick<Scoring, 'weights'>,
): number[] {
  const shares = sharesOf(measurandIds, scoring);
  return criteria.map(({ measurandId }) => {
    const settings = criteria.filter((other) => other.measurandId === measurandId).length;
    return (shares[measurandIds.indexOf(measurandId)] as number) / settings;
  });
}

/** Scores of a class of items. */
export interface Scored {
  /** Each item's score by each criterion alone; NaN where it has none. */
  scaled: Float64Array[];
  /** null for an item that is not scored. */
  scores: (number | null)[];
  /** What each criterion gives to each item's score; null where the item has no value. Rows are criteria. */
  parts: (number | null)[][];
  /** Indices of the items that have a score, the best first. */
  order: number[];
}

/** The items with a score, best first; equal ones as they come. */
export const orderOf = (scores: readonly (number | null)[]): number[] =>
  scores
    .flatMap((score, item) => (score === null ? [] : [{ score, item }]))
    .sort((a, b) => b.score - a.score || a.item - b.item)
    .map(({ item }) => item);

/**
 * Scores by criteria of given weight.
 * @param weights of the criteria; a criterion of weight 0 plays no part
 */
export function scored(
  criteria: readonly Criterion[],
  weights: readonly number[],
  { school, missing }: Pick<Scoring, 'school' | 'missing'>,
): Scored {
  return scoredBy(criteria, weights, school, valuesScored(criteria, weights, missing));
}

/** Scores by criteria of given weight, of values that are given as they are scored. */
export const scoredBy = (
  criteria: readonly Pick<Criterion, 'better'>[],
  weights: readonly number[],
  school: ScoringSchool,
  values: Values,
): Scored =>
  scoredFrom(
    criteria.map(({ better }, i) => scaledOf(school, better, values[i] ?? [])),
    weights,
  );

/** Each item's score by one criterion alone; NaN where it has none. */
function scaledOf(school: ScoringSchool, better: Better, values: readonly (number | null)[]): Float64Array {
  const into = new Float64Array(values.length);
  const known = Float64Array.from(values, (value) => value ?? Number.NaN);
  scaleInto(school, better, known, into);
  return into;
}

/** Scores of what each criterion says alone. */
function scoredFrom(scaled: Float64Array[], weights: readonly number[]): Scored {
  const all = new Float64Array(scaled[0]?.length as number);
  weigh(scaled, weights, all);
  const scores = Array.from(all, (score) => (Number.isNaN(score) ? null : score));
  return { scaled, scores, parts: partsOf(scaled, weights), order: orderOf(scores) };
}

/**
 * The least and the most that scores may be where of some values ranges are known. Values of different criteria may lie
 * anywhere in theirs each by itself, so that the ends of a score are the sums of those of its parts.
 * @param values of each criterion as they are scored
 * @returns undefined where no range is known of any value of a weight
 */
export function scoredReach(
  criteria: readonly Criterion[],
  weights: readonly number[],
  school: ScoringSchool,
  values: Values,
): { least: Scored; most: Scored } | undefined {
  const cases = criteria.map((criterion, i) =>
    possibleValues([criterion], [weights[i] as number], [values[i] ?? []]).map(([row = []]) =>
      scaledOf(school, criterion.better, row),
    ),
  );
  if (cases.every(({ length }) => length === 1)) return undefined;
  const ends = cases.map((rows) => {
    const end = (which: (...scores: number[]) => number) =>
      (rows[0] as Float64Array).map((_, item) => which(...rows.map((row) => row[item] as number)));
    return { least: end(Math.min), most: end(Math.max) };
  });
  return {
    least: scoredFrom(
      ends.map(({ least }) => least),
      weights,
    ),
    most: scoredFrom(
      ends.map(({ most }) => most),
      weights,
    ),
  };
}

/** What each criterion gives to each item's score. What an item lacks is made up for by the weight of the rest. */
function partsOf(scaled: readonly Float64Array[], weights: readonly number[]): (number | null)[][] {
  const weighed = Array.from(scaled[0] ?? [], (_, item) =>
    scaled.reduce((sum, row, i) => (Number.isNaN(row[item]) ? sum : sum + (weights[i] as number)), 0),
  );
  return scaled.map((row, i) =>
    Array.from(row, (score, item) =>
      Number.isNaN(score) || weighed[item] === 0
        ? null
        : ((weights[i] as number) * score) / (weighed[item] as number),
    ),
  );
}

/** Why no score can be made; undefined where one can. */
export function whyNoScore(
  criteria: readonly (Pick<Criterion, 'hasRatios'> & { name: string })[],
  weights: readonly number[],
  { school }: Pick<Scoring, 'school'>,
): string | undefined {
  const weighed = criteria.filter((_, i) => (weights[i] as number) > 0);
  if (weighed.length === 0) return 'Every weight is 0, so there is nothing to score.';
  const without = school === 'ratio' ? weighed.find(({ hasRatios }) => !hasRatios) : undefined;
  return without === undefined
    ? undefined
    : `${without.name} has no ratios to the best: that takes values above a true zero. Choose another way of scoring, or give it no weight.`;
}
