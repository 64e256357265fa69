import { type Slip, readingQuestion } from '../../../core/bench/slip.ts';
import type { PartTexts } from '../../../core/forms/form.ts';
import { readingForm } from '../../../core/forms/index.ts';
import type { Reading, ReadingPart, RunRef } from '../../../core/model/parts.ts';
import { READING_SOURCES } from '../../../core/model/words.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { type Run, runBeyond } from '../../../core/bench/queue.ts';
import { runKey, runOfReading } from '../../../core/bench/run-records.ts';
import { withInstrumentText, yardstick } from '../../../core/bench/run-entry.ts';
import { waitBefore } from '../../../core/bench/session.ts';
import { undoSteps } from '../../../core/bench/undo.ts';
import { formatPlain, readingWords } from '../../../core/quantity/format.ts';
import {
  type NewDecision,
  type NewPart,
  changeRecorded,
  newRecordId,
  recordParts,
} from '../../app/api/studies.ts';
import { isRecord, isTexts, keep } from '../../app/kept.ts';
import { sound } from '../../app/sound.ts';
import { clockName } from './entry/entry.ts';
import type { SessionAtBench } from './session/use-session.ts';
import type { Bench } from './use-bench.ts';

const refOf = ({ round, itemId, measurandId, levelIds }: Run): RunRef => ({
  round,
  itemId,
  measurandId,
  levelIds,
});

const textsOf = (parts: readonly ReadingPart[]): Record<string, string> =>
  Object.fromEntries(parts.map(({ name, text }) => [name, text]));

/** What is typed for a run and not recorded, and where it came from. */
export interface Entry {
  texts: Record<string, string>;
  source?: Reading['source'];
  /** An undo brought it back, and nothing was typed since. */
  undone?: boolean;
}

/** What is wrong with what was typed for a run, or asked about it. */
export interface Doubt {
  run: string;
  problem?: { text: string; part: string };
  slip?: Slip;
  /** A wait that was still on. */
  wait?: string;
}

const nowMs = () => Date.now();

const NO_SUBJECT = { readingId: null, itemId: null, sessionId: null, run: null };

export const NOTHING_TYPED: Entry = { texts: {} };

export const isEntry = (value: unknown): value is Entry =>
  isRecord(value) &&
  isTexts(value.texts) &&
  (value.source === undefined || READING_SOURCES.some((source) => source === value.source));

/** The name under which is kept what is typed for a run. */
export const entryName = (studyId: string, key: string | undefined) => `entry/${studyId}/${key ?? ''}`;

/** What the steps at the bench work on, and what they change on the page. */
export interface BenchContext {
  document: StudyDocument;
  session: SessionAtBench;
  queue: readonly Run[];
  run: Run | undefined;
  texts: PartTexts;
  source: Reading['source'];
  doubt: Doubt | undefined;
  changeEntry: (change: (before: Entry) => Entry) => void;
  setDoubt: (doubt: Doubt | undefined) => void;
  choose: (key: string | undefined) => void;
  setSaid: (said: string) => void;
  setLastId: (id: string | undefined) => void;
}

const decide = (action: NewDecision['action'], about: Partial<NewDecision>) =>
  ({ kind: 'decisions', fields: { action, ...about } }) as const;

const noteTo = (readingId: string, text: string, notedAt: string) =>
  ({
    kind: 'notes',
    fields: { ...NO_SUBJECT, readingId, text, photo: null, removed: false, notedAt },
  }) as const;

const readingOf = (
  studyId: string,
  run: Run,
  about: Pick<NewPart<'readings'>, 'parts' | 'sessionId' | 'source' | 'takenAt'>,
): NewPart<'readings'> & { id: string } => ({
  id: newRecordId(studyId),
  itemId: run.itemId,
  measurandId: run.measurandId,
  round: run.round,
  place: run.place,
  levels: run.setting.map(({ id, factorId }) => ({ factorId, levelId: id })),
  ...about,
});

/** A run that was skipped and is taken after all is not skipped any more. */
const unskipped = (run: Run) => (run.state === 'skipped' ? [decide('unskip', { run: refOf(run) })] : []);

/** What was typed for a run is recorded, or not wanted any more. */
function forget({ document, setDoubt }: BenchContext, run: Run): void {
  keep(entryName(document.study.id, run.key), undefined);
  keep(clockName(run), undefined);
  setDoubt(undefined);
}

const formOf = (run: Run) => readingForm(run.measurand.form);

/** Records what was given for a run. */
function record(context: BenchContext, run: Run, given: PartTexts, source = context.source): void {
  const { document, session, choose, setSaid, setLastId } = context;
  const form = formOf(run);
  const read = form?.read(given, run.measurand);
  if (!form || !read || 'problem' in read) return;
  const takenAt = new Date().toISOString();
  const inSession = session.forReading(takenAt);
  const { parts } = read;
  const fields = readingOf(document.study.id, run, { parts, sessionId: inSession.id, source, takenAt });
  const wait = waitBefore(document, run, session.session, Date.parse(takenAt));
  sound('recorded');
  void recordParts(document.study.id, [
    ...inSession.parts,
    ...unskipped(run),
    { kind: 'readings', fields },
    ...(wait ? [noteTo(fields.id, `Taken before the wait was over: ${wait.what}`, takenAt)] : []),
  ]);
  setLastId(fields.id);
  forget(context, run);
  choose(undefined);
  const value = form.value(parts, run.measurand) ?? null;
  setSaid(`${run.item.name}, ${value === null ? 'a reading' : readingWords({ value, parts }, '')} recorded.`);
}

/** Records what was given, or asks where it looks wrong; what was asked and is entered again is meant. */
function enterGiven(context: BenchContext, given: PartTexts, source = context.source): void {
  const { document, session, run, texts, doubt, setDoubt } = context;
  if (!run || run.state === 'done') return;
  if (doubt?.slip && given === texts) {
    record(context, run, texts);
    return;
  }
  const wait = waitBefore(document, run, session.session, nowMs());
  const asked = doubt?.wait !== undefined && given === texts;
  const read = formOf(run)?.read(given, run.measurand);
  if (!read) return;
  if ('problem' in read) {
    setDoubt({ run: run.key, problem: { text: read.problem, part: read.part } });
    return;
  }
  if (wait && !asked) {
    sound('question');
    setDoubt({ run: run.key, wait: wait.what });
    return;
  }
  const slip = readingQuestion(read.parts, run.measurand, {
    ...yardstick(document, run),
    itemName: run.item.name,
  });
  if (slip) {
    sound('question');
    setDoubt({ run: run.key, slip });
  } else record(context, run, given, source);
}

/** What was typed for a run, as far as it is understood. */
function partsTyped(run: Run, texts: PartTexts): NewPart<'readings'>['parts'] {
  const form = formOf(run);
  const read = form?.read(texts, run.measurand);
  if (read && 'parts' in read) return read.parts;
  return (form?.parts(run.measurand) ?? [])
    .filter(({ name }) => (texts[name] ?? '').trim() !== '')
    .map(({ name }) => ({ name, text: (texts[name] ?? '').slice(0, 60), number: null }));
}

/** Notes that the run misfired, with what was typed of it. */
function misfired(context: BenchContext, reason: string): void {
  const { document, session, run, texts, source, setSaid } = context;
  if (!run || run.state === 'done' || !formOf(run)) return;
  const takenAt = new Date().toISOString();
  const inSession = session.forReading(takenAt);
  const parts = partsTyped(run, texts);
  const fields = readingOf(document.study.id, run, { parts, sessionId: inSession.id, source, takenAt });
  void recordParts(document.study.id, [
    ...inSession.parts,
    ...unskipped(run),
    { kind: 'readings', fields },
    decide('misfire', { readingId: fields.id, reason, decidedAt: takenAt }),
  ]);
  forget(context, run);
  setSaid(`Misfire of ${run.item.name} noted. The run stays open.`);
}

/** What is done with the entry of the run at the bench. */
export function entrySteps(
  context: BenchContext,
): Pick<
  Bench,
  'setText' | 'dismiss' | 'enter' | 'takeText' | 'trouble' | 'keep' | 'takeSuggestion' | 'misfire'
> {
  const { run, texts, doubt, changeEntry, setDoubt } = context;
  const quiet = () => {
    setDoubt(undefined);
  };
  return {
    setText: (part, text, from = 'typed') => {
      if (!run) return;
      changeEntry((before) => ({
        texts: { ...before.texts, [part]: text },
        // A correction of the stopwatch is typed and changes nothing about where the time came from.
        source: part === 'late' ? (before.source ?? from) : from,
      }));
      quiet();
    },
    dismiss: quiet,
    enter: () => {
      enterGiven(context, texts);
    },
    // It goes to the first part that is still empty; with the last one it is recorded.
    takeText: (sent) => {
      if (!run || run.state === 'done') return;
      const given = withInstrumentText(run.measurand, texts, sent);
      changeEntry(() => ({ texts: given.texts, source: 'instrument' }));
      quiet();
      if (given.complete) enterGiven(context, given.texts, 'instrument');
    },
    trouble: (text) => {
      if (run) setDoubt({ run: run.key, problem: { text, part: '' } });
    },
    keep: () => {
      if (run) record(context, run, texts);
    },
    takeSuggestion: () => {
      const [part] = (run && formOf(run)?.parts(run.measurand)) ?? [];
      const suggestion = doubt?.slip?.suggestion;
      if (run && part && suggestion !== undefined) {
        record(context, run, {
          [part.name]: formatPlain(suggestion)
            .replace('\u2212', '-')
            .replace(/\u202f/g, ''),
        });
      }
    },
    misfire: (reason) => {
      misfired(context, reason);
    },
  };
}

/** Takes the last thing back that was done; the typed text comes back, so that a slip is mended and not typed again. */
function undoLast({ document, setDoubt, choose, setLastId, setSaid }: BenchContext): void {
  const last = undoSteps(document).at(-1);
  if (!last) return;
  const studyId = document.study.id;
  const { action, readingId, sessionId, run: ref, reading, what, note, session: changed } = last;
  if (note) void changeRecorded('notes', note, { removed: true });
  if (changed) void changeRecorded('sessions', changed.session, changed.before);
  if (action) {
    const reason = action === 'amend-session' ? what : 'undone at the bench';
    void recordParts(studyId, [decide(action, { readingId, sessionId, run: ref, reason })]);
  }
  setDoubt(undefined);
  const again = what === 'reading' && reading ? runKey(runOfReading(reading)) : undefined;
  if (reading && again !== undefined) {
    const undone: Entry = { texts: textsOf(reading.parts), source: reading.source, undone: true };
    keep(entryName(studyId, again), undone);
  }
  choose(again);
  setLastId(undefined);
  setSaid(`Undone: the last ${what}.`);
}

/** What is done with the runs of the queue. */
export function runSteps(
  context: BenchContext,
): Pick<Bench, 'misfireReading' | 'takeAgain' | 'addRun' | 'skip' | 'undo' | 'goTo' | 'move'> {
  const { document, queue, run, setDoubt, choose, setSaid } = context;
  const studyId = document.study.id;
  return {
    misfireReading: (asked, reason) => {
      if (!asked.reading) return;
      void recordParts(studyId, [decide('misfire', { readingId: asked.reading.reading.id, reason })]);
      choose(asked.key);
      setSaid(`Misfire of ${asked.item.name} noted. The run is open again.`);
    },
    takeAgain: (asked) => {
      if (!asked.reading) return;
      void recordParts(studyId, [decide('take-again', { readingId: asked.reading.reading.id })]);
      forget(context, asked);
      choose(asked.key);
      setSaid(`${asked.item.name} is taken again; the earlier reading stays in the record.`);
    },
    addRun: (asked) => {
      const ref = runBeyond(document, queue, refOf(asked));
      void recordParts(studyId, [decide('add-run', { run: ref })]);
      setDoubt(undefined);
      choose(runKey(ref));
      setSaid(`A run of ${asked.item.name} was added.`);
    },
    skip: () => {
      if (run?.state !== 'to come') return;
      void recordParts(studyId, [decide('skip', { run: refOf(run) })]);
      // What was typed is there again should the run be taken after all; its stopwatch is not.
      keep(clockName(run), undefined);
      setDoubt(undefined);
      choose(undefined);
      setSaid(`${run.item.name} skipped.`);
    },
    undo: () => {
      undoLast(context);
    },
    goTo: (key) => {
      setDoubt(undefined);
      choose(key);
    },
    move: (to) => {
      setDoubt(undefined);
      const later = run ? queue.slice(queue.indexOf(run) + 1) : [];
      const next = later.find(({ state }) => state === 'to come');
      if (to === 'first') choose(undefined);
      else if (next) choose(next.key);
      else setSaid('That was the last run to come.');
    },
  };
}
