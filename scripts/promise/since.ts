import { occasionOf } from '../../core/analysis/occasion.ts';
import { sinceEarlier } from '../../core/analysis/since.ts';
import { seededRandom } from '../../core/random/seeded.ts';
import { DEFAULT_RULE } from '../../core/screening/rule.ts';
import { testStudy } from '../../core/testing-study.ts';
import { type Asked, type Design, type Spread, draw, nameOf, percent } from './design.ts';

/** Two tests of items that have not changed; what the tests as a whole differ by is `shift`, in SDs. */
function ratesSince(design: Design, shift: number, count: number, seed: number) {
  const random = seededRandom(seed);
  let [changes, out] = [0, 0];
  for (let study = 0; study < count; study += 1) {
    const truth = Array.from({ length: design.items }, () => 2 * random.normal());
    const [then, now] = [0, shift].map((moved) => {
      const drawn = draw(
        design,
        truth.map((value) => value + moved),
        random,
      );
      const made = testStudy(
        drawn.map(({ item }) => `Item ${item}`),
        { rounds: design.readings, ...(design.rounds ? {} : { runOrder: 'full-shuffle' }) },
      );
      made.measurand.rule = { ...DEFAULT_RULE };
      if (design.coarse) made.measurand.instrument = { ...made.measurand.instrument, resolution: 2 };
      for (let round = 0; round < design.readings; round += 1) {
        drawn.forEach(({ values }, item) => made.read(item, round + 1, (values[round] as number).toFixed(3)));
      }
      return made;
    }) as [ReturnType<typeof testStudy>, ReturnType<typeof testStudy>];
    const since = sinceEarlier(
      now.document,
      now.measurand.id,
      occasionOf(now.document),
      [{ occasion: occasionOf(then.document), matches: [] }],
      { settingKey: '', lessAmbient: false },
    );
    const found = since?.changes.map(([change]) => change) ?? [];
    if (found.some((change) => change?.verdict === 'rises' || change?.verdict === 'falls')) changes += 1;
    if (found.some((change) => change?.beyond?.standsOut)) out += 1;
  }
  return { changes: changes / count, out: out / count };
}

/** What is said to have changed since an earlier test. */
export function since({ studies, long }: Asked): void {
  console.log(
    `\n${'items x readings, nothing changed since (or all alike)'.padEnd(58)} change    out  (out)`,
  );
  const sizes = [[2, 4], [3, 3], [5, 4], [6, 8], ...(long ? [[12, 5]] : [])] as [number, number][];
  sizes.forEach(([items, readings], i) => {
    for (const rounds of [true, false]) {
      for (const spread of ['equal', 'graded 1:4', 'one × 10'] as Spread[]) {
        for (const coarse of spread === 'equal' ? [false, true] : [false]) {
          const design = { items, readings, rounds, spread, slips: true, coarse, looks: false };
          const same = ratesSince(design, 0, studies, 9000 + i);
          const moved = ratesSince(design, 6, studies, 9100 + i);
          const name = `${String(items)}x${String(readings)}, ${nameOf(design).split(', ').slice(1, 5).join(', ')}`;
          console.log(
            `${name.padEnd(58)}${percent(same.changes)} ${percent(same.out)} ${percent(moved.out)}`,
          );
        }
      }
    }
  });
}
