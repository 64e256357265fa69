import { value } from './forms/value.ts';
import { EMPTY, NEW_STUDY } from './model/new-study.ts';
import type { Decision, Factor, Item, Level, Measurand, Reading } from './model/parts.ts';
import { newMeasurand } from './plan/new-parts.ts';
import type { StudyDocument } from './model/study-document.ts';
import { mixedRandom, shuffled } from './random/seeded.ts';
import { DEFAULT_RULE } from './screening/rule.ts';

const NOW = '2026-05-04T10:00:00.000Z';

/** What work that is done in steps comes to. */
export function finished<Answer>(steps: Generator<unknown, Answer>): Answer {
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}

let made = 0;
/** An id in the form of UUID version 7, later ids sort behind earlier ones. */
export function testId(): string {
  made += 1;
  return `01900000-${Math.floor(made / 4096)
    .toString(16)
    .padStart(4, '0')}-7${(made % 4096).toString(16).padStart(3, '0')}-8000-00000000ab1e`;
}

/** A text with each id in it named by when it comes first, so that it is the same whatever the ids are. */
export function idsNamed(text: string): string {
  const names = new Map<string, string>();
  return text.replace(/[0-9a-f]{8}-(?:[0-9a-f]{4}-){3}[0-9a-f]{12}/g, (id) => {
    const name = names.get(id) ?? `id ${String(names.size + 1)}`;
    names.set(id, name);
    return name;
  });
}

/** A small study to test with: items, one measurand in g, and whatever is put in. */
export function testStudy(itemNames: readonly string[], change: Partial<StudyDocument['study']> = {}) {
  const studyId = testId();
  const stamp = { studyId, version: 1, createdAt: NOW, updatedAt: NOW };
  const items = itemNames.map((name, i): Item => ({
    id: testId(),
    ...stamp,
    name,
    code: `I${String(i + 1)}`,
    mark: i % 12,
    role: 'candidate',
    class: '',
    attributes: [],
    position: i + 1,
  }));
  const measurand: Measurand = {
    id: testId(),
    ...stamp,
    ...structuredClone(newMeasurand('Pull', 1)),
    unit: 'g',
    rule: { name: 'none', parameter: null, level: 'study', judges: 'distance' },
  };
  const document: StudyDocument = {
    ...structuredClone(EMPTY),
    study: {
      id: studyId,
      version: 1,
      createdAt: NOW,
      updatedAt: NOW,
      title: 'Test study',
      question: '',
      // Tests change what they hold, and the next one is to begin as this one did.
      ...structuredClone(NEW_STUDY),
      rounds: 3,
      seed: 5,
      ...change,
    },
    items,
    measurands: [measurand],
    readings: [],
    decisions: [],
    sessions: [],
    notes: [],
    factors: [],
    levels: [],
    conditions: [],
    claims: [],
    figures: [],
    changes: [],
  };
  const read = (item: number, round: number, text: string): Reading => {
    const understood = value.read({ value: text }, measurand);
    const reading: Reading = {
      id: testId(),
      ...stamp,
      itemId: (items[item] as Item).id,
      measurandId: measurand.id,
      sessionId: null,
      round,
      place: document.readings.length,
      levels: [],
      parts: 'parts' in understood ? understood.parts : [{ name: 'value', text, number: null }],
      source: 'typed',
      takenAt: NOW,
    };
    document.readings.push(reading);
    return reading;
  };
  const decide = (action: Decision['action'], about: Partial<Decision>): Decision => {
    const decision: Decision = {
      id: testId(),
      ...stamp,
      action,
      readingId: null,
      sessionId: null,
      run: null,
      reason: '',
      decidedAt: NOW,
      ...about,
    };
    document.decisions.push(decision);
    return decision;
  };
  return { document, items, measurand, read, decide };
}

/** How a study is simulated. */
export interface SimulatedDesign {
  items: number;
  rounds: number;
  /** Step of the readings, in SDs. */
  step: number;
}

/**
 * A study of items that differ by one SD each, with normal readings in shuffled rounds.
 * @param number another study for each
 */
export function simulatedStudy(
  { items, rounds, step }: SimulatedDesign,
  number: number,
  plant: (value: number, read: { item: number; round: number; place: number; inRound: number }) => number = (
    value,
  ) => value,
) {
  const random = mixedRandom(0, number);
  const names = Array.from({ length: items }, (_, i) => `Item ${String(i + 1)}`);
  const made = testStudy(names, { rounds });
  made.measurand.rule = { ...DEFAULT_RULE };
  made.measurand.instrument = { ...made.measurand.instrument, resolution: step };
  let place = 0;
  for (let round = 1; round <= rounds; round += 1) {
    shuffled(
      names.map((_, item) => item),
      random,
    ).forEach((item, inRound) => {
      const value = plant(50 + item + random.normal(), { item, round, place, inRound });
      made.read(item, round, (Math.round(value / step) * step).toFixed(2));
      place += 1;
    });
  }
  return made;
}

/** Gives a study a numeric factor with levels 1, 2, 3 and so on, the first the baseline. */
export function withLevels(document: StudyDocument, count: number): { factor: Factor; levels: Level[] } {
  const { id: studyId, createdAt, updatedAt } = document.study;
  const stamp = { studyId, version: 1, createdAt, updatedAt };
  const factor: Factor = {
    ...{ id: testId(), ...stamp, name: 'Pressure', kind: 'numeric', unit: 'bar', position: 1 },
    irreversible: false,
  };
  const levels = Array.from({ length: count }, (_, i): Level => ({
    ...{ id: testId(), ...stamp, factorId: factor.id, name: `${String(i + 1)} bar`, value: i + 1 },
    ...{ baseline: i === 0, position: i + 1 },
  }));
  document.factors.push(factor);
  document.levels.push(...levels);
  return { factor, levels };
}

/** How a study over the levels of a factor is made. */
export interface LevelledDesign {
  items: number;
  levels: number;
  rounds: number;
  /** Typed to so many decimals. */
  decimals?: number;
}

/**
 * A study with one numeric factor, its levels 1, 2, 3 and so on, the first the baseline; every item is read at every
 * level in every round.
 */
export function levelledStudy(
  { items, levels: count, rounds, decimals = 2 }: LevelledDesign,
  value: (cell: { item: number; level: number; round: number }) => number | undefined,
) {
  const made = testStudy(
    Array.from({ length: items }, (_, i) => `Item ${String(i + 1)}`),
    { rounds },
  );
  const { factor, levels } = withLevels(made.document, count);
  for (let round = 1; round <= rounds; round += 1) {
    levels.forEach(({ id: levelId }, level) => {
      made.items.forEach((_, item) => {
        const read = value({ item, level, round });
        if (read === undefined) return;
        made.read(item, round, read.toFixed(decimals)).levels = [{ factorId: factor.id, levelId }];
      });
    });
  }
  return { ...made, factor, levels };
}

/** The same with a second factor beside the first, its levels in words; every item is read at every setting. */
export function twoFactorStudy(
  {
    items,
    levels,
    others,
    rounds,
  }: { items: number; levels: number; others: readonly string[]; rounds: number },
  value: (cell: { item: number; level: number; other: number; round: number }) => number | undefined,
) {
  const made = testStudy(
    Array.from({ length: items }, (_, i) => `Item ${String(i + 1)}`),
    { rounds },
  );
  const first = withLevels(made.document, levels);
  const factor: Factor = {
    ...first.factor,
    id: testId(),
    name: 'Water',
    kind: 'treatment',
    unit: '',
    position: 2,
  };
  const named = others.map((name, i): Level => ({
    ...(first.levels[0] as Level),
    ...{ id: testId(), factorId: factor.id, name, value: null, baseline: i === 0, position: i + 1 },
  }));
  made.document.factors.push(factor);
  made.document.levels.push(...named);
  for (let round = 1; round <= rounds; round += 1) {
    first.levels.forEach(({ id: levelId }, level) => {
      named.forEach(({ id: otherId }, other) => {
        made.items.forEach((_, item) => {
          const read = value({ item, level, other, round });
          if (read === undefined) return;
          made.read(item, round, read.toFixed(2)).levels = [
            { factorId: first.factor.id, levelId },
            { factorId: factor.id, levelId: otherId },
          ];
        });
      });
    });
  }
  return { ...made, factor: first.factor, other: factor };
}

/** A study with several measurands, the first of them “Pull”; every item is read of each in every round. */
export function severalStudy(
  { items, measurands: count, rounds }: { items: number; measurands: number; rounds: number },
  value: (cell: { item: number; measurand: number; round: number }) => number | undefined,
) {
  const made = testStudy(
    Array.from({ length: items }, (_, i) => `Item ${String(i + 1)}`),
    { rounds },
  );
  const measurands = Array.from({ length: count }, (_, i): Measurand =>
    i === 0
      ? made.measurand
      : { ...made.measurand, id: testId(), name: `Measurand ${String(i + 1)}`, position: i + 1 },
  );
  made.document.measurands = measurands;
  for (let round = 1; round <= rounds; round += 1) {
    measurands.forEach(({ id }, measurand) => {
      made.items.forEach((_, item) => {
        const read = value({ item, measurand, round });
        if (read !== undefined) made.read(item, round, read.toFixed(3)).measurandId = id;
      });
    });
  }
  return { ...made, measurands };
}
