import { useMemo, useState } from 'react';
import { type Slip, readingQuestion } from '../../../core/entry/slip.ts';
import { isChained } from '../../../core/forms/fed-recovered.ts';
import type { PartTexts } from '../../../core/forms/form.ts';
import { readingForm } from '../../../core/forms/index.ts';
import { partNumber } from '../../../core/forms/read-parts.ts';
import { standingReadings } from '../../../core/model/record.ts';
import type { ReadingPart, RunRef } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { blindItems } from '../../../core/plan/blind.ts';
import { settingKey } from '../../../core/plan/grid.ts';
import { type Run, runBeyond, runKey, runQueue } from '../../../core/plan/queue.ts';
import { undoSteps } from '../../../core/plan/undo.ts';
import { formatPlain, formatReading, withUnit } from '../../../core/quantity/format.ts';
import {
  type NewDecision,
  type NewPart,
  changeRecorded,
  newRecordId,
  recordParts,
} from '../../app/api/studies.ts';
import { sound } from '../../app/sound.ts';
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
  canUndo: boolean;
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
}

const refOf = ({ round, itemId, measurandId, levelIds }: Run): RunRef => ({
  round,
  itemId,
  measurandId,
  levelIds,
});

const textsOf = (parts: readonly ReadingPart[]): Record<string, string> =>
  Object.fromEntries(parts.map(({ name, text }) => [name, text]));

/** What the last item recovered, where the next one is fed with it. */
function chainedFeed(queue: readonly Run[], run: Run): Record<string, string> {
  const { form, settings, unit } = run.measurand;
  if (form !== 'fed-recovered' || !isChained(settings)) return {};
  const before = queue
    .slice(0, run.place)
    .findLast((one) => one.measurandId === run.measurandId && one.state === 'done');
  const recovered = partNumber(before?.reading?.reading.parts ?? [], 'recovered');
  const feed = before?.reading?.reading.parts.find(({ name }) => name === 'recovered')?.text;
  return recovered === null || feed === undefined || unit === '' ? {} : { fed: feed };
}

/** What was typed in words, where it is more than the number as it stands: another unit, a fraction, a yield. */
function understoodWords(run: Run, texts: PartTexts): string | undefined {
  const form = readingForm(run.measurand.form);
  if (!form || Object.values(texts).every((text) => (text ?? '').trim() === '')) return undefined;
  const read = form.read(texts, run.measurand);
  if ('problem' in read) return undefined;
  const value = form.value(read.parts, run.measurand);
  if (value === null) return undefined;
  const [only] = read.parts;
  const asTyped = read.parts.length === 1 && only?.number === value;
  if (asTyped && (form.ranksOnly || Number(only.text.trim().replace(',', '.')) === value)) return undefined;
  const also = form.also?.(read.parts, run.measurand);
  return [
    withUnit(formatReading(value), run.measurand.unit),
    ...(also ? [`(${withUnit(formatReading(also.number), also.unit)})`] : []),
  ].join(' ');
}

/** Everything that the bench does, on the study's record. */
export function useBench(document: StudyDocument): Bench {
  const studyId = document.study.id;
  const queue = useMemo(() => {
    const runs = runQueue(document);
    if (document.study.blind !== 'blind') return runs;
    const shown = blindItems(document);
    return runs.map((run) => ({ ...run, item: shown.get(run.itemId) ?? run.item }));
  }, [document]);
  const steps = useMemo(() => undoSteps(document), [document]);
  const session = useSession(document);
  const [chosen, setChosen] = useState<string>();
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [problem, setProblem] = useState<{ text: string; part: string }>();
  const [slip, setSlip] = useState<Slip>();
  const [source, setSource] = useState<NewPart<'readings'>['source']>('typed');
  const [said, setSaid] = useState('');
  const [lastId, setLastId] = useState<string>();

  const run = queue.find(({ key }) => key === chosen) ?? queue.find(({ state }) => state === 'to come');
  const texts: PartTexts = run && !('fed' in typed) ? { ...chainedFeed(queue, run), ...typed } : typed;
  const form = run && readingForm(run.measurand.form);

  const clear = (next: Record<string, string> = {}) => {
    setTyped(next);
    setProblem(undefined);
    setSlip(undefined);
    setSource('typed');
  };

  const readingOf = (
    at: Run,
    parts: NewPart<'readings'>['parts'],
    sessionId: string,
    from: NewPart<'readings'>['source'],
  ): NewPart<'readings'> & { id: string } => ({
    id: newRecordId(studyId),
    itemId: at.itemId,
    measurandId: at.measurandId,
    sessionId,
    round: at.round,
    place: at.place,
    levels: at.setting.map(({ id, factorId }) => ({ factorId, levelId: id })),
    parts,
    source: from,
    takenAt: new Date().toISOString(),
  });

  const decide = (action: NewDecision['action'], about: Partial<NewDecision>) =>
    ({ kind: 'decisions', fields: { action, ...about } }) as const;

  const record = (at: Run, given: PartTexts, from = source) => {
    const read = form?.read(given, at.measurand);
    if (!read || 'problem' in read) return;
    const own = session.forReading();
    const fields = readingOf(at, read.parts, own.id, from);
    sound('recorded');
    void recordParts(studyId, [
      ...own.parts,
      // A run that was skipped and is taken after all is not skipped any more.
      ...(at.state === 'skipped' ? [decide('unskip', { run: refOf(at) })] : []),
      { kind: 'readings', fields },
    ]);
    setLastId(fields.id);
    clear();
    setChosen(undefined);
    const value = form?.value(read.parts, at.measurand) ?? null;
    setSaid(`${at.item.name}, ${value === null ? 'a reading' : formatReading(value)} recorded.`);
  };

  const enter = (given: PartTexts = texts, from = source) => {
    if (!run || run.state === 'done') return;
    if (slip && given === texts) {
      record(run, texts);
      return;
    }
    const read = form?.read(given, run.measurand);
    if (!read) return;
    if ('problem' in read) {
      setProblem({ text: read.problem, part: read.part });
      return;
    }
    // Readings at another setting are no yardstick for this one.
    const here = settingKey(run.levelIds);
    const kept = standingReadings(document).filter(
      ({ measurand, standing, value, reading }) =>
        measurand.id === run.measurandId &&
        standing.is === 'kept' &&
        value !== null &&
        settingKey(reading.levels.map(({ levelId }) => levelId)) === here,
    );
    const doubt = readingQuestion(read.parts, run.measurand, {
      own: kept.filter(({ item }) => item.id === run.itemId).map(({ value }) => value as number),
      all: kept.map(({ value }) => value as number),
      itemName: run.item.name,
    });
    if (doubt) {
      sound('question');
      setSlip(doubt);
    } else record(run, given, from);
  };

  /** What an instrument sent goes to the first part that is still empty; with the last one it is recorded. */
  const takeText = (text: string) => {
    if (!run || !form || run.state === 'done') return;
    const asked = form.parts(run.measurand);
    const empty = (given: PartTexts) => asked.filter(({ name }) => (given[name] ?? '').trim() === '');
    const part = empty(texts)[0] ?? asked[0];
    if (!part) return;
    const given: Record<string, string> = { [part.name]: text.slice(0, 60) };
    for (const [name, value] of Object.entries(texts)) if (value !== undefined) given[name] ??= value;
    setTyped(given);
    setProblem(undefined);
    setSlip(undefined);
    setSource('instrument');
    if (empty(given).every(({ optional }) => optional)) enter(given, 'instrument');
  };

  return {
    session,
    queue,
    run,
    texts,
    understood: run && understoodWords(run, texts),
    problem: problem?.text,
    wrongPart: problem?.part,
    slip,
    canUndo: steps.length > 0,
    said,
    lastId,
    setText: (part, text, from = 'typed') => {
      // A correction of the stopwatch is typed and changes nothing about where the time came from.
      if (part !== 'late') setSource(from);
      setTyped((before) => ({ ...before, [part]: text }));
      setProblem(undefined);
      setSlip(undefined);
    },
    dismiss: () => {
      setProblem(undefined);
      setSlip(undefined);
    },
    enter: () => {
      enter();
    },
    takeText,
    trouble: (text) => {
      setProblem({ text, part: '' });
    },
    keep: () => {
      if (run) record(run, texts);
    },
    takeSuggestion: () => {
      const [part] = (run && form?.parts(run.measurand)) ?? [];
      if (run && part && slip?.suggestion !== undefined) {
        record(run, {
          [part.name]: formatPlain(slip.suggestion)
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
      const own = session.forReading();
      const fields = readingOf(run, parts, own.id, source);
      void recordParts(studyId, [
        ...own.parts,
        { kind: 'readings', fields },
        decide('misfire', { readingId: fields.id, reason, decidedAt: fields.takenAt }),
      ]);
      clear();
      setSaid(`Misfire of ${run.item.name} noted. The run stays open.`);
    },
    misfireReading: (at, reason) => {
      if (!at.reading) return;
      void recordParts(studyId, [decide('misfire', { readingId: at.reading.reading.id, reason })]);
      setChosen(at.key);
      setSaid(`Misfire of ${at.item.name} noted. The run is open again.`);
    },
    takeAgain: (at) => {
      if (!at.reading) return;
      void recordParts(studyId, [
        decide('misfire', { readingId: at.reading.reading.id, reason: 'taken again' }),
      ]);
      clear();
      setChosen(at.key);
      setSaid(`${at.item.name} is taken again; the earlier reading stays in the record.`);
    },
    addRun: (at) => {
      const ref = runBeyond(document, queue, refOf(at));
      void recordParts(studyId, [decide('add-run', { run: ref })]);
      clear();
      setChosen(runKey(ref));
      setSaid(`A run of ${at.item.name} was added.`);
    },
    skip: () => {
      if (run?.state !== 'to come') return;
      void recordParts(studyId, [decide('skip', { run: refOf(run) })]);
      clear();
      setChosen(undefined);
      setSaid(`${run.item.name} skipped.`);
    },
    undo: () => {
      const last = steps[steps.length - 1];
      if (!last) return;
      const { action, readingId, sessionId, run: ref, reading, what, note } = last;
      if (note) void changeRecorded('notes', note, { removed: true });
      if (action) {
        const about = { readingId, sessionId, run: ref, reason: 'undone at the bench' };
        void recordParts(studyId, [decide(action, about)]);
      }
      // The typed text comes back, so that a slip of the finger is mended and not typed anew.
      clear(what === 'reading' && reading ? textsOf(reading.parts) : {});
      setChosen(undefined);
      setLastId(undefined);
      setSaid(`The last ${what} is undone.`);
    },
    goTo: (key) => {
      clear();
      setChosen(key);
    },
  };
}

/** What a run is, besides its item and levels: “Round 2, Air speed”. */
export const runWords = ({ round, measurand }: Run, several: boolean): string =>
  several ? `${measurand.name}, round ${String(round)}` : `Round ${String(round)}, ${measurand.name}`;
