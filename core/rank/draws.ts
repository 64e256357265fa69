import { seededRandom } from '../random/seeded.ts';

/** What is known of one item's mean. */
export interface Known {
  mean: number;
  /** Standard error, same unit. */
  se: number;
  df: number;
}

export interface DrawInput {
  items: readonly Known[];
  /** Turns a mean so that more is better. */
  merit: (mean: number) => number;
  draws: number;
  seed: number;
}

/**
 * How often each item takes each place when every item's mean is drawn from its own t distribution, mean + se·t. Ties
 * share. Draws of t by the polar method.
 * @returns one row an item, one share a place; each row and each column sums to 1
 * @source ranks of uncertain means: Goldstein and Spiegelhalter (1996), Journal of the Royal Statistical Society A 159;
 *   polar method for t: Bailey (1994), Mathematics of Computation 62
 */
export function placeShares({ items, merit, draws, seed }: DrawInput): number[][] {
  const k = items.length;
  const random = seededRandom(seed);
  const counts = Array.from({ length: k }, () => new Float64Array(k));
  const merits = new Float64Array(k);
  const order = Array.from({ length: k }, (_, item) => item);
  const student = (df: number): number => {
    for (;;) {
      const u = 2 * random.unit() - 1;
      const v = 2 * random.unit() - 1;
      const w = u * u + v * v;
      if (w > 0 && w < 1) {
        const stretch = Number.isFinite(df) ? df * (w ** (-2 / df) - 1) : -2 * Math.log(w);
        return u * Math.sqrt(stretch / w);
      }
    }
  };
  for (let draw = 0; draw < draws; draw += 1) {
    for (let item = 0; item < k; item += 1) {
      const { mean, se, df } = items[item] as Known;
      merits[item] = merit(se > 0 ? mean + se * student(df) : mean);
    }
    // The last order is nearly the next one, so inserting is quick.
    for (let i = 1; i < k; i += 1) {
      const moved = order[i] as number;
      const own = merits[moved] as number;
      let j = i - 1;
      while (j >= 0 && (merits[order[j] as number] as number) < own) {
        order[j + 1] = order[j] as number;
        j -= 1;
      }
      order[j + 1] = moved;
    }
    for (let first = 0; first < k;) {
      let behind = first + 1;
      while (behind < k && merits[order[behind] as number] === merits[order[first] as number]) behind += 1;
      const share = 1 / (behind - first);
      for (let i = first; i < behind; i += 1) {
        const row = counts[order[i] as number] as Float64Array;
        for (let place = first; place < behind; place += 1) row[place] = (row[place] as number) + share;
      }
      first = behind;
    }
  }
  return counts.map((row) => Array.from(row, (count) => count / draws));
}
