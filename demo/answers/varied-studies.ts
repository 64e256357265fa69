import { NO_CORRECTIONS } from '../../core/model/new-study.ts';
import type { Condition, Item, Measurand, Session } from '../../core/model/parts.ts';
import type { StudyDocument } from '../../core/model/study-document.ts';
import {
  MISSING_VALUES,
  CONFOUND_HANDLINGS,
  HAZARDS,
  ORDER_KINDS,
  REPORT_PARTS,
  RULE_JUDGES,
  WAIT_TIMES,
  RULE_LEVELS,
  RULE_NAMES,
  SCORING_SCHOOLS,
} from '../../core/model/words.ts';
import { newCondition } from '../../core/plan/new-parts.ts';
import { type SeededRandom, mixedRandom } from '../../core/random/seeded.ts';
import { severalStudy, testId, twoFactorStudy } from '../../core/testing-study.ts';

type Made = ReturnType<typeof severalStudy>;

/** One of a list, by chance. */
const oneOf = <T>(random: SeededRandom, list: readonly T[]): T => list[random.below(list.length)] as T;
const chance = (random: SeededRandom, share: number): boolean => random.unit() < share;

/** How a measurand is judged, by chance. */
function judged(random: SeededRandom, measurand: Measurand): void {
  const half = () => chance(random, 0.5);
  Object.assign(measurand, {
    unit: oneOf(random, ['g', 'm/s', '°C', 'dB', '%']),
    form: oneOf(random, ['value', 'value', 'value', 'level', 'score']),
    rule: {
      ...{ name: oneOf(random, RULE_NAMES), parameter: null },
      ...{ level: oneOf(random, RULE_LEVELS), judges: oneOf(random, RULE_JUDGES) },
    },
    direction: oneOf(random, [
      { kind: 'higher', target: null },
      { kind: 'lower', target: null },
      { kind: 'nearest', target: 12 },
      { kind: 'unranked', target: null },
    ]),
    margin: oneOf(random, [
      { kind: 'absolute', value: 0 },
      { kind: 'absolute', value: 0.4 },
      { kind: 'percent', value: 5 },
    ]),
    limits: half() ? { low: 2, high: 30 } : { low: null, high: null },
    instrument: {
      ...measurand.instrument,
      resolution: oneOf(random, [null, 0.01, 0.5]),
      accuracyPercent: oneOf(random, [null, 2]),
      accuracyConstant: oneOf(random, [null, 0.1]),
    },
  });
  // A mark is a whole number from 1 to 4, and a level has a direction of its own.
  if (measurand.form === 'score') measurand.unit = '';
}

/** What every part of a study begins with. */
const stampOf = ({ study: { id: studyId, version, createdAt, updatedAt } }: StudyDocument) => ({
  ...{ id: testId(), studyId, version, createdAt, updatedAt },
});

/** Sessions by two hands on two or three days, with a condition that is read at the start, and what each of them read. */
function inSessions(random: SeededRandom, document: StudyDocument): void {
  const condition: Condition = {
    ...{ ...stampOf(document), ...newCondition('Ambient', '°C', 1), required: false },
    ...{ tolerableDrift: 3, limits: { low: 15, high: 25 } },
  };
  document.conditions = [condition];
  document.sessions = Array.from({ length: 2 + random.below(2) }, (_, i): Session => {
    const day = `2026-03-${String(10 + i)}`;
    const startedAt = `${day}T08:00:00.000Z`;
    const number = Number((17 + 4 * random.unit()).toFixed(1));
    const read = { conditionId: condition.id, at: 'start' as const, takenAt: startedAt, number };
    return {
      ...{ ...stampOf(document), kind: 'bench', startedAt, endedAt: `${day}T18:00:00.000Z` },
      ...{ operator: `Hand ${String((i % 2) + 1)}`, instrument: `Meter ${String((i % 2) + 1)}` },
      conditions: chance(random, 0.8) ? [{ ...read, text: String(number) }] : [],
      ...{ checked: [], acknowledged: [], pauses: [], continuesId: null, note: '' },
    };
  });
  document.readings.forEach((reading, i) => {
    const part = Math.floor((i * document.sessions.length) / document.readings.length);
    const { id, startedAt } = document.sessions[part] as Session;
    reading.sessionId = id;
    reading.takenAt = new Date(Date.parse(startedAt) + 60000 * i).toISOString();
  });
  for (const measurand of document.measurands) {
    if (measurand.form !== 'value' || !chance(random, 0.4)) continue;
    const points = [
      { indicated: 10, is: 10.2 },
      { indicated: 20, is: 20.1 },
    ];
    const estimates = [{ sessionId: null, value: 19, mayBeOff: 2 }];
    measurand.corrections = {
      ...NO_CORRECTIONS,
      calibrations: [{ on: true, instrument: 'Meter 1', mayBeOff: 0.1, points }],
      ambient: { on: true, conditionId: condition.id, reference: 20, perUnit: 0.05, estimates },
    };
  }
}

const FIGURES = [
  { kind: 'summary', n: 8, mean: 13.1, sd: 0.6, low: 12, high: 14.2 },
  { kind: 'range', n: null, mean: null, sd: null, low: 12, high: 14 },
  { kind: 'range', n: null, mean: null, sd: null, low: 14, high: null },
] as const;

/** What is known from elsewhere, what was decided by hand, and what is claimed. */
function told(random: SeededRandom, { document, items, decide }: Made): void {
  const [measurand] = document.measurands as [Measurand];
  const last = items.at(-1) as Item;
  const nowhere = { factorId: null, attribute: '', stepSize: null, itemId: null, value: null, unit: '' };
  if (measurand.form !== 'score' && chance(random, 0.4)) {
    document.readings = document.readings.filter(
      ({ itemId, measurandId }) => itemId !== last.id || measurandId !== measurand.id,
    );
    document.figures.push({
      ...{ ...stampOf(document), itemId: last.id, measurandId: measurand.id, levels: [], source: 'a sheet' },
      ...oneOf(random, FIGURES),
    });
  }
  for (const { id } of document.readings) {
    if (!chance(random, 0.04)) continue;
    decide(oneOf(random, ['leave-out', 'keep', 'misfire', 'withdraw'] as const), {
      ...{ readingId: id, reason: 'seen' },
    });
  }
  const claim = { ...nowhere, measurandId: measurand.id, order: [], source: 'a maker' };
  document.claims = [
    { ...stampOf(document), ...claim, kind: 'order', order: items.map(({ id }) => id).slice(0, 3) },
    { ...stampOf(document), ...claim, kind: 'figure', itemId: last.id, value: 12, unit: measurand.unit },
    {
      ...stampOf(document),
      ...claim,
      kind: 'step',
      attribute: 'Price',
      value: 1,
      stepSize: 3,
      unit: measurand.unit,
    },
  ];
}

/** How the work was planned, what is warned of, what was said about it, and what is to be told. */
function planned(random: SeededRandom, document: StudyDocument): void {
  const { study, items, measurands } = document;
  const some = <T>(list: readonly T[]): T[] => list.filter(() => chance(random, 0.3));
  const [first] = items as [Item];
  study.rounds += random.below(3);
  study.runOrder = oneOf(random, ORDER_KINDS);
  study.timing = { ...study.timing, levelS: 30 * random.below(3), sessionsPerDay: 1 + random.below(3) };
  study.procedure = {
    beforeSession: some(['Level the bench', 'Warm up the meter']),
    beforeReading: some(['Wait for the display']),
    waits: [
      { what: 'Warm-up', durationS: 600, when: 'session' as const },
      { what: 'Settle', durationS: 20, when: oneOf(random, WAIT_TIMES) },
    ].slice(random.below(3)),
  };
  study.materials = some(['Scale', 'Stand', 'Water']);
  study.confounds = some(CONFOUND_HANDLINGS).map((handling) => ({
    ...{ what: `Cable, ${handling}`, handling, note: 'short' },
  }));
  study.hazards = some(HAZARDS);
  study.blind = oneOf(random, ['no', 'no', 'no', 'opened', 'blind']);
  study.deviations = some(['One cup fell', 'Done in the yard']).map((text) => ({
    text,
    notedAt: study.createdAt,
  }));
  study.report = {
    ...{ order: some(REPORT_PARTS), hidden: some(REPORT_PARTS), photos: [] },
    words: some(REPORT_PARTS).map((under) => ({ under, text: `About the ${under}: 12 g`, figures: [] })),
  };
  for (const measurand of measurands) {
    if (measurand.direction.kind !== 'unranked' && chance(random, 0.3))
      measurand.spec = {
        kind: 'absolute',
        low: 11,
        high: oneOf(random, [null, 13.5]),
        below: null,
        share: 95,
      };
    if (chance(random, 0.3)) measurand.controls = [{ itemId: first.id, low: 9, high: 12 }];
  }
  document.notes = document.readings
    .filter(() => chance(random, 0.05))
    .map(({ id: readingId, takenAt }) => ({
      ...{ ...stampOf(document), readingId, itemId: null, sessionId: null, run: null, photo: null },
      ...{ text: 'rattles', removed: chance(random, 0.2), notedAt: takenAt },
    }));
}

/**
 * A test of the same items some years before: hardly anything changed, all of them moved alike, or one of them did
 * by itself.
 */
export function testBefore(document: StudyDocument, years: number): StudyDocument {
  const random = mixedRandom(document.study.seed, years);
  const studyId = testId();
  // Every part says whose it is.
  const then = JSON.parse(JSON.stringify(document).replaceAll(document.study.id, studyId)) as StudyDocument;
  const moved = oneOf(random, [0, 0, 3]);
  const odd = random.below(then.items.length);
  const by = then.items.map((_, i) => moved + (i === odd ? oneOf(random, [0, 4]) : 0));
  const yearsBefore = (instant: string) =>
    `${String(Number(instant.slice(0, 4)) - years)}${instant.slice(4)}`;
  const places = new Map(then.items.map(({ id }, i) => [id, i]));
  then.study.title = `The test ${String(years)} before`;
  for (const session of then.sessions) session.startedAt = yearsBefore(session.startedAt);
  for (const reading of then.readings) {
    const more = (by[places.get(reading.itemId) ?? 0] ?? 0) + 0.2 * random.normal();
    reading.takenAt = yearsBefore(reading.takenAt);
    reading.parts = reading.parts.map((part) => {
      if (part.name !== 'value' || part.number === null) return part;
      const number = Number((part.number + more).toFixed(2));
      return { ...part, number, text: String(number) };
    });
  }
  // One of them was not there yet.
  const last = then.items.at(-1);
  if (last && then.items.length > 2 && chance(random, 0.4)) last.name = 'Something else';
  return then;
}

/**
 * A study of seeded chance: a few items in classes, a few measurands that are each judged in another way, perhaps two
 * factors, sessions, corrections, decisions and figures from elsewhere. Another one for each number.
 */
export function variedStudy(number: number): StudyDocument {
  const random = mixedRandom(20260310, number);
  const design = { items: 2 + random.below(4), rounds: 2 + random.below(6) };
  const spread = oneOf(random, [0.1, 0.5, 2]);
  const apart = oneOf(random, [0, 0.3, 2]);
  const valueOf = (item: number, more: number): number | undefined =>
    chance(random, 0.05)
      ? undefined
      : 10 + apart * item + more + spread * random.normal() + (chance(random, 0.03) ? 8 : 0);
  const made: Made = chance(random, 0.5)
    ? severalStudy({ ...design, measurands: 1 + random.below(3) }, ({ item, measurand, round }) =>
        valueOf(item, measurand + 0.05 * round),
      )
    : (twoFactorStudy(
        {
          ...design,
          rounds: Math.min(3, design.rounds),
          levels: 2 + random.below(2),
          others: oneOf(random, [['only'], ['open', 'shut']]),
        },
        ({ item, level, other }) => valueOf(item, (level + 1) * (1 + 0.2 * item) + other),
      ) as unknown as Made);
  const { document, items } = made;
  for (const measurand of document.measurands) judged(random, measurand);
  for (const reading of document.readings) {
    const measurand = document.measurands.find(({ id }) => id === reading.measurandId);
    const name = { level: 'level', score: 'mark' }[measurand?.form ?? ''] ?? 'value';
    reading.parts = reading.parts.map((part) => {
      const number = name === 'mark' ? 1 + (Math.round(part.number ?? 0) % 4) : part.number;
      return { ...part, name, number, text: name === 'mark' ? String(number) : part.text };
    });
  }
  items.forEach((item, i) => {
    item.attributes = [
      { name: 'Price', value: chance(random, 0.9) ? 10 + 3 * i : null, unit: 'money' },
      { name: 'Mass', value: 2 + ((i * 7) % 5), unit: 'kg' },
    ];
    if (items.length > 3 && i === items.length - 1 && chance(random, 0.3)) item.role = 'control';
    if (items.length > 3 && chance(random, 0.3)) item.class = 'Small';
  });
  if (chance(random, 0.6)) inSessions(random, document);
  told(random, made);
  document.study.looks = oneOf(random, [
    { after: [], spending: 'late' as const },
    { after: [1], spending: 'even' as const },
  ]);
  document.study.scoring = {
    school: oneOf(random, SCORING_SCHOOLS),
    missing: oneOf(random, MISSING_VALUES),
    weights: document.measurands
      .filter(({ direction }) => direction.kind !== 'unranked')
      .map(({ id }) => ({ measurandId: id, weight: oneOf(random, [0, 0.5, 1]) })),
  };
  planned(random, document);
  return document;
}
