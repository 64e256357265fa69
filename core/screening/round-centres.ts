import { median, sorted } from '../summary/quantile.ts';

/** Below this many shared rounds there are no distances to judge by. */
const FEWEST_ROUNDS = 2;

/**
 * The median of each round that two or more readings of a setting share, in the unit of the readings.
 * @param readings value and round of each; NaN as the round of one that belongs to none
 * @returns by round; undefined where too few rounds are shared
 */
export function roundCentres(
  readings: Iterable<readonly [value: number, round: number]>,
): Map<number, number> | undefined {
  const rounds = new Map<number, number[]>();
  for (const [value, round] of readings) {
    if (Number.isNaN(round)) continue;
    const there = rounds.get(round);
    if (there) there.push(value);
    else rounds.set(round, [value]);
  }
  const centres = new Map<number, number>();
  for (const [round, values] of rounds) if (values.length > 1) centres.set(round, median(sorted(values)));
  return centres.size < FEWEST_ROUNDS ? undefined : centres;
}
