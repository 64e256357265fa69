import { ALPHA } from '../../core/model/alpha.ts';
import { seededRandom } from '../../core/random/seeded.ts';
import { summarise } from '../../core/summary/summary.ts';
import type { Typed } from '../../core/summary/typed.ts';
import { type Asked, type Spread, draw, judge, nameOf, percent } from './design.ts';

/** How often an item is falsely named ahead where some items are known from elsewhere only, and none is better. */
export function elsewhere({ studies, long }: Asked): void {
  console.log(`\n${'items x readings, so many from elsewhere, none is better'.padEnd(62)} summary   range`);
  const sizes = [[3, 4, 1], [6, 5, 1], [6, 8, 3], ...(long ? [[12, 5, 6]] : [])] as [
    number,
    number,
    number,
  ][];
  sizes.forEach(([items, readings, typed], i) => {
    for (const rounds of [true, false]) {
      for (const spread of ['equal', 'graded 1:4', 'one × 10'] as Spread[]) {
        const design = { items, readings, rounds, spread, slips: false, coarse: false, looks: false };
        const random = seededRandom(13000 + i);
        const wrong = { summary: 0, range: 0 };
        for (let study = 0; study < studies; study += 1) {
          for (const kind of ['summary', 'range'] as const) {
            const read = draw(design, Array<number>(items).fill(0), random);
            // Read elsewhere, on other days: their drift is theirs.
            const there = draw(design, Array<number>(items).fill(0), random);
            const known = read.map((item, index) =>
              index < items - typed
                ? item
                : {
                    item: item.item,
                    values: [],
                    typed: stated(kind, there[index]?.values ?? [], random.unit()),
                  },
            );
            const { pairs } = judge(design, known, ALPHA);
            if (pairs.some(({ verdict }) => verdict.endsWith('ahead'))) wrong[kind] += 1;
          }
        }
        const name = `${String(items)}x${String(readings)}, ${String(typed)} from elsewhere, ${nameOf(design).split(', ').slice(1, 4).join(', ')}`;
        console.log(
          `${name.padEnd(62)}${percent(wrong.summary / studies)} ${percent(wrong.range / studies)}`,
        );
      }
    }
  });
}

/** What is said of readings: their summary, or a range that holds what is true, with the truth at any place in it. */
function stated(kind: Typed['kind'], values: ArrayLike<number>, place: number): Typed {
  if (kind === 'range') return { kind, low: 50 - place, high: place > 0.5 ? null : 51 - place };
  const { n, mean, sd, min, max } = summarise(values, ALPHA);
  return { kind, n, mean: mean ?? Number.NaN, sd, low: min, high: max };
}
