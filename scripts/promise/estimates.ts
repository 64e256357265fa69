import { analyseStudy } from '../../core/analysis/analyse-study.ts';
import { NO_CORRECTIONS } from '../../core/model/new-study.ts';
import { seededRandom } from '../../core/random/seeded.ts';
import { DEFAULT_RULE } from '../../core/screening/rule.ts';
import { testId, testStudy } from '../../core/testing-study.ts';
import { type Asked, type Design, draw, percent } from './design.ts';

/** Which of two sessions a reading is of. */
const SESSIONS: Record<string, (item: number, round: number, design: Design) => 0 | 1> = {
  'each item in one': (item) => (item % 2 === 0 ? 0 : 1),
  'shared unevenly': (item, round, { items, readings }) => (round * items < item * readings ? 0 : 1),
  'rounds in turn': (_item, round) => (round % 2 === 0 ? 0 : 1),
};

/** Studies of equal items, set right by ambients that were estimated to within `mayBeOff` SDs, in which somebody is called ahead. */
function rateOfEstimates(design: Design, split: string, mayBeOff: number, count: number, seed: number) {
  const random = seededRandom(seed);
  let ahead = 0;
  for (let study = 0; study < count; study += 1) {
    const drawn = draw(design, Array<number>(design.items).fill(0), random);
    const made = testStudy(
      drawn.map(({ item }) => `Item ${item}`),
      { rounds: design.readings, ...(design.rounds ? {} : { runOrder: 'full-shuffle' }) },
    );
    const conditionId = testId();
    const sessions = [testId(), testId()].map((sessionId) => ({
      sessionId,
      ambient: 20 + 4 * random.normal(),
    }));
    made.measurand.rule = { ...DEFAULT_RULE };
    made.measurand.corrections = {
      ...NO_CORRECTIONS,
      ambient: {
        ...{ on: true, conditionId, reference: 20, perUnit: 1 },
        estimates: sessions.map(({ sessionId, ambient }) => ({
          ...{ sessionId, mayBeOff },
          value: ambient + mayBeOff * (2 * random.unit() - 1),
        })),
      },
    };
    for (let round = 0; round < design.readings; round += 1) {
      drawn.forEach(({ values }, item) => {
        const session = sessions[SESSIONS[split]?.(item, round, design) ?? 0];
        const read = (values[round] as number) + (session?.ambient ?? 20) - 20;
        made.read(item, round + 1, read.toFixed(3)).sessionId = session?.sessionId ?? null;
      });
    }
    const group = analyseStudy(made.document, made.measurand.id, { resamples: 0 }).settings[0]?.classes[0];
    if (group?.analysis.pairs.some(({ verdict }) => verdict.endsWith('ahead'))) ahead += 1;
  }
  return ahead / count;
}

/** Who is called ahead where readings are set right by estimates. */
export function estimates({ studies, long }: Asked): void {
  const open = [0, 1, 4];
  console.log(
    `\n${'items x readings, ambient estimated to ± so many SDs'.padEnd(58)} ${open.map((size) => String(size).padStart(6)).join(' ')}`,
  );
  const sizes = [[2, 5], [3, 4], [6, 8], ...(long ? [[12, 5]] : [])] as [number, number][];
  sizes.forEach(([items, readings], i) => {
    for (const rounds of [true, false]) {
      for (const split of Object.keys(SESSIONS)) {
        const design: Design = {
          ...{ items, readings, rounds, spread: 'equal' },
          ...{ slips: false, coarse: false, looks: false },
        };
        const found = open.map((size) => rateOfEstimates(design, split, size, studies, 13000 + i));
        const name = `${String(items)}x${String(readings)}, ${rounds ? 'rounds' : 'independent'}, ${split}`;
        console.log(`${name.padEnd(58)} ${found.map(percent).join(' ')}`);
      }
    }
  });
}
