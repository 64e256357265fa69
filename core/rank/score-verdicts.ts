import { allPairs } from '../compare/method.ts';
import type { VerdictWord } from '../compare/verdict.ts';
import { levelOfEach } from '../distributions/several.ts';
import type { Scoring } from '../model/study.ts';
import { type Known, drawPlaces } from './draws.ts';
import { type PairVerdict, places } from './place.ts';
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
  /** Draws that were made; 0 where the spread of some value is not known. */
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
/** More draws than this take too long to wait for, and so do more pairs counted over all draws. */
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
 * every criterion are so by their score; a score of a single criterion says what that says.
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
  const weighed = criteria.flatMap((criterion, i) =>
    (weights[i] as number) > 0 ? [{ criterion, weight: weights[i] as number }] : [],
  );
  const values = valuesScored(criteria, weights, scoring.missing);
  // Only items with a score take part; `order` leads back to all of them.
  const drawnOf = weighed.map(({ criterion }) => {
    const scoredValues = values[criteria.indexOf(criterion)] ?? [];
    return order.map((item) => (scoredValues[item] === null ? null : criterion.known[item]));
  });
  const lacksSpread = weighed.some(({ criterion }, i) =>
    order.some((item, place) => criterion.values[item] !== null && drawnOf[i]?.[place] === null),
  );
  const pairsOfAll = Math.max(1, (order.length * (order.length - 1)) / 2);
  // Of each side of each pair.
  const most = levelOfEach(options.alpha, pairsOfAll) / 2;
  const count = drawsFor(most, options.draws, pairsOfAll);
  const draws = lacksSpread
    ? undefined
    : drawPlaces({
        known: drawnOf.map((row) => row.map((known) => known ?? null)),
        worthOf: scoreOfDraw(
          weighed.map(({ criterion }) => criterion),
          weighed.map(({ weight }) => weight),
          scoring.school,
          order.length,
        ),
        draws: count,
        seed: options.seed,
        pairs: true,
      });
  const judged = weighed.map(({ criterion }) => verdictsOf(criterion));
  const verdictOf = (a: number, b: number): VerdictWord => {
    const each = judged.map((by) => by(order[a] as number, order[b] as number));
    if (each.length === 1) return each[0] ?? 'too few';
    if (each.length > 0 && each.every((verdict) => verdict === 'same')) return 'same';
    if (!draws) return 'too few';
    const against = (x: number, y: number) => (count - (draws.ahead[x]?.[y] ?? 0) + 1) / (count + 1);
    return against(a, b) < most ? 'a ahead' : against(b, a) < most ? 'b ahead' : 'not settled';
  };
  const pairs = allPairs(order.length).map(([a, b]): PairVerdict => ({ a, b, verdict: verdictOf(a, b) }));
  // The order is already by score, so that place by merit is place in it.
  const merits = order.map((_, place) => -place);
  return {
    ranking: places(merits, pairs).map((place, i) => ({
      ...place,
      index: order[i] as number,
      shares: draws?.places[i] ?? null,
    })),
    pairs: pairs.map(({ a, b, verdict }) => ({ a: order[a] as number, b: order[b] as number, verdict })),
    draws: draws ? count : 0,
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
