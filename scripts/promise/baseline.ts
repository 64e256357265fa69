import { pairsAgainst } from '../../core/analysis/against-baseline.ts';
import { ALPHA } from '../../core/model/alpha.ts';
import { seededRandom } from '../../core/random/seeded.ts';
import { type Asked, type Spread, draw, judge, nameOf, percent } from './design.ts';

/** What is said to differ from the baseline alone. */
export function baseline({ studies, long }: Asked): void {
  console.log(`\n${'items x readings, none differs from the baseline'.padEnd(58)}    own dunnett`);
  const sizes = [[3, 4], [6, 5], [6, 8], ...(long ? [[12, 5]] : [])] as [number, number][];
  sizes.forEach(([items, readings], i) => {
    for (const rounds of [true, false]) {
      for (const spread of ['equal', 'graded 1:4', 'one × 10'] as Spread[]) {
        const design = { items, readings, rounds, spread, slips: true, coarse: false, looks: false };
        const random = seededRandom(11000 + i);
        const wrong = { 'own-spreads': 0, dunnett: 0 };
        for (let study = 0; study < studies; study += 1) {
          const analysis = judge(design, draw(design, Array<number>(items).fill(0), random), ALPHA);
          for (const family of ['own-spreads', 'dunnett'] as const) {
            const beyond = pairsAgainst(analysis, 0, family).some(
              ({ a, b, low, high }) => (a === 0 || b === 0) && ((low ?? 0) > 0 || (high ?? 0) < 0),
            );
            if (beyond) wrong[family] += 1;
          }
        }
        const name = `${String(items)}x${String(readings)}, ${nameOf(design).split(', ').slice(1, 5).join(', ')}`;
        console.log(
          `${name.padEnd(58)}${percent(wrong['own-spreads'] / studies)} ${percent(wrong.dunnett / studies)}`,
        );
      }
    }
  });
}
