import { precisionOf } from '../../core/analysis/precision.ts';
import { pooledSpread } from '../../core/analysis/pooled-spread.ts';
import { inspectStudy } from '../../core/analysis/inspect-study.ts';
import { NOTHING_CHOSEN, oddLength, saying, soundsOf } from '../../core/bench/heard.ts';
import { checkClaims } from '../../core/claims/check.ts';
import type { Better } from '../../core/compare/better.ts';
import { type PairDifference, allPairs } from '../../core/compare/method.ts';
import { verdictOf } from '../../core/compare/verdict.ts';
import { READING_FORMS, settingProblems } from '../../core/forms/index.ts';
import type { ReadingForm } from '../../core/forms/form.ts';
import { allSettings } from '../../core/forms/read-parts.ts';
import type { Claim, FormSettings, Measurand } from '../../core/model/parts.ts';
import { MISSING_VALUES, SCORING_SCHOOLS } from '../../core/model/words.ts';
import { planFindings } from '../../core/plan/findings.ts';
import { letGo, withForm, withSettings, withUnit } from '../../core/plan/meaning.ts';
import { newMeasurand, newSession } from '../../core/plan/new-parts.ts';
import { scoreVerdicts } from '../../core/rank/score-verdicts.ts';
import { balanced, scored, scoredReach, sharesOf, withShare } from '../../core/rank/scores.ts';
import { TRACK_STEP_S } from '../../core/sound/track.ts';
import { levelledStudy, simulatedStudy, testId, testStudy } from '../../core/testing-study.ts';
import { said } from './said.ts';

/** Every combination of what some things may be, in their order. */
function* combined<Choices extends Readonly<Record<string, readonly unknown[]>>>(
  choices: Choices,
): Generator<{ [Name in keyof Choices]: Choices[Name][number] }> {
  const [[name, values] = [], ...rest] = Object.entries(choices);
  if (name === undefined) {
    yield {} as never;
    return;
  }
  for (const value of values ?? [])
    for (const others of combined(Object.fromEntries(rest))) yield { [name]: value, ...others } as never;
}

const BETTER: readonly Better[] = [
  { kind: 'higher' },
  { kind: 'lower' },
  { kind: 'unranked' },
  { kind: 'nearest', target: 10 },
];

/** What is said of two items, by how far they are apart and how well that is known. */
const verdicts = (): unknown[] =>
  [
    ...combined({
      difference: [-2, -0.5, 0, 0.3, 1],
      se: [null, 0, 0.1, 0.5],
      better: BETTER,
      margin: [0, 0.3, 1],
      rounding: [0, 0.02],
      accuracy: [undefined, 0.4],
      counts: [[1, 1] as const, [5, 1] as const, [5, 5] as const],
      sum: [false, true],
    }),
  ].map(({ difference, se, better, margin, rounding, accuracy, counts, sum }) => {
    const around = (estimate: number, se: number) => ({
      ...{ estimate, se, low: estimate - 2 * se, high: estimate + 2 * se },
    });
    const known = se === null ? undefined : around(difference, se);
    const pair: PairDifference = {
      ...{ a: 0, b: 1, difference, se, df: 8, p: 0.03, critical: 2, fixed: 0 },
      ...{ low: known?.low ?? null, high: known?.high ?? null, variance: se === null ? null : 5 * se * se },
      ...(sum && se !== null ? { sum: around(20.4 + difference, se) } : {}),
    };
    const means = [10.2, 10.2 + difference] as const;
    return verdictOf({ pair, means, counts, better, margin, rounding, accuracy, alpha: 0.05 });
  });

/** Scores of four items by three criteria, with values that are missing, equal, known from elsewhere or of no spread. */
function* scores(): Generator<[string, unknown]> {
  const values = [
    [3, 4, 5, 3.5],
    [10, 10, 30, null],
    [-2, 0, 2, 1],
  ];
  const known = (se: number | null) =>
    values.map((row) =>
      row.map((mean) => (mean === null || se === null ? null : { mean, se: se * Math.abs(mean), df: 6 })),
    );
  for (const school of SCORING_SCHOOLS) {
    for (const missing of MISSING_VALUES) {
      const answers = [
        ...combined({
          weights: [
            [1, 0, 0],
            [0.5, 0.5, 0],
            [0.2, 0.3, 0.5],
            [0, 0, 0],
          ] as const,
          se: [null, 0, 0.05, 0.3],
          verdict: ['same', 'a ahead', 'not settled'] as const,
          ranges: [
            undefined,
            [null, null, null, { low: 15, high: 25 }],
            [null, { low: 5, high: null }, null, null],
          ],
        }),
      ].map(({ weights, se, verdict, ranges }) =>
        said(() => {
          const criteria = values.map((row, i) => ({
            ...{ measurandId: String(i), better: BETTER[i] as Better, hasRatios: i < 2, values: row },
            ...(ranges !== undefined && i === 1 ? { ranges } : {}),
            known: known(se)[i] ?? [],
            verdicts: allPairs(4).map(([a, b]) => ({ a, b, verdict })),
          }));
          const scoring = { school, missing };
          const found = scored(criteria, weights, scoring);
          return [
            found,
            scoredReach(criteria, weights, school, values),
            scoreVerdicts(criteria, weights, scoring, found, { alpha: 0.05, draws: 200, seed: 3 }),
          ];
        }),
      );
      yield [`scores by ${school}, ${missing}`, answers];
    }
  }
  const weights = [
    { measurandId: 'a', weight: 2 },
    { measurandId: 'b', weight: 0 },
    { measurandId: 'a', weight: 1 },
  ];
  yield [
    'weights',
    [
      [['a', 'b'], ['b'], ['c', 'd'], ['a', 'c']].map((ids) => sharesOf(ids, { weights })),
      [0, 1, 2].flatMap((changed) =>
        [-1, 0, 0.333, 0.6, 1, 2].map((to) => [
          balanced([0.5, 0.3, 0.2], changed, to),
          balanced([0.9995, 0.0005, 0], changed, to),
          balanced([1], 0, to),
          withShare([0.5, 0.5, 0], changed, to),
          withShare([0, 0, 1], changed, to),
        ]),
      ),
    ],
  ];
}

/** What settings of a form may be, one after the other other than usual. */
function settingsOf(form: ReadingForm): FormSettings[] {
  const usual = allSettings(form);
  return [
    usual,
    ...form.settings.flatMap((setting): FormSettings[] => {
      const others: readonly unknown[] =
        setting.kind === 'choice'
          ? setting.options.map(({ value }) => value)
          : setting.kind === 'whole'
            ? [setting.low, setting.low + 1, setting.high]
            : setting.kind === 'number'
              ? [0, 2.5]
              : setting.kind === 'yes'
                ? [true, false]
                : setting.kind === 'unit'
                  ? ['s', '°C']
                  : [['low', 'middle', 'high']];
      return others.map((other) => ({ ...usual, [setting.name]: other as never }));
    }),
  ];
}

const WRONG: readonly unknown[] = [
  null,
  -1,
  0.5,
  1e6,
  '',
  'none',
  'x'.repeat(24),
  'x'.repeat(25),
  true,
  [],
  ['a'],
  ['a', 'b'],
];
const TEXTS = ['3', '3', '5', '2', '12', '', 'x', '1:30', '0', '-4'];

/** What each form makes of what is typed, by its settings. */
function* forms(): Generator<[string, unknown]> {
  for (const form of READING_FORMS) {
    const answers = settingsOf(form).map((settings) => {
      const context = { unit: form.valueUnit?.(settings) ?? (form.unit || 'g'), settings };
      const asked = said(() => form.parts(context));
      if (typeof asked === 'string') return asked;
      return [
        [
          form.directionOf?.(settings),
          form.typicalS(context),
          form.cells?.(settings),
          form.filledFrom?.(settings),
        ],
        [form.how?.(settings), form.wrongSettings?.(settings), asked.slice(0, 12)],
        ...TEXTS.map((_, shift) => {
          const texts = Object.fromEntries(
            asked.map(({ name }, i) => [name, TEXTS[(i + shift) % (shift < 3 ? 3 : TEXTS.length)]]),
          );
          const read = form.read(texts, context);
          if ('problem' in read) return read;
          const { parts } = read;
          return [
            [form.value(parts, context), form.doubt?.(parts, context), form.reference?.(parts, settings)],
            [form.also?.(parts, context), form.interval?.(parts), form.counted?.([parts, parts], context)],
          ];
        }),
      ];
    });
    yield [`form ${form.name}`, answers];
    yield [
      `settings of ${form.name}`,
      [...form.settings.map(({ name }) => name), 'other'].map((name) =>
        WRONG.map((wrong) => settingProblems(form, { ...allSettings(form), [name]: wrong as never })),
      ),
    ];
  }
}

/** What another unit, form or setting leaves of what was said of a measurand. */
function* meanings(): Generator<[string, unknown]> {
  const measurands = READING_FORMS.map(({ name }): Measurand => ({
    ...testStudy(['Ama']).measurand,
    ...newMeasurand('Pull', 1, name),
    ...{ unit: '°C', margin: { kind: 'absolute', value: 2 }, limits: { low: 1, high: null } },
    direction: { kind: 'nearest', target: 20 },
    spec: { kind: 'absolute', low: -1, high: 2, below: { split: 10, within: 0.5 }, share: 0.9 },
    controls: [{ itemId: 'a', low: null, high: 30 }],
  }));
  const changed = (measurand: Measurand, changes: Partial<Measurand>) => [changes, letGo(measurand, changes)];
  for (const measurand of measurands) {
    yield [
      `meaning of ${measurand.form}`,
      [
        ...['', '°C', '°F', 'K', 'g', '%'].map((unit) => changed(measurand, withUnit(measurand, unit))),
        ...['', 'g'].map((unit) => changed({ ...measurand, unit }, withUnit({ ...measurand, unit }, 'kg'))),
        ...READING_FORMS.map(({ name }) => changed(measurand, withForm(measurand, name))),
        ...settingsOf(READING_FORMS.find(({ name }) => name === measurand.form) as ReadingForm).map(
          (settings) => changed(measurand, withSettings(measurand, settings)),
        ),
      ],
    ];
  }
}

/** What is asked of a plan that lacks one thing or another. */
const plans = (): unknown[] =>
  [
    ...combined({
      items: [0, 1, 2, 5],
      rounds: [1, 2, 3, 12],
      margin: [
        { kind: 'absolute', value: 0 },
        { kind: 'absolute', value: 0.05 },
        { kind: 'percent', value: 5 },
      ] as const,
      resolution: [null, 0.1],
      rule: ['none', 'peirce', 'generalized-esd'] as const,
    }),
  ].map(({ items, rounds, margin, resolution, rule }) => {
    const names = Array.from({ length: items }, (_, i) => `Item ${String(i + 1)}`);
    const { document, measurand } = testStudy(names, { rounds });
    Object.assign(measurand, { margin, rule: { ...measurand.rule, name: rule } });
    measurand.instrument = { ...measurand.instrument, resolution };
    return planFindings(document);
  });

/** What sounds in a recording, by what was chosen. */
function sounds(): unknown[] {
  const track = Float32Array.from({ length: 30 / TRACK_STEP_S }, (_, i) => {
    const t = (i + 0.5) * TRACK_STEP_S;
    if ([5, 12, 15.6, 22].some((from) => t >= from && t < from + 3)) return -50 + Math.sin(t);
    return t >= 19 && t < 19.3 ? -30 : -75 + Math.sin(9 * t);
  });
  const shotAt = (momentS: number) => ({ momentS });
  return [
    ...combined({
      apartS: [0.1, 0.7],
      lengthS: [undefined, 2],
      afterS: [-6, 0, 4],
      threshold: [undefined, { level: -40, through: 'A' }, { level: -60, through: 'Z' }],
      tones: [[], [{ from: 4, to: 6 }]],
      taken: [
        [],
        [
          { from: 12.5, to: 14 },
          { from: 1, to: 2 },
        ],
      ],
      saidOf: [false, true],
    }),
  ].map(({ apartS, lengthS, afterS, threshold, tones, taken, saidOf }) => {
    const found = soundsOf(
      track,
      {
        ...{ ...NOTHING_CHOSEN, apartS, afterS },
        ...(lengthS === undefined ? {} : { lengthS }),
        ...(threshold === undefined ? {} : { threshold }),
        ...(saidOf
          ? {
              ...{
                extras: [shotAt(19.1)],
                missed: [{ ...shotAt(12.2), count: 2 }],
                items: [{ ...shotAt(5), itemId: 'a' }],
              },
              ...{
                moved: [{ ...shotAt(22.5), from: 22.2, to: 23 }],
                added: [
                  { from: 9, to: 10 },
                  { from: 13, to: 13.5 },
                ],
              },
            }
          : {}),
      },
      { filters: { weighting: 'A' }, lengthS: 30, tones, taken },
    );
    return [found, found.map((sound) => oddLength(found, sound))];
  });
}

/** Claims about items over three levels, by what is claimed. */
function claims(): unknown[] {
  const made = levelledStudy({ items: 5, levels: 3, rounds: 4 }, ({ item, level, round }) =>
    item === 3 && level === 2
      ? undefined
      : 10 + item + 2 * level + ((7 * round + 3 * item + 5 * level) % 5) / 10,
  );
  const { document, measurand, items, factor } = made;
  items.forEach((item, i) => {
    item.attributes = [{ name: 'Price', value: i === 2 ? null : 5 * i, unit: 'money' }];
  });
  const { id: studyId, createdAt, updatedAt } = document.study;
  const claim: Claim = {
    ...{
      id: testId(),
      studyId,
      version: 1,
      createdAt,
      updatedAt,
      measurandId: measurand.id,
      source: 'a maker',
    },
    ...{
      kind: 'figure',
      order: [],
      factorId: null,
      attribute: '',
      stepSize: null,
      itemId: null,
      value: null,
      unit: '',
    },
  };
  const [a, b, c, d, e] = items.map(({ id }) => id) as [string, string, string, string, string];
  const claimed: Partial<Claim>[] = [
    ...[0, 10, 10.6, 11, 15].map((value) => ({ itemId: a, value, unit: 'g' })),
    ...[0.0104, 0.02].map((value) => ({ itemId: a, value, unit: 'kg' })),
    ...['', 's'].map((unit) => ({ itemId: d, value: 12, unit })),
    ...[[d, c, b, a], [a, b, c, d], [a, b, c, d, e], [e, d, c, b, a], [d, c, a, b], [c, d], [d]].map(
      (order) => ({
        kind: 'order' as const,
        order,
      }),
    ),
    ...[0, 1, 2, 2.1, -2].flatMap((value) =>
      [null, 1, 5].flatMap((stepSize): Partial<Claim>[] => [
        { kind: 'step', factorId: factor.id, value, stepSize, unit: 'g' },
        { kind: 'step', attribute: 'Price', value, stepSize, unit: 'g' },
      ]),
    ),
    { kind: 'step', attribute: 'Weight', value: 1, unit: 'g' },
  ];
  return [0, 0.5].flatMap((margin) =>
    claimed.map((change) => {
      measurand.margin = { kind: 'absolute', value: margin };
      document.claims = [{ ...claim, ...change }];
      return said(() => checkClaims(document, measurand.id));
    }),
  );
}

/** Who reads what, and when: by number of the item, the round and the place. */
const HANDS: Readonly<Record<string, (item: number, round: number, place: number) => number>> = {
  'one hand': () => 0,
  'round by round': (_, round) => round % 2,
  'item by item': (item) => item % 2,
  'half and half': (_, round) => (round > 4 ? 1 : 0),
  'in turn': (_item, _round, place) => place % 2,
  'three in turn': (_item, _round, place) => place % 3,
  'one item by two': (item, round) => (item === 0 ? round % 2 : 0),
  'a quarter': (_item, _round, place) => (place % 4 === 0 ? 1 : 0),
};

/** What a control is to read. */
const CONTROLS = [
  undefined,
  { low: 50.3, high: null },
  { low: null, high: 49.9 },
  { low: 49.5, high: 50.2 },
  { low: 49, high: 60 },
] as const;

/** What is said of studies that were read by some hands with some instruments, on a day each. */
function* hands(): Generator<[string, unknown]> {
  for (const [name, handOf] of Object.entries(HANDS)) {
    const answers = [
      ...combined({ items: [1, 3], off: [0, 1, 4], instruments: [1, 2], named: [true, false] }),
    ].map(({ items, off, instruments, named }, number) => {
      const made = simulatedStudy(
        { items, rounds: 8, step: 0.1 },
        number,
        (value, { item, round, place }) => value + off * handOf(item, round + 1, place),
      );
      const { document, measurand } = made;
      const { id: studyId, createdAt, updatedAt } = document.study;
      document.sessions = [0, 1, 2].map((hand) => ({
        ...{ id: testId(), studyId, version: 1, createdAt, updatedAt },
        ...newSession(`2026-03-1${String(hand)}T08:00:00.000Z`),
        operator: named ? `Hand ${String(hand)}` : '',
        instrument: `Meter ${String(hand % instruments)}`,
      }));
      document.readings.forEach((reading, place) => {
        const item = made.items.findIndex(({ id }) => id === reading.itemId);
        reading.sessionId = document.sessions[handOf(item, reading.round, place)]?.id ?? null;
      });
      // One of them is a control, for some of which the plan knows what it reads.
      const range = CONTROLS[number % CONTROLS.length];
      const [control] = made.items;
      if (range && control) {
        control.role = 'control';
        measurand.controls = [{ itemId: control.id, ...range }];
      }
      return [
        precisionOf(document, measurand.id),
        pooledSpread(document, measurand.id),
        inspectStudy(document),
      ];
    });
    yield [`hands: ${name}`, answers];
  }
}

/** What single pieces say while what they are asked about changes step by step. */
export function* sweptAnswers(): Generator<[string, unknown]> {
  yield ['verdicts', verdicts()];
  yield* scores();
  yield* forms();
  yield* meanings();
  yield ['plans', plans()];
  yield ['sounds', sounds()];
  const heard = { from: 2, to: 5 };
  yield ['saying', [1.994, 1.996, 2, 4.99, 5].map((momentS) => saying([{ momentS }], heard, { momentS: 3 }))];
  yield ['claims', claims()];
  yield* hands();
}
