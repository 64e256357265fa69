/**
 * Simulates whole studies through `analyse`, as a page calls it, and prints how often its promises are broken.
 *   tsx scripts/promise.ts [--studies 400] [--long] [--only rounds,6x8]
 */
import { parseArgs } from 'node:util';
import { type ItemReadings, analyse } from '../core/analysis/analyse.ts';
import { pairsAgainst } from '../core/analysis/against-baseline.ts';
import { scoreBasis } from '../core/analysis/score-basis.ts';
import { classScores, classVerdicts } from '../core/analysis/scores.ts';
import { occasionOf } from '../core/analysis/occasion.ts';
import { sinceEarlier } from '../core/analysis/since.ts';
import { overLevels } from '../core/analysis/over-levels.ts';
import { analyseStudy } from '../core/analysis/analyse-study.ts';
import { ALPHA } from '../core/model/alpha.ts';
import { NO_CORRECTIONS } from '../core/model/new-study.ts';
import { lookLevels } from '../core/plan/looks.ts';
import { type SeededRandom, seededRandom } from '../core/random/seeded.ts';
import { DEFAULT_RULE } from '../core/screening/rule.ts';
import { SCORING_SCHOOLS } from '../core/model/words.ts';
import { scored } from '../core/rank/scores.ts';
import { levelledStudy, severalStudy, testId, testStudy } from '../core/testing-study.ts';

const SPREADS = {
  equal: () => 1,
  'graded 1:4': (item: number, items: number) => 1 + (3 * item) / (items - 1),
  'one × 4': (item: number) => (item === 0 ? 4 : 1),
  'one × 10': (item: number) => (item === 0 ? 10 : 1),
};
type Spread = keyof typeof SPREADS;

/** How a study is made. */
interface Design {
  items: number;
  readings: number;
  rounds: boolean;
  spread: Spread;
  slips: boolean;
  coarse: boolean;
  looks: boolean;
}

/** SD of the drift between rounds, in SDs of a reading. */
const DRIFT = 4;
/** One reading in fifteen is ten SDs off. */
const SLIP = { share: 1 / 15, by: 10 };

const sdOf = ({ spread, items }: Design, item: number) => SPREADS[spread](item, items);
/** A coarse instrument's step is twice the SD. */
const stepOf = ({ coarse }: Design) => (coarse ? 2 : undefined);

function draw(design: Design, truth: readonly number[], random: SeededRandom): ItemReadings[] {
  const { items, readings, rounds, slips } = design;
  const step = stepOf(design);
  const drift = Array.from({ length: readings }, () => (rounds ? DRIFT * random.normal() : 0));
  return Array.from({ length: items }, (_, item) => {
    const sd = sdOf(design, item);
    const values = drift.map((shift) => {
      const slip = slips && random.unit() < SLIP.share ? (random.unit() < 0.5 ? -1 : 1) * SLIP.by * sd : 0;
      const value = 50 + (truth[item] as number) + shift + sd * random.normal() + slip;
      return step === undefined ? value : Math.round(value / step) * step;
    });
    return {
      item: String(item),
      values,
      ...(rounds ? { rounds: values.map((_value, round) => round) } : {}),
    };
  });
}

const judge = (design: Design, readings: ItemReadings[], alpha: number, margin = 0) =>
  analyse(readings, {
    better: { kind: 'higher' },
    rule: { ...DEFAULT_RULE, strict: design.looks },
    alpha: ALPHA,
    pairAlpha: alpha,
    margin: { kind: 'absolute', value: margin },
    resolution: stepOf(design),
    resamples: 0,
    seed: 1,
  });

/** The first readings of a study, as at a look. */
const upTo = (readings: ItemReadings[], count: number): ItemReadings[] =>
  readings.map(({ item, values, rounds }) => ({
    item,
    values: Array.from(values).slice(0, count),
    ...(rounds ? { rounds: Array.from(rounds).slice(0, count) } : {}),
  }));

/** Readings at each look, and the level of each; one look at the end without a plan. */
function looksOf({ looks, readings }: Design): { at: number[]; levels: number[] } {
  const at = looks
    ? [...new Set([Math.ceil(readings / 2), Math.ceil((3 * readings) / 4), readings])].filter((n) => n > 1)
    : [readings];
  return {
    at,
    levels: lookLevels(
      at.map((n) => n / readings),
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
  const { at, levels } = looksOf(design);
  const count = { ahead: 0, places: 0, same: 0, power: 0 };
  for (let study = 0; study < studies; study += 1) {
    const quiet = draw(design, equal, random);
    if (
      at.some((n, look) =>
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

const { values: given } = parseArgs({
  options: {
    studies: { type: 'string' },
    long: { type: 'boolean', default: false },
    only: { type: 'string' },
  },
});
const studies = Number(given.studies ?? (given.long ? 2000 : 300));
const words = (given.only ?? '').split(',').filter((word) => word !== '');
const nameOf = ({ items, readings, rounds, spread, slips, coarse, looks }: Design) =>
  [
    `${String(items)}x${String(readings)}`,
    rounds ? 'rounds' : 'independent',
    spread,
    slips ? 'slips' : 'clean',
    coarse ? 'coarse' : 'fine',
    looks ? 'looks' : 'end',
  ].join(', ');
const percent = (share: number) => (100 * share).toFixed(1).padStart(6);

console.log(
  `Per cent of ${String(studies)} studies (± ${((100 * 2 * Math.sqrt(0.05 * 0.95)) / Math.sqrt(studies)).toFixed(1)} at 5 %)`,
);
console.log(`${'study'.padEnd(58)} ahead places   same  power`);
const worst: { name: string; ahead: number }[] = [];
let sum = 0;
designs(given.long).forEach((design, i) => {
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

if (words.length === 0 || words.includes('levels')) {
  console.log(`\n${'items x levels x readings, nothing to find'.padEnd(58)} change  ahead`);
  const sizes = [
    [2, 2, 5],
    [3, 3, 3],
    [5, 3, 5],
    [6, 2, 8],
    ...(given.long
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

/** What the items of a scored study are by each measurand, in standard errors of a mean. */
const TRUTHS: Record<string, (item: number, measurand: number, random: SeededRandom) => number> = {
  equal: () => 0,
  'some alike': (_item, _measurand, random) => 3 * random.below(3),
  'two make up': (item, measurand) =>
    item < 2 ? ((item + measurand) % 2 === 0 ? 3 : -3) : item % 2 === 0 ? 8 : -8,
};

/** Of each school, studies in which one is called ahead by its score that is not, and in which one rightly is. */
function ratesOfScores(design: Design, measurands: number, truth: string, count: number, seed: number) {
  const random = seededRandom(seed);
  const { items, readings, rounds } = design;
  const found = SCORING_SCHOOLS.map((school) => ({ school, wrong: 0, right: 0 }));
  for (let study = 0; study < count; study += 1) {
    const se = 1 / Math.sqrt(readings);
    const means = Array.from({ length: measurands }, (_m, measurand) =>
      Array.from({ length: items }, (_i, item) => se * (TRUTHS[truth]?.(item, measurand, random) ?? 0)),
    );
    const drawn = means.map((row) => draw(design, row, random));
    const made = severalStudy(
      { items, measurands, rounds: readings },
      ({ item, measurand, round }) => drawn[measurand]?.[item]?.values[round - 1],
    );
    for (const measurand of made.measurands) {
      measurand.rule = { ...DEFAULT_RULE };
      measurand.direction = { kind: 'higher', target: null };
    }
    if (!rounds) made.document.study.runOrder = 'full-shuffle';
    const basis = scoreBasis(made.document);
    const [group] = basis.classes;
    if (!group) throw new Error('Nothing was read.');
    for (const rate of found) {
      const scoring = { school: rate.school, missing: 'score-the-rest', weights: [] } as const;
      const scores = classScores(group, { ...scoring, weights: [] });
      if (scores.notScored !== undefined) continue;
      const truths = scored(
        group.criteria.map((criterion, i) => ({
          ...criterion,
          values: (means[i] as number[]).map((mean) => 50 + mean),
        })),
        scores.weights,
        scoring,
      ).scores as number[];
      const leads = classVerdicts(scores, { ...scoring, weights: [] }, basis).pairs.flatMap(
        ({ a, b, verdict }) => {
          const lead = (truths[a] as number) - (truths[b] as number);
          return verdict === 'a ahead' ? [lead] : verdict === 'b ahead' ? [-lead] : [];
        },
      );
      if (leads.some((lead) => lead < 1e-9)) rate.wrong += 1;
      if (leads.some((lead) => lead >= 1e-9)) rate.right += 1;
    }
  }
  return found.map(({ school, wrong, right }) => ({ school, wrong: wrong / count, right: right / count }));
}

if (words.length === 0 || words.includes('scores')) {
  console.log(
    `\n${'items x measurands x readings, wrongly ahead (rightly)'.padEnd(58)} ${SCORING_SCHOOLS.map((school) => school.padStart(14)).join(' ')}`,
  );
  const sizes = [
    [3, 2, 4],
    [3, 3, 8],
    [6, 2, 5],
    ...(given.long
      ? [
          [2, 2, 5],
          [6, 4, 5],
          [12, 3, 4],
        ]
      : []),
  ] as [number, number, number][];
  sizes.forEach(([items, measurands, readings], i) => {
    for (const rounds of [true, false]) {
      for (const spread of ['equal', 'graded 1:4', 'one × 10'] as Spread[]) {
        for (const truth of Object.keys(TRUTHS)) {
          const design = { items, readings, rounds, spread, slips: true, coarse: false, looks: false };
          const found = ratesOfScores(design, measurands, truth, studies, 7000 + i);
          const name = `${String(items)}x${String(measurands)}x${String(readings)}, ${rounds ? 'rounds' : 'independent'}, ${spread}, ${truth}`;
          console.log(
            `${name.padEnd(58)} ${found.map(({ wrong, right }) => `${percent(wrong)} (${percent(right).trim()})`.padStart(14)).join(' ')}`,
          );
        }
      }
    }
  });
}

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

if (words.length === 0 || words.includes('since')) {
  console.log(
    `\n${'items x readings, nothing changed since (or all alike)'.padEnd(58)} change    out  (out)`,
  );
  const sizes = [[2, 4], [3, 3], [5, 4], [6, 8], ...(given.long ? [[12, 5]] : [])] as [number, number][];
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

if (words.length === 0 || words.includes('baseline')) {
  console.log(`\n${'items x readings, none differs from the baseline'.padEnd(58)}    own dunnett`);
  const sizes = [[3, 4], [6, 5], [6, 8], ...(given.long ? [[12, 5]] : [])] as [number, number][];
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

if (words.length === 0 || words.includes('estimates')) {
  const open = [0, 1, 4];
  console.log(
    `\n${'items x readings, ambient estimated to ± so many SDs'.padEnd(58)} ${open.map((size) => String(size).padStart(6)).join(' ')}`,
  );
  const sizes = [[2, 5], [3, 4], [6, 8], ...(given.long ? [[12, 5]] : [])] as [number, number][];
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
