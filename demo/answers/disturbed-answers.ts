import { analyseStudy } from '../../core/analysis/analyse-study.ts';
import { inspectStudy } from '../../core/analysis/inspect-study.ts';
import { value as valueForm } from '../../core/forms/value.ts';
import { newSession } from '../../core/plan/new-parts.ts';
import type { Measurand, Reading } from '../../core/model/parts.ts';
import type { StudyDocument } from '../../core/model/study-document.ts';
import { RULE_JUDGES, RULE_NAMES } from '../../core/model/words.ts';
import { composeReport } from '../../core/report/compose.ts';
import { simulatedStudy, testId } from '../../core/testing-study.ts';

type Plant = NonNullable<Parameters<typeof simulatedStudy>[2]>;

/** A study of three items in two sessions, a day each. */
function inTwoSessions(number: number, plant?: Plant, step = 0.1) {
  const made = simulatedStudy({ items: 3, rounds: 8, step }, number, plant);
  const { document } = made;
  const { id: studyId, createdAt, updatedAt } = document.study;
  document.sessions = ['2026-03-10', '2026-03-11'].map((day) => ({
    ...{ id: testId(), studyId, version: 1, createdAt, updatedAt },
    ...newSession(`${day}T08:00:00.000Z`),
  }));
  document.readings.forEach((reading, i) => {
    const session = document.sessions[reading.round > 4 ? 1 : 0];
    reading.sessionId = session?.id ?? null;
    reading.takenAt = new Date(Date.parse(session?.startedAt ?? createdAt) + 60000 * i).toISOString();
  });
  return made;
}

/** What is said of a study, but for what is drawn. */
const saidOf = (document: StudyDocument, { id }: Measurand): unknown => [
  inspectStudy(document),
  analyseStudy(document, id, { resamples: 0 }).settings,
];

/** What may have gone wrong with a reading, of which the one before is known. */
const SLIPS: readonly ((value: number, before: number) => number)[] = [
  ...[-6, -3.2, 2.2, 2.8, 3.6, 4.8, 9].map((away) => (value: number) => value + away),
  (value) => 10 * value,
  (value) => value / 10,
  (value) => Number([...value.toFixed(1)].map((_, i, signs) => signs[i < 2 ? 1 - i : i]).join('')),
  (_, before) => before,
];

/** The study with another value of one reading. */
function withAnother(
  document: StudyDocument,
  measurand: Measurand,
  place: number,
  value: number,
): StudyDocument {
  const read = valueForm.read({ value: value.toFixed(1) }, measurand);
  const readings = document.readings.map((reading, i): Reading =>
    i === place && 'parts' in read ? { ...reading, parts: read.parts } : reading,
  );
  return { ...document, readings };
}

/** A study in which one reading after the other goes wrong in each way. */
function* oneReading(): Generator<[string, unknown]> {
  const { document, measurand } = inTwoSessions(11);
  const values = document.readings.map(({ parts }) => parts[0]?.number ?? 0);
  for (const [i, value] of values.entries()) {
    const slips = SLIPS.map((slip) => slip(value, values[i - 1] ?? value));
    yield [
      `reading ${String(i)}`,
      slips.map((slip) => saidOf(withAnother(document, measurand, i, slip), measurand)),
    ];
    const without = { ...document, readings: document.readings.filter((_, place) => place !== i) };
    yield [`without reading ${String(i)}`, saidOf(without, measurand)];
  }
}

/** What goes on in a study, more or less of it. */
const TROUBLES: Readonly<Record<string, (size: number) => Plant>> = {
  drift:
    (size) =>
    (value, { place }) =>
      value + (size * place) / 24,
  'another day':
    (size) =>
    (value, { round }) =>
      value + (round > 4 ? size : 0),
  'first of the round':
    (size) =>
    (value, { inRound }) =>
      value + (inRound === 0 ? size : 0),
  'one item spreads':
    (size) =>
    (value, { item }) =>
      item === 1 ? 51 + size * (value - 51) : value,
  'one item wears':
    (size) =>
    (value, { item, round }) =>
      value + (item === 2 ? (size * round) / 8 : 0),
  'a round is off':
    (size) =>
    (value, { round }) =>
      value + (round === 3 ? size : 0),
  'the end of the range': (size) => (value) => Math.min(value, 53 - size / 2),
  'the same again':
    (size) =>
    (value, { round }) =>
      round <= 1 + size ? 50.4 : value,
  'far apart':
    (size) =>
    (value, { item }) =>
      value + size * item,
};

/** Studies with more and more of each trouble, judged by each rule in turn, and what is reported of them. */
function* troubles(): Generator<[string, unknown]> {
  for (const [name, plant] of Object.entries(TROUBLES)) {
    for (const [i, size] of [0.5, 1, 1.5, 2, 3, 4, 6].entries()) {
      const { document, measurand } = inTwoSessions(20 + i, plant(size), i % 3 === 2 ? 0.5 : 0.1);
      measurand.instrument.accuracyPercent = i % 3 === 1 ? 2 : null;
      measurand.instrument.accuracyConstant = i % 3 === 2 ? 0.4 : null;
      if (i % 2 === 1) for (const reading of document.readings) reading.source = 'import';
      const judged = RULE_NAMES.map((rule, place) => {
        const judges = RULE_JUDGES[(place + i) % RULE_JUDGES.length] ?? 'distance';
        measurand.rule = { ...measurand.rule, judges, name: rule };
        return saidOf(document, measurand);
      });
      yield [`${name} ${String(size)}`, judged];
      const report = composeReport(document, { when: (instant) => instant, program: '1' });
      yield [`${name} ${String(size)}, reported`, report];
    }
  }
}

/** What is said of small studies in which something goes wrong, more or less of it. */
export function* disturbedAnswers(): Generator<[string, unknown]> {
  yield* oneReading();
  yield* troubles();
}
