import { overLevels } from '../../core/analysis/over-levels.ts';
import { type SeededRandom, seededRandom } from '../../core/random/seeded.ts';
import { DEFAULT_RULE } from '../../core/screening/rule.ts';
import { levelledStudy } from '../../core/testing-study.ts';
import { type Asked, type Design, DRIFT, type Spread, draw, nameOf, percent } from './design.ts';

/** A study of equal items that do not change from level to level: whoever is said to change or to be ahead is a false one. */
function levelsStudy(design: Design, levels: number, random: SeededRandom) {
  const { items, readings } = design;
  const drawn = Array.from({ length: levels }, () =>
    draw({ ...design, rounds: false }, Array<number>(items).fill(0), random),
  );
  const drift = Array.from({ length: readings }, () => (design.rounds ? DRIFT * random.normal() : 0));
  const made = levelledStudy(
    { items, levels, rounds: readings, decimals: design.coarse ? 0 : 3 },
    ({ item, level, round }) => {
      const read = (drawn[level]?.[item]?.values[round - 1] as number) + (drift[round - 1] as number);
      return design.coarse ? 2 * Math.round(read / 2) : read;
    },
  );
  made.measurand.rule = { ...DEFAULT_RULE };
  if (design.coarse) made.measurand.instrument = { ...made.measurand.instrument, resolution: 2 };
  if (!design.rounds) made.document.study.runOrder = 'full-shuffle';
  return made;
}

/** Studies in which an item is said to change, and in which somebody is called ahead at any level. */
function ratesOverLevels(design: Design, levels: number, count: number, seed: number) {
  const random = seededRandom(seed);
  let [changes, ahead] = [0, 0];
  for (let study = 0; study < count; study += 1) {
    const { document, measurand, factor } = levelsStudy(design, levels, random);
    const group = overLevels(document, measurand.id, factor.id)?.classes[0];
    if (!group) throw new Error('Nothing was read at two levels.');
    if (group.changes.flat().some(({ verdict }) => verdict === 'rises' || verdict === 'falls')) changes += 1;
    if (group.levels.some((level) => level?.analysis.pairs.some(({ verdict }) => verdict.endsWith('ahead'))))
      ahead += 1;
  }
  return { changes: changes / count, ahead: ahead / count };
}

/** Changes over the levels of a factor, and who is called ahead at any of them. */
export function levels({ studies, long }: Asked): void {
  console.log(`\n${'items x levels x readings, nothing to find'.padEnd(58)} change  ahead`);
  const sizes = [
    [2, 2, 5],
    [3, 3, 3],
    [5, 3, 5],
    [6, 2, 8],
    ...(long
      ? [
          [12, 4, 5],
          [3, 5, 8],
          [1, 3, 5],
        ]
      : []),
  ] as [number, number, number][];
  sizes.forEach(([items, levels, readings], i) => {
    for (const rounds of [true, false]) {
      for (const spread of (items > 1 ? ['equal', 'graded 1:4', 'one × 10'] : ['equal']) as Spread[]) {
        for (const coarse of spread === 'equal' ? [false, true] : [false]) {
          const design = { items, readings, rounds, spread, slips: true, coarse, looks: false };
          const { changes, ahead } = ratesOverLevels(design, levels, studies, 5000 + i);
          const name = `${String(items)}x${String(levels)}x${String(readings)}, ${nameOf(design).split(', ').slice(1, 5).join(', ')}`;
          console.log(`${name.padEnd(58)}${percent(changes)} ${percent(ahead)}`);
        }
      }
    }
  });
}
