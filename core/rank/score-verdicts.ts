import { allPairs } from '../compare/method.ts';
import type { VerdictWord } from '../compare/verdict.ts';
import { levelOfEach } from '../distributions/several.ts';
import type { Scoring } from '../model/study.ts';
import { type Known, drawPlaces } from './draws.ts';
import { type PairVerdict, places } from './place.ts';
import { type Values, possibleValues } from './ranges.ts';
import { type Criterion, type Scored, scaleInto, valuesScored, weigh } from './scores.ts';

/** A criterion with what is known of its values. */
export interface DrawnCriterion extends Criterion {
  /** null for an item without a value, or of which no spread is known. */
  known: readonly (Known | null)[];
  /** What the readings say of each pair of items by this criterion alone. */
  verdicts: readonly PairVerdict[];
}

/** A scored item with the places that the readings allow. */
export interface ScoredPlace {
  /** Index of the item. */
  index: number;
  place: number;
  placeLow: number;
  placeHigh: number;
  /** Share of the draws in which it takes each place; null where nothing could be drawn. */
  shares: readonly number[] | null;
}

export interface ScoreVerdicts {
  /** Best first. */
  ranking: ScoredPlace[];
  pairs: PairVerdict[];
  /** Draws that were made; 0 where the spread of some value is not known. Without shares where ranges are known. */
  draws: number;
}

export interface ScoreDrawOptions {
  /** Chance that any two items are called ahead of one another that are not, 0 < alpha < 1. */
  alpha: number;
  /** Draws that are usual: more are made where these could not tell. */
  draws: number;
  seed: number;
}

/** So many draws, on average, may speak against each pair that is called ahead: fewer could not tell. */
const AGAINST = 5;
/** More draws than this take too long to wait for, and so do more pairs counted over all draws and cases. */
const MOST_DRAWS = 60000;
const MOST_COUNTED = 1e8;

/**
 * Draws that can tell a chance as small as this, in whole sets of what is usual; fewer where hundreds of items would make
 * it a long wait: what these cannot tell is not settled.
 */
const drawsFor = (chance: number, usual: number, pairs: number): number =>
  Math.ceil(
    Math.min(MOST_DRAWS, usual * Math.max(1, Math.ceil(AGAINST / chance / usual)), MOST_COUNTED / pairs),
  );

/**
 * What the readings say of two scores, by draws of all means that they are made of: one is ahead when it is so in all
 * but so few draws that all pairs together go wrong with chance alpha. Two items that are practically the same by
 * every criterion are so by their score; a score of a single criterion says what that says. Where of a value a range is
 * known, it must be so wherever in the range the value is.
 * @param weights of the criteria
 * @param scores by the same criteria and weights
 * @source share of draws as a p-value, (r + 1)/(n + 1): Davison and Hinkley (1997), Bootstrap Methods, 4.2; Šidák
 *   (1967) over the pairs
 */
export function scoreVerdicts(
  criteria: readonly DrawnCriterion[],
  weights: readonly number[],
  scoring: Pick<Scoring, 'school' | 'missing'>,
  { order }: Scored,
  options: ScoreDrawOptions,
): ScoreVerdicts {
  const values = valuesScored(criteria, weights, scoring.missing);
  // Only items with a score take part, in their order; it leads back to all of them.
  const inOrder = <T>(row: readonly T[]): T[] => order.map((item) => row[item] as T);
  const weighed = criteria.flatMap((criterion, i) =>
    (weights[i] as number) > 0
      ? [{ weight: weights[i] as number, criterion: withItems(criterion, values[i] ?? [], inOrder) }]
      : [],
  );
  const taking = weighed.map(({ criterion }) => criterion);
  const pairsOfAll = Math.max(1, (order.length * (order.length - 1)) / 2);
  // Of each side of each pair.
  const most = levelOfEach(options.alpha, pairsOfAll) / 2;
  const draws = drawnScores(
    taking,
    weighed.map(({ weight }) => weight),
    { school: scoring.school, seed: options.seed },
    (cases) => drawsFor(most, options.draws, pairsOfAll * cases),
  );
  const judged = taking.map(verdictsOf);
  const verdictOf = (a: number, b: number): VerdictWord => {
    const each = judged.map((by) => by(order[a] as number, order[b] as number));
    if (each.length === 1) return each[0] ?? 'too few';
    if (each.length > 0 && each.every((verdict) => verdict === 'same')) return 'same';
    if (!draws) return 'too few';
    const against = (x: number, y: number) => (draws.count - draws.ahead(x, y) + 1) / (draws.count + 1);
    return against(a, b) < most ? 'a ahead' : against(b, a) < most ? 'b ahead' : 'not settled';
  };
  const pairs = allPairs(order.length).map(([a, b]): PairVerdict => ({ a, b, verdict: verdictOf(a, b) }));
  // The order is already by score, so that place by merit is place in it.
  const merits = order.map((_, place) => -place);
  return {
    ranking: places(merits, pairs).map((place, i) => ({
      ...place,
      index: order[i] as number,
      shares: draws?.places?.[i] ?? null,
    })),
    pairs: pairs.map(({ a, b, verdict }) => ({ a: order[a] as number, b: order[b] as number, verdict })),
    draws: draws?.count ?? 0,
  };
}

/** What is said of two items by one criterion, the first against the second. */
function verdictsOf({ verdicts }: DrawnCriterion): (a: number, b: number) => VerdictWord | undefined {
  const said = new Map<string, VerdictWord>();
  const turned = { 'a ahead': 'b ahead', 'b ahead': 'a ahead' } as const;
  for (const { a, b, verdict } of verdicts) {
    said.set(`${String(a)}/${String(b)}`, verdict);
    said.set(
      `${String(b)}/${String(a)}`,
      verdict === 'a ahead' || verdict === 'b ahead' ? turned[verdict] : verdict,
    );
  }
  return (a, b) => said.get(`${String(a)}/${String(b)}`);
}

/** A criterion of some of its items, with the values that are scored. */
const withItems = (
  criterion: DrawnCriterion,
  values: readonly (number | null)[],
  some: <T>(row: readonly T[]) => T[],
): DrawnCriterion => ({
  ...criterion,
  values: some(values),
  known: some(criterion.known),
  ...(criterion.ranges ? { ranges: some(criterion.ranges) } : {}),
});

/** What was drawn of all scores. */
interface DrawnScores {
  count: number;
  /** How many draws have one ahead of another: where ranges are known, in the case that has the fewest. */
  ahead: (x: number, y: number) => number;
  /** Share of the draws in which each takes each place; none where ranges are known, of which nobody knows how likely what is. */
  places: number[][] | undefined;
}

/**
 * Draws the scores of all items.
 * @param countFor how many draws to make where so many cases are tried in each
 * @returns undefined where the spread of some value is not known
 */
function drawnScores(
  criteria: readonly DrawnCriterion[],
  weights: readonly number[],
  { school, seed }: { school: Scoring['school']; seed: number },
  countFor: (cases: number) => number,
): DrawnScores | undefined {
  const known = criteria.map(({ values, ranges, known: ofItems }) =>
    values.map((value, item): Known | null => {
      if (value === null) return null;
      return ranges?.[item] ? { mean: value, se: 0, df: Number.POSITIVE_INFINITY } : (ofItems[item] ?? null);
    }),
  );
  if (criteria.some(({ values }, i) => values.some((value, item) => value !== null && !known[i]?.[item])))
    return undefined;
  const k = criteria[0]?.values.length as number;
  const score = scoreOfDraw(criteria, weights, school, k);
  const possible = possibleValues(
    criteria,
    weights,
    criteria.map(({ values }) => values),
  );
  if (possible.length === 1) {
    const count = countFor(1);
    const { places: shares, ahead } = drawPlaces({
      ...{ known, worthOf: score, draws: count, seed, pairs: true },
    });
    return { count, places: shares, ahead: (x, y) => ahead[x]?.[y] as number };
  }
  const { cases, mayLead } = hardestCases(possible, score, k);
  const count = countFor(Math.max(1, cases.length));
  const leads = cases.map(() => new Int32Array(k * k));
  const worthOf = (drawn: readonly Float64Array[], worth: Float64Array) => {
    cases.forEach((values, i) => {
      putRanges(criteria, values, drawn);
      score(drawn, worth);
      countLeads(worth, leads[i] as Int32Array);
    });
  };
  if (cases.length > 0) drawPlaces({ known, worthOf, draws: count, seed });
  const ahead = (x: number, y: number) =>
    mayLead[x * k + y] === 1 ? Math.min(...leads.map((counts) => counts[x * k + y] as number)) : 0;
  return { count, places: undefined, ahead };
}

/**
 * Of all cases those that are drawn: of each pair in which one is ahead in all of them, the case in which it is so by
 * least.
 * @returns beside them which item of the row may be called ahead of which of the column
 */
function hardestCases(
  possible: readonly Values[],
  score: (values: readonly Float64Array[], worth: Float64Array) => void,
  k: number,
): { cases: Values[]; mayLead: Uint8Array } {
  const least = new Float64Array(k * k).fill(Number.POSITIVE_INFINITY);
  const hardest = new Int32Array(k * k);
  const worth = new Float64Array(k);
  possible.forEach((values, i) => {
    score(
      values.map((row) => Float64Array.from(row, (value) => value ?? Number.NaN)),
      worth,
    );
    for (let x = 0; x < k; x += 1) {
      for (let y = 0; y < k; y += 1) {
        const lead = (worth[x] as number) - (worth[y] as number);
        if (lead >= (least[x * k + y] as number)) continue;
        least[x * k + y] = lead;
        hardest[x * k + y] = i;
      }
    }
  });
  const mayLead = Uint8Array.from(least, (lead) => (lead > 0 ? 1 : 0));
  const chosen = new Set([...hardest].filter((_, pair) => mayLead[pair] === 1));
  return { cases: [...chosen].map((i) => possible[i] as Values), mayLead };
}

/** Puts in place of what was drawn what values of which ranges are known are in a case. */
function putRanges(
  criteria: readonly DrawnCriterion[],
  values: Values,
  drawn: readonly Float64Array[],
): void {
  criteria.forEach(({ ranges }, i) => {
    ranges?.forEach((range, item) => {
      if (range) (drawn[i] as Float64Array)[item] = values[i]?.[item] ?? Number.NaN;
    });
  });
}

/** Counts who is ahead of whom in a draw. */
function countLeads(worth: Float64Array, leads: Int32Array): void {
  const k = worth.length;
  for (let x = 0; x < k; x += 1) {
    for (let y = 0; y < k; y += 1) {
      if ((worth[x] as number) > (worth[y] as number)) leads[x * k + y] = (leads[x * k + y] as number) + 1;
    }
  }
}

/** Makes the score of every item from means that were drawn. */
function scoreOfDraw(
  criteria: readonly Criterion[],
  weights: readonly number[],
  school: Scoring['school'],
  k: number,
): (drawn: readonly Float64Array[], worth: Float64Array) => void {
  const scaled = criteria.map(() => new Float64Array(k));
  return (drawn, worth) => {
    criteria.forEach(({ better }, i) => {
      scaleInto(school, better, drawn[i] as Float64Array, scaled[i] as Float64Array);
    });
    weigh(scaled, weights, worth);
  };
}
