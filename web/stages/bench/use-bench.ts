import { useDeferredValue, useMemo, useState } from 'react';
import { type Slip, readingQuestion } from '../../../core/bench/slip.ts';
import type { PartTexts } from '../../../core/forms/form.ts';
import { readingForm } from '../../../core/forms/index.ts';
import type { Reading, ReadingPart, RunRef } from '../../../core/model/parts.ts';
import { READING_SOURCES } from '../../../core/model/words.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { blindItems } from '../../../core/plan/blind.ts';
import { type Run, plannedRuns, runBeyond, runQueue } from '../../../core/bench/queue.ts';
import { runKey, runOfReading } from '../../../core/bench/run-records.ts';
import {
  chainedFeed,
  understoodWords,
  withInstrumentText,
  yardstick,
} from '../../../core/bench/run-entry.ts';
import { waitBefore } from '../../../core/bench/session.ts';
import { canUndo, undoSteps } from '../../../core/bench/undo.ts';
import { formatPlain, readingWords } from '../../../core/quantity/format.ts';
import {
  type NewDecision,
  type NewPart,
  changeRecorded,
  newRecordId,
  recordParts,
} from '../../app/api/studies.ts';
import { isRecord, isText, isTexts, keep, kept, useKept } from '../../app/kept.ts';
import { sound } from '../../app/sound.ts';
import { clockName } from './entry/entry.ts';
import { type SessionAtBench, useSession } from './session/use-session.ts';

export interface Bench {
  session: SessionAtBench;
  queue: readonly Run[];
  /** The run at the bench now; undefined when all are done or skipped. */
  run: Run | undefined;
  /** What was typed, part by part. */
  texts: PartTexts;
  /** What the typed text is understood to be, where it is not the number as it stands. */
  understood: string | undefined;
  problem: string | undefined;
  /** The part that the problem is about. */
  wrongPart: string | undefined;
  /** A doubt about the typed value that waits for an answer. */
  slip: Slip | undefined;
  /** A wait that is not over, of which it is asked whether the reading is recorded all the same. */
  waiting: string | undefined;
  canUndo: boolean;
  /** What is in the entry came back by undo and was not touched since. */
  undone: boolean;
  /** Says what just happened, for readers. */
  said: string;
  lastId: string | undefined;
  setText: (part: string, text: string, from?: 'typed' | 'timer') => void;
  /** Leaves a question unanswered, the typed text as it is. */
  dismiss: () => void;
  /** Records what was typed; a value that looks like a slip is questioned first and kept by a second Enter. */
  enter: () => void;
  /** Takes what an instrument sent. */
  takeText: (text: string) => void;
  /** Says what went wrong with an instrument, where a wrong entry is told. */
  trouble: (text: string) => void;
  keep: () => void;
  takeSuggestion: () => void;
  misfire: (reason: string) => void;
  /** Marks the reading of a run that is done as a misfire, so that the run comes again. */
  misfireReading: (run: Run, reason: string) => void;
  /** Opens a run that is done again; the earlier reading stays in the record. */
  takeAgain: (run: Run) => void;
  /** The same item, setting and measurand once more, beyond the plan. */
  addRun: (run: Run) => void;
  skip: () => void;
  undo: () => void;
  goTo: (key: string | undefined) => void;
  /** Leaves the run as it is: on to the next one that is to come, or back to the first. */
  move: (to: 'next' | 'first') => void;
}

const refOf = ({ round, itemId, measurandId, levelIds }: Run): RunRef => ({
  round,
  itemId,
  measurandId,
  levelIds,
});

const textsOf = (parts: readonly ReadingPart[]): Record<string, string> =>
  Object.fromEntries(parts.map(({ name, text }) => [name, text]));

/** What is typed for a run and not recorded, and where it came from. */
interface Entry {
  texts: Record<string, string>;
  source?: Reading['source'];
  /** An undo brought it back, and nothing was typed since. */
  undone?: boolean;
}

/** What is wrong with what was typed for a run, or asked about it. */
interface Doubt {
  run: string;
  problem?: { text: string; part: string };
  slip?: Slip;
  /** A wait that was still on. */
  wait?: string;
}

const nowMs = () => Date.now();

const NO_SUBJECT = { readingId: null, itemId: null, sessionId: null, run: null };

const NOTHING_TYPED: Entry = { texts: {} };

const isEntry = (value: unknown): value is Entry =>
  isRecord(value) &&
  isTexts(value.texts) &&
  (value.source === undefined || READING_SOURCES.some((source) => source === value.source));

/** Everything that the bench does, on the study's record. */
export function useBench(document: StudyDocument): Bench {
  const studyId = document.study.id;
  const { study, items, measurands, factors, levels } = document;
  const planned = useMemo(
    () => plannedRuns({ study, items, measurands, factors, levels }),
    [study, items, measurands, factors, levels],
  );
  const queue = useMemo(() => {
    const runs = runQueue(document, planned);
    if (document.study.blind !== 'blind') return runs;
    const shown = blindItems(document);
    return runs.map((run) => ({ ...run, item: shown.get(run.itemId) ?? run.item }));
  }, [document, planned]);
  // Whether there is something to undo may be told a moment later than the next run is shown; what it is may not.
  const settled = useDeferredValue(document);
  const undoable = useMemo(() => canUndo(settled), [settled]);
  const session = useSession(document);
  const chosenName = `run/${studyId}`;
  const [chosen, setChosen] = useState(() => {
    const before = kept(chosenName, isText);
    return queue.find(({ key, state }) => key === before && state !== 'done')?.key;
  });
  const choose = (key: string | undefined) => {
    setChosen(key);
    keep(chosenName, key);
  };
  const [lastDoubt, setDoubt] = useState<Doubt>();
  const [said, setSaid] = useState('');
  const [lastId, setLastId] = useState<string>();

  const run = queue.find(({ key }) => key === chosen) ?? queue.find(({ state }) => state === 'to come');
  // What is typed stays with its run: also when another one is looked at, or the page is loaded again.
  const entryName = (key: string | undefined) => `entry/${studyId}/${key ?? ''}`;
  const [entry, changeEntry] = useKept<Entry>(entryName(run?.key), () => NOTHING_TYPED, isEntry);
  const { texts: typed, source = 'typed' } = entry;
  // Nor is a question asked about another run, where this one was taken by another tab meanwhile.
  const doubt = lastDoubt?.run === run?.key ? lastDoubt : undefined;
  const texts: PartTexts = run && !('fed' in typed) ? { ...chainedFeed(queue, run), ...typed } : typed;
  const form = run && readingForm(run.measurand.form);

  const quiet = () => {
    setDoubt(undefined);
  };
  /** What was typed for a run is recorded, or not wanted any more. */
  const forget = (of: Run) => {
    keep(entryName(of.key), undefined);
    keep(clockName(of), undefined);
    quiet();
  };

  const readingOf = (
    forRun: Run,
    parts: NewPart<'readings'>['parts'],
    sessionId: string,
    from: NewPart<'readings'>['source'],
    takenAt: string,
  ): NewPart<'readings'> & { id: string } => ({
    id: newRecordId(studyId),
    itemId: forRun.itemId,
    measurandId: forRun.measurandId,
    sessionId,
    round: forRun.round,
    place: forRun.place,
    levels: forRun.setting.map(({ id, factorId }) => ({ factorId, levelId: id })),
    parts,
    source: from,
    takenAt,
  });

  const decide = (action: NewDecision['action'], about: Partial<NewDecision>) =>
    ({ kind: 'decisions', fields: { action, ...about } }) as const;

  const noteTo = (readingId: string, text: string, notedAt: string) =>
    ({
      kind: 'notes',
      fields: { ...NO_SUBJECT, readingId, text, photo: null, removed: false, notedAt },
    }) as const;

  const record = (asked: Run, given: PartTexts, from = source) => {
    const read = form?.read(given, asked.measurand);
    if (!read || 'problem' in read) return;
    const takenAt = new Date().toISOString();
    const inSession = session.forReading(takenAt);
    const fields = readingOf(asked, read.parts, inSession.id, from, takenAt);
    const wait = waitBefore(document, asked, session.session, Date.parse(takenAt));
    sound('recorded');
    void recordParts(studyId, [
      ...inSession.parts,
      // A run that was skipped and is taken after all is not skipped any more.
      ...(asked.state === 'skipped' ? [decide('unskip', { run: refOf(asked) })] : []),
      { kind: 'readings', fields },
      ...(wait ? [noteTo(fields.id, `Taken before the wait was over: ${wait.what}`, takenAt)] : []),
    ]);
    setLastId(fields.id);
    forget(asked);
    choose(undefined);
    const value = form?.value(read.parts, asked.measurand) ?? null;
    setSaid(
      `${asked.item.name}, ${value === null ? 'a reading' : readingWords({ value, parts: read.parts }, '')} recorded.`,
    );
  };

  const enter = (given: PartTexts = texts, from = source) => {
    if (!run || run.state === 'done') return;
    if (doubt?.slip && given === texts) {
      record(run, texts);
      return;
    }
    const wait = waitBefore(document, run, session.session, nowMs());
    const asked = doubt?.wait !== undefined && given === texts;
    const read = form?.read(given, run.measurand);
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
    } else record(run, given, from);
  };

  /** What an instrument sent goes to the first part that is still empty; with the last one it is recorded. */
  const takeText = (sent: string) => {
    if (!run || run.state === 'done') return;
    const given = withInstrumentText(run.measurand, texts, sent);
    changeEntry(() => ({ texts: given.texts, source: 'instrument' }));
    quiet();
    if (given.complete) enter(given.texts, 'instrument');
  };

  return {
    session,
    queue,
    run,
    texts,
    understood: run && understoodWords(run.measurand, texts),
    problem: doubt?.problem?.text,
    wrongPart: doubt?.problem?.part,
    slip: doubt?.slip,
    waiting: doubt?.wait,
    canUndo: undoable,
    undone: entry.undone === true,
    said,
    lastId,
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
      enter();
    },
    takeText,
    trouble: (text) => {
      if (run) setDoubt({ run: run.key, problem: { text, part: '' } });
    },
    keep: () => {
      if (run) record(run, texts);
    },
    takeSuggestion: () => {
      const [part] = (run && form?.parts(run.measurand)) ?? [];
      const suggestion = doubt?.slip?.suggestion;
      if (run && part && suggestion !== undefined) {
        record(run, {
          [part.name]: formatPlain(suggestion)
            .replace('\u2212', '-')
            .replace(/\u202f/g, ''),
        });
      }
    },
    misfire: (reason) => {
      if (!run || run.state === 'done' || !form) return;
      const read = form.read(texts, run.measurand);
      const parts =
        'parts' in read
          ? read.parts
          : form
              .parts(run.measurand)
              .filter(({ name }) => (texts[name] ?? '').trim() !== '')
              .map(({ name }) => ({ name, text: (texts[name] ?? '').slice(0, 60), number: null }));
      const takenAt = new Date().toISOString();
      const inSession = session.forReading(takenAt);
      const fields = readingOf(run, parts, inSession.id, source, takenAt);
      void recordParts(studyId, [
        ...inSession.parts,
        ...(run.state === 'skipped' ? [decide('unskip', { run: refOf(run) })] : []),
        { kind: 'readings', fields },
        decide('misfire', { readingId: fields.id, reason, decidedAt: takenAt }),
      ]);
      forget(run);
      setSaid(`Misfire of ${run.item.name} noted. The run stays open.`);
    },
    misfireReading: (asked, reason) => {
      if (!asked.reading) return;
      void recordParts(studyId, [decide('misfire', { readingId: asked.reading.reading.id, reason })]);
      choose(asked.key);
      setSaid(`Misfire of ${asked.item.name} noted. The run is open again.`);
    },
    takeAgain: (asked) => {
      if (!asked.reading) return;
      void recordParts(studyId, [decide('take-again', { readingId: asked.reading.reading.id })]);
      forget(asked);
      choose(asked.key);
      setSaid(`${asked.item.name} is taken again; the earlier reading stays in the record.`);
    },
    addRun: (asked) => {
      const ref = runBeyond(document, queue, refOf(asked));
      void recordParts(studyId, [decide('add-run', { run: ref })]);
      quiet();
      choose(runKey(ref));
      setSaid(`A run of ${asked.item.name} was added.`);
    },
    skip: () => {
      if (run?.state !== 'to come') return;
      void recordParts(studyId, [decide('skip', { run: refOf(run) })]);
      // What was typed is there again should the run be taken after all; its stopwatch is not.
      keep(clockName(run), undefined);
      quiet();
      choose(undefined);
      setSaid(`${run.item.name} skipped.`);
    },
    undo: () => {
      const last = undoSteps(document).at(-1);
      if (!last) return;
      const { action, readingId, sessionId, run: ref, reading, what, note, session: changed } = last;
      if (note) void changeRecorded('notes', note, { removed: true });
      if (changed) void changeRecorded('sessions', changed.session, changed.before);
      if (action) {
        const reason = action === 'amend-session' ? what : 'undone at the bench';
        void recordParts(studyId, [decide(action, { readingId, sessionId, run: ref, reason })]);
      }
      // The typed text comes back, so that a slip of the finger is mended and not typed again.
      quiet();
      const again = what === 'reading' && reading ? runKey(runOfReading(reading)) : undefined;
      if (reading && again !== undefined) {
        const undone: Entry = { texts: textsOf(reading.parts), source: reading.source, undone: true };
        keep(entryName(again), undone);
      }
      choose(again);
      setLastId(undefined);
      setSaid(`Undone: the last ${what}.`);
    },
    goTo: (key) => {
      quiet();
      choose(key);
    },
    move: (to) => {
      quiet();
      const later = run ? queue.slice(queue.indexOf(run) + 1) : [];
      const next = later.find(({ state }) => state === 'to come');
      if (to === 'first') choose(undefined);
      else if (next) choose(next.key);
      else setSaid('That was the last run to come.');
    },
  };
}

/** What a run is, besides its item and levels: “Round 2, Air speed”. */
export const runWords = ({ round, measurand }: Run, several: boolean): string =>
  several ? `${measurand.name}, round ${String(round)}` : `Round ${String(round)}, ${measurand.name}`;
