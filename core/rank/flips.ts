import { halved } from '../distributions/halving.ts';
import { type Criterion, criterionWeights, orderOf, weigh, withShare } from './scores.ts';

/** Where first place changes hands as one weight changes, the others in proportion. */
export interface WeightFlip {
  measurandId: string;
  /** Its share now. */
  share: number;
  /** The nearest smaller share, and the nearest larger one, at which another item is first; null where there is none. */
  down: Turning | null;
  up: Turning | null;
}

export interface Turning {
  share: number;
  /** Index of the item that is first there. */
  leader: number;
}

/** Scores nearer together than this are equal. */
const EQUAL = 1e-12;
/** Shares that are tried on the way, before the place is found exactly. */
const STEPS = 400;

/** Whoever is first; the one who was, as long as nobody is better. */
export function leaderOf(scores: readonly (number | null)[], before?: number): number | undefined {
  const [best] = orderOf(scores);
  if (best === undefined || before === undefined) return best;
  const its = scores[before];
  return its != null && its >= (scores[best] as number) - EQUAL ? before : best;
}

/**
 * The smallest change of each weight alone, the others in proportion, that changes who is first.
 * @param scaled of each criterion, each item's score; NaN where it has none
 * @param measurandIds in the order of the shares
 */
export function weightFlips(
  criteria: readonly Pick<Criterion, 'measurandId'>[],
  scaled: readonly Float64Array[],
  measurandIds: readonly string[],
  shares: readonly number[],
): WeightFlip[] {
  if (measurandIds.length < 2) return [];
  const into = new Float64Array(scaled[0]?.length as number);
  const leaderAt = (tried: readonly number[], before?: number): number | undefined => {
    const weights = criterionWeights(criteria, measurandIds, {
      weights: measurandIds.map((measurandId, i) => ({ measurandId, weight: tried[i] as number })),
    });
    weigh(scaled, weights, into);
    return leaderOf(
      Array.from(into, (score) => (Number.isNaN(score) ? null : score)),
      before,
    );
  };
  const leader = leaderAt(shares);
  if (leader === undefined) return [];
  return measurandIds.map((measurandId, i) => {
    const share = shares[i] as number;
    const first = (tried: number) => leaderAt(withShare(shares, i, tried), leader) ?? leader;
    return {
      ...{ measurandId, share },
      down: turningTowards(0, share, leader, first),
      up: turningTowards(1, share, leader, first),
    };
  });
}

/** Going from a share towards an end, the first one at which another is first. */
function turningTowards(
  end: 0 | 1,
  from: number,
  leader: number,
  first: (share: number) => number,
): Turning | null {
  let holds = from;
  for (let step = 1; step <= STEPS; step += 1) {
    const tried = from + ((end - from) * step) / STEPS;
    if (first(tried) === leader) {
      holds = tried;
      continue;
    }
    const [, turned] = halved(holds, tried, (share) => first(share) === leader);
    return { share: turned, leader: first(turned) };
  }
  return null;
}
