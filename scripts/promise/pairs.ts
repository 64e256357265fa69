import type { ItemReadings } from '../../core/analysis/analyse.ts';
import { ALPHA } from '../../core/model/alpha.ts';
import { lookLevels } from '../../core/plan/look-levels.ts';
import { seededRandom } from '../../core/random/seeded.ts';
import { type Asked, type Design, SPREADS, type Spread, draw, judge, nameOf, percent } from './design.ts';

/** The first readings of a study, as at a look. */
const upTo = (readings: ItemReadings[], count: number): ItemReadings[] =>
  readings.map(({ item, values, rounds }) => ({
    item,
    values: Array.from(values).slice(0, count),
    ...(rounds ? { rounds: Array.from(rounds).slice(0, count) } : {}),
  }));

/** Readings at each look, and the level of each; one look at the end without a plan. */
function looksOf({ looks, readings }: Design): { moments: number[]; levels: number[] } {
  const moments = looks
    ? [...new Set([Math.ceil(readings / 2), Math.ceil((3 * readings) / 4), readings])].filter((n) => n > 1)
    : [readings];
  return {
    moments,
    levels: lookLevels(
      moments.map((n) => n / readings),
      ALPHA,
      'late',
    ),
  };
}

interface Rates {
  /** Studies of equal items in which somebody is called ahead. */
  ahead: number;
  /** Studies in which some item's true place lies outside its range. */
  places: number;
  /** Studies in which two items that differ by the margin are called the same. */
  same: number;
  /** Studies in which a lead of four standard errors is seen. */
  power: number;
}

function rates(design: Design, studies: number, seed: number): Rates {
  const random = seededRandom(seed);
  const { items, readings, coarse } = design;
  const equal = Array<number>(items).fill(0);
  const se = Math.sqrt((1 + (coarse ? 4 / 12 : 0)) / readings);
  const steps = equal.map((_, item) => -item * 2 * se);
  const margin = 6 * se;
  const halves = equal.map((_, item) => (item % 2 === 0 ? 0 : margin));
  const lead = equal.map((_, item) => (item === items - 1 ? 4 * Math.SQRT2 * se : 0));
  const { moments, levels } = looksOf(design);
  const count = { ahead: 0, places: 0, same: 0, power: 0 };
  for (let study = 0; study < studies; study += 1) {
    const quiet = draw(design, equal, random);
    if (
      moments.some((n, look) =>
        judge(design, upTo(quiet, n), levels[look] as number).pairs.some(({ verdict }) =>
          verdict.endsWith('ahead'),
        ),
      )
    )
      count.ahead += 1;
    const ranking = judge(design, draw(design, steps, random), ALPHA).ranking;
    if (ranking.some(({ index, placeLow, placeHigh }) => index + 1 < placeLow || index + 1 > placeHigh))
      count.places += 1;
    const { pairs } = judge(design, draw(design, halves, random), ALPHA, margin);
    if (pairs.some(({ a, b, verdict }) => verdict === 'same' && a % 2 !== b % 2)) count.same += 1;
    const led = judge(design, draw(design, lead, random), ALPHA).pairs.find(
      ({ a, b }) => a === Math.max(0, items - 2) && b === items - 1,
    );
    if (led?.verdict === 'b ahead') count.power += 1;
  }
  return {
    ahead: count.ahead / studies,
    places: count.places / studies,
    same: count.same / studies,
    power: count.power / studies,
  };
}

function designs(long: boolean): Design[] {
  const sizes = long
    ? [3, 6, 12].flatMap((items) => [3, 4, 6, 8, 20].map((readings) => ({ items, readings })))
    : [
        { items: 3, readings: 4 },
        { items: 3, readings: 8 },
        { items: 6, readings: 5 },
        { items: 6, readings: 8 },
        { items: 12, readings: 4 },
        { items: 12, readings: 8 },
      ];
  const yesNo = [false, true];
  return sizes.flatMap((size) =>
    yesNo.flatMap((rounds) =>
      (long ? (Object.keys(SPREADS) as Spread[]) : (['equal', 'graded 1:4', 'one × 10'] as const)).flatMap(
        (spread) =>
          yesNo.flatMap((slips) =>
            yesNo.flatMap((coarse) =>
              yesNo.map((looks) => ({ ...size, rounds, spread, slips, coarse, looks })),
            ),
          ),
      ),
    ),
  );
}

/**
 * Verdicts, place ranges and power of studies of items, with and without looks.
 * @param words only designs whose name holds all of them
 */
export function pairs({ studies, long }: Asked, words: readonly string[]): void {
  console.log(
    `Per cent of ${String(studies)} studies (± ${((100 * 2 * Math.sqrt(0.05 * 0.95)) / Math.sqrt(studies)).toFixed(1)} at 5 %)`,
  );
  console.log(`${'study'.padEnd(58)} ahead places   same  power`);
  const worst: { name: string; ahead: number }[] = [];
  let sum = 0;
  designs(long).forEach((design, i) => {
    const name = nameOf(design);
    if (words.some((word) => !name.includes(word))) return;
    const { ahead, places, same, power } = rates(design, studies, 1000 + i);
    worst.push({ name, ahead });
    sum += ahead;
    console.log(`${name.padEnd(58)}${percent(ahead)} ${percent(places)} ${percent(same)} ${percent(power)}`);
  });
  if (worst.length > 0) {
    worst.sort((a, b) => b.ahead - a.ahead);
    console.log(
      `mean of false “ahead”: ${percent(sum / worst.length)}; worst: ${worst
        .slice(0, 5)
        .map(({ name, ahead }) => `${percent(ahead).trim()} (${name})`)
        .join('; ')}`,
    );
  }
}
