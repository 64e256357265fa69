import { median, sorted } from '../summary/quantile.ts';

/** Below this many shared rounds there are no distances to judge by. */
const FEWEST_ROUNDS = 2;

/**
 * The median of each round that two or more readings of a setting share, in the unit of the readings.
 * @param samples values and the round of each, NaN for one that belongs to none; no rounds where they share nothing
 * @returns by round; undefined where too few rounds are shared
 */
export function roundCentres(
  samples: readonly { values: ArrayLike<number>; rounds?: ArrayLike<number> | undefined }[],
): Map<number, number> | undefined {
  const rounds = new Map<number, number[]>();
  for (const { values, rounds: roundOf } of samples) {
    if (!roundOf) continue;
    for (let i = 0; i < values.length; i += 1) {
      const round = roundOf[i] as number;
      if (Number.isNaN(round)) continue;
      const there = rounds.get(round);
      if (there) there.push(values[i] as number);
      else rounds.set(round, [values[i] as number]);
    }
  }
  const centres = new Map<number, number>();
  for (const [round, values] of rounds) if (values.length > 1) centres.set(round, median(sorted(values)));
  return centres.size < FEWEST_ROUNDS ? undefined : centres;
}
