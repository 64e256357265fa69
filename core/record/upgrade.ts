import { TEXT_LIMIT } from '../model/limits.ts';
import { NEW_STUDY, NO_CORRECTIONS } from '../model/new-study.ts';
import { STUDY_FORMAT, STUDY_FORMAT_VERSION } from '../model/study-format.ts';

type Fields = Record<string, unknown>;

const isFields = (value: unknown): value is Fields =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** The objects of a list; undefined where it is no list, or holds something else. */
const objects = (value: unknown): Fields[] | undefined =>
  Array.isArray(value) && value.every(isFields) ? value : undefined;

/** Changes every part of a kind, where there is a list of them. */
function each(whole: Fields, kind: string, change: (part: Fields) => Fields): void {
  const parts = objects(whole[kind]);
  if (parts) whole[kind] = parts.map(change);
}

/** Version 1 grew over time: what an early document could not say yet is filled in as it stood then. */
function wholeVersion1(whole: Fields): void {
  whole.claims ??= [];
  const { study } = whole;
  let readingS: unknown = 20;
  if (isFields(study)) {
    const { blind, struck, reorders, deviations, misfireReasons } = NEW_STUDY;
    const filled: Fields = { ...{ blind, struck, reorders, deviations, misfireReasons }, ...study };
    const { timing, procedure } = study;
    if (isFields(timing) && 'readingS' in timing) {
      const { readingS: ofOneReading, ...rest } = timing;
      readingS = ofOneReading;
      filled.timing = { levelS: 0, ...rest };
    }
    if (isFields(procedure) && 'waits' in procedure) {
      const waits = objects(procedure.waits)?.map((wait) => ({ when: 'reading', ...wait }));
      filled.procedure = { ...procedure, waits: waits ?? procedure.waits };
    }
    whole.study = filled;
  }
  each(whole, 'measurands', (part) => ({ settings: {}, expression: null, onItems: null, readingS, ...part }));
  each(whole, 'changes', (part) => ({ readingsThen: 1, reason: '', ...part }));
  each(whole, 'decisions', (part) => ({
    sessionId: null,
    ...part,
    ...(isFields(part.run) ? { run: { levelIds: [], ...part.run } } : {}),
  }));
  each(whole, 'sessions', (part) => ({
    ...{ kind: 'bench', checked: [], acknowledged: [], pauses: [], continuesId: null },
    ...part,
    // A condition had no time of its own: it was read when its session began or ended.
    conditions:
      objects(part.conditions)?.map((read) => ({
        takenAt: read.at === 'end' ? (part.endedAt ?? part.startedAt) : part.startedAt,
        ...read,
      })) ?? part.conditions,
  }));
  if (whole.notes === undefined) notesOfReadings(whole);
}

/** A reading's own note becomes a note to it. */
function notesOfReadings(whole: Fields): void {
  const notes: Fields[] = [];
  each(whole, 'readings', ({ note, photo: _photo, ...reading }) => {
    if (typeof note === 'string' && note.trim() !== '') {
      const { id, studyId, createdAt, updatedAt, takenAt } = reading;
      notes.push({
        ...{ id, studyId, version: 1, createdAt, updatedAt, readingId: id },
        ...{ itemId: null, sessionId: null, run: null, text: note, photo: null },
        ...{ removed: false, notedAt: takenAt },
      });
    }
    return reading;
  });
  whole.notes = notes;
}

/** Rules had no level of their own: every sample was tested at 0.05, by its readings. There were no planned looks. */
function to2(whole: Fields): void {
  wholeVersion1(whole);
  each(whole, 'measurands', (part) => ({
    ...part,
    ...(isFields(part.rule) ? { rule: { level: 'sample', judges: 'reading', ...part.rule } } : {}),
    // Per cent of a target of 0 never was a margin.
    ...(isFields(part.margin) &&
    part.margin.kind === 'percent' &&
    isFields(part.direction) &&
    part.direction.target === 0 &&
    part.form !== 'against-reference'
      ? { margin: { kind: 'absolute', value: 0 } }
      : {}),
  }));
  each(whole, 'changes', (part) => {
    if (part.field !== 'rule') return part;
    const upgraded = (text: unknown): unknown => {
      try {
        const rule: unknown = JSON.parse(String(text));
        return isFields(rule) ? JSON.stringify({ level: 'sample', judges: 'reading', ...rule }) : text;
      } catch {
        return text;
      }
    };
    return { ...part, before: upgraded(part.before), after: upgraded(part.after) };
  });
  if (isFields(whole.study)) whole.study = { looks: NEW_STUDY.looks, ...whole.study };
}

/** A plan could not say what a reading must keep to; a reading that was taken again was called a misfire. */
function to3(whole: Fields): void {
  each(whole, 'decisions', (part) =>
    part.action === 'misfire' && part.reason === 'taken again'
      ? { ...part, action: 'take-again', reason: '' }
      : part,
  );
  each(whole, 'measurands', (part) => ({ spec: null, ...part }));
  if (isFields(whole.study)) whole.study = { answers: [], ...whole.study };
}

/** A report was composed by the program alone. */
function to4(whole: Fields): void {
  if (isFields(whole.study)) whole.study = { report: NEW_STUDY.report, ...whole.study };
}

/** Several measurands made no score. */
function to5(whole: Fields): void {
  if (isFields(whole.study)) whole.study = { scoring: NEW_STUDY.scoring, ...whole.study };
}

/** A study knew no earlier test, a measurand nothing of its controls, and no item changed its class on record. */
function to6(whole: Fields): void {
  if (isFields(whole.study)) whole.study = { earlier: NEW_STUDY.earlier, ...whole.study };
  each(whole, 'measurands', (part) => ({ controls: [], ...part }));
  each(whole, 'changes', (part) => ({ itemId: null, ...part }));
}

/** Readings could not be set right. */
function to7(whole: Fields): void {
  each(whole, 'measurands', (part) => ({ corrections: NO_CORRECTIONS, ...part }));
}

/** Nothing was known from elsewhere. */
function to8(whole: Fields): void {
  whole.figures ??= [];
}

/** No files were kept that readings are worked out from. */
function to9(whole: Fields): void {
  whole.files ??= [];
}

/** Recorders were not calibrated. */
function to10(whole: Fields): void {
  whole.calibrations ??= [];
}

/** Rounds drew from streams near each other; the order of such a study stays as it is. */
function to11(whole: Fields): void {
  if (isFields(whole.study)) whole.study = { draws: 'by-stream', ...whole.study };
}

/** Limits of a condition that do not stand the wrong way round, as they could. */
function rightWayRound(limits: unknown): unknown {
  if (!isFields(limits)) return limits;
  const { low, high } = limits;
  if (typeof low !== 'number' || typeof high !== 'number' || low < high) return limits;
  return low === high ? { ...limits, low: null } : { ...limits, low: high, high: low };
}

/** Every condition was a quantity. */
function to12(whole: Fields): void {
  each(whole, 'conditions', (part) => ({
    ...{ kind: 'number', words: [] },
    ...part,
    limits: rightWayRound(part.limits),
  }));
}

/** Rounds were parts of their own, which said nothing but a note; that stays as one of the session. */
function to13(whole: Fields): void {
  const rounds = Array.isArray(whole.rounds) ? whole.rounds.filter(isFields) : [];
  delete whole.rounds;
  const said = rounds.filter(({ note }) => typeof note === 'string' && note !== '');
  if (!Array.isArray(whole.notes) || said.length === 0) return;
  whole.notes = [
    ...(whole.notes as unknown[]),
    ...said.map(({ number, note, sessionId, createdAt, ...part }) => ({
      ...{ ...part, createdAt, readingId: null, itemId: null, sessionId, run: null },
      // By signs and not by halves of them.
      text: [...`Round ${String(number)}: ${String(note)}`].slice(0, TEXT_LIMIT).join(''),
      ...{ photo: null, removed: false, notedAt: createdAt },
    })),
  ];
}

/** What brings a document of each version to the next one. */
const UPGRADES: readonly ((whole: Fields) => void)[] = [
  to2,
  to3,
  to4,
  to5,
  to6,
  to7,
  to8,
  to9,
  to10,
  to11,
  to12,
  to13,
];

/**
 * Brings a document that an earlier version wrote up to date, version by version. Anything else is left as it is, for
 * the schema to judge.
 */
export function upToDate(document: unknown): unknown {
  if (!isFields(document) || document.format !== STUDY_FORMAT) return document;
  const { formatVersion } = document;
  if (typeof formatVersion !== 'number' || !Number.isInteger(formatVersion)) return document;
  if (formatVersion < 1 || formatVersion >= STUDY_FORMAT_VERSION) return document;
  const whole: Fields = { ...document };
  for (const upgrade of UPGRADES.slice(formatVersion - 1)) upgrade(whole);
  whole.formatVersion = STUDY_FORMAT_VERSION;
  return whole;
}
