import { type SeededRandom, seededRandom } from '../random/seeded.ts';

/** What is known of one item's mean. */
export interface Known {
  mean: number;
  /** Standard error, same unit; 0 for an exact figure. */
  se: number;
  df: number;
}

export interface DrawInput {
  /** Of each quantity that is drawn, what is known of each item's mean; null where an item has none. */
  known: readonly (readonly (Known | null)[])[];
  /**
   * What each item is worth by the means drawn, more is better.
   * @param drawn of each quantity, each item's mean; NaN where it has none
   * @param worth is written into; NaN for an item that has none
   */
  worthOf: (drawn: readonly Float64Array[], worth: Float64Array) => void;
  draws: number;
  seed: number;
  /** Whether it is counted how often each comes before each other, which takes the square of the items. */
  pairs?: boolean;
}

export interface Draws {
  /** One row an item, one share a place; each row and each column sums to 1. */
  places: number[][];
  /** In how many draws the item of the row is worth more than that of the column; empty unless asked for. */
  ahead: number[][];
}

/** Ties in the order: who stands at each place, from `first` to before the returned one, is worth the same. */
function endOfTie(order: Int32Array, worth: Float64Array, first: number): number {
  let behind = first + 1;
  while (behind < order.length && worth[order[behind] as number] === worth[order[first] as number])
    behind += 1;
  return behind;
}

/** Puts the items in order of worth. The last order is nearly the next one, so inserting is quick. */
function putInOrder(order: Int32Array, worth: Float64Array): void {
  for (let i = 1; i < order.length; i += 1) {
    const moved = order[i] as number;
    const itsWorth = worth[moved] as number;
    let j = i - 1;
    while (j >= 0 && (worth[order[j] as number] as number) < itsWorth) {
      order[j + 1] = order[j] as number;
      j -= 1;
    }
    order[j + 1] = moved;
  }
}

/** A draw of t by the polar method; the second that comes with it goes to the item’s place in `later`. */
function student(random: SeededRandom, df: number, later: Float64Array, item: number): number {
  for (;;) {
    const u = 2 * random.unit() - 1;
    const v = 2 * random.unit() - 1;
    const w = u * u + v * v;
    if (w > 0 && w < 1) {
      const log = -2 * Math.log(w);
      const stretch = Math.sqrt((Number.isFinite(df) ? df * Math.expm1(log / df) : log) / w);
      later[item] = v * stretch;
      return u * stretch;
    }
  }
}

/**
 * How often each item takes each place, and comes before each other, when every mean is drawn from its own t
 * distribution, mean + se·t. Ties share places. Draws of t by the polar method.
 * @source ranks of uncertain means: Goldstein and Spiegelhalter (1996), Journal of the Royal Statistical Society A 159;
 *   polar method for t: Bailey (1994), Mathematics of Computation 62
 */
export function drawPlaces({ known, worthOf, draws, seed, pairs = false }: DrawInput): Draws {
  const k = known[0]?.length as number;
  const random = seededRandom(seed);
  // One point in the circle gives two draws of t, neither of which says anything on the other’s sign. They go to two
  // draws of the same item, so that within each draw all items are independent.
  const second = known.map(() => new Float64Array(k));
  // One row an item, one column a place.
  const taken = new Float64Array(k * k);
  const ahead = Array.from({ length: pairs ? k : 0 }, () => new Int32Array(k));
  const drawn = known.map(() => new Float64Array(k));
  const worth = new Float64Array(k);
  const order = Int32Array.from({ length: k }, (_, item) => item);
  for (let draw = 0; draw < draws; draw += 1) {
    known.forEach((items, quantity) => {
      const means = drawn[quantity] as Float64Array;
      const later = second[quantity] as Float64Array;
      const fresh = draw % 2 === 0;
      for (let item = 0; item < k; item += 1) {
        const of = items[item];
        if (!of) means[item] = Number.NaN;
        else if (of.se > 0)
          means[item] =
            of.mean + of.se * (fresh ? student(random, of.df, later, item) : (later[item] as number));
        else means[item] = of.mean;
      }
    });
    worthOf(drawn, worth);
    putInOrder(order, worth);
    for (let first = 0; first < k;) {
      const behind = endOfTie(order, worth, first);
      const share = 1 / (behind - first);
      for (let i = first; i < behind; i += 1) {
        const row = (order[i] as number) * k;
        for (let place = first; place < behind; place += 1) {
          taken[row + place] = (taken[row + place] as number) + share;
        }
        const leads = ahead[order[i] as number];
        if (!leads) continue;
        for (let place = behind; place < k; place += 1) {
          const item = order[place] as number;
          leads[item] = (leads[item] as number) + 1;
        }
      }
      first = behind;
    }
  }
  return {
    places: Array.from({ length: k }, (_, item) =>
      Array.from(taken.subarray(item * k, (item + 1) * k), (count) => count / draws),
    ),
    ahead: ahead.map((row) => Array.from(row)),
  };
}
