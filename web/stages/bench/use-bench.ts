import { useMemo, useState } from 'react';
import { readingForm } from '../../../core/forms/index.ts';
import { type Slip, slipQuestion } from '../../../core/entry/slip.ts';
import { standingReadings } from '../../../core/model/record.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { type Run, runQueue } from '../../../core/plan/queue.ts';
import { undoSteps } from '../../../core/plan/undo.ts';
import { type NewPart, recordParts } from '../../app/api/studies.ts';
import { v7 } from 'uuid';

export interface Bench {
  queue: readonly Run[];
  /** The run at the bench now; undefined when all are done or skipped. */
  run: Run | undefined;
  text: string;
  problem: string | undefined;
  /** A doubt about the typed value that waits for an answer. */
  slip: Slip | undefined;
  canUndo: boolean;
  /** Says what just happened, for readers. */
  said: string;
  lastId: string | undefined;
  setText: (text: string) => void;
  /** Records what was typed; a value that looks like a slip is questioned first and kept by a second Enter. */
  enter: () => void;
  keep: () => void;
  takeSuggestion: () => void;
  misfire: (reason: string) => void;
  /** Marks the reading of a run that is done as a misfire, so that the run comes again. */
  misfireReading: (run: Run, reason: string) => void;
  skip: () => void;
  undo: () => void;
  goTo: (key: string | undefined) => void;
}

/** Everything that the bench does, on the study's record. */
export function useBench(document: StudyDocument): Bench {
  const studyId = document.study.id;
  const queue = useMemo(() => runQueue(document), [document]);
  const steps = useMemo(() => undoSteps(document), [document]);
  const [chosen, setChosen] = useState<string>();
  const [text, setTyped] = useState('');
  const [problem, setProblem] = useState<string>();
  const [slip, setSlip] = useState<Slip>();
  const [said, setSaid] = useState('');
  const [lastId, setLastId] = useState<string>();

  const run = queue.find(({ key }) => key === chosen) ?? queue.find(({ state }) => state === 'to come');

  const setText = (next: string) => {
    setTyped(next);
    setProblem(undefined);
    setSlip(undefined);
  };

  const readingOf = (at: Run, parts: NewPart<'readings'>['parts']): NewPart<'readings'> & { id: string } => ({
    id: v7(),
    itemId: at.itemId,
    measurandId: at.measurandId,
    sessionId: null,
    round: at.round,
    place: at.place,
    levels: [],
    parts,
    source: 'typed',
    takenAt: new Date().toISOString(),
    note: '',
    photo: null,
  });

  const decide = (action: NewPart<'decisions'>['action'], about: Partial<NewPart<'decisions'>>) =>
    ({ kind: 'decisions', fields: { action, readingId: null, run: null, reason: '', ...about } }) as const;
  const refOf = ({ round, itemId, measurandId }: Run) => ({ round, itemId, measurandId });

  const record = (at: Run, typed: string) => {
    const form = readingForm(at.measurand.form);
    const read = form?.read({ value: typed }, at.measurand);
    if (!read || 'problem' in read) return;
    const fields = readingOf(at, read.parts);
    void recordParts(studyId, [
      // A run that was skipped and is taken after all is not skipped any more.
      ...(at.state === 'skipped' ? [decide('unskip', { run: refOf(at) })] : []),
      { kind: 'readings', fields },
    ]);
    setLastId(fields.id);
    setText('');
    setChosen(undefined);
    setSaid(`${at.item.name}, ${typed} recorded.`);
  };

  const enter = () => {
    if (!run || run.state === 'done') return;
    if (slip) {
      record(run, text);
      return;
    }
    const read = readingForm(run.measurand.form)?.read({ value: text }, run.measurand);
    if (!read) return;
    if ('problem' in read) {
      setProblem(read.problem);
      return;
    }
    const value = read.parts[0]?.number ?? 0;
    const kept = standingReadings(document).filter(
      (entry) =>
        entry.measurand.id === run.measurandId && entry.standing.is === 'kept' && entry.value !== null,
    );
    const doubt = slipQuestion(value, {
      unit: run.measurand.unit,
      limits: run.measurand.limits,
      resolution: run.measurand.instrument.resolution,
      own: kept.filter(({ item }) => item.id === run.itemId).map((entry) => entry.value as number),
      all: kept.map((entry) => entry.value as number),
      itemName: run.item.name,
    });
    if (doubt) setSlip(doubt);
    else record(run, text);
  };

  return {
    queue,
    run,
    text,
    problem,
    slip,
    canUndo: steps.length > 0,
    said,
    lastId,
    setText,
    enter,
    keep: () => {
      if (run) record(run, text);
    },
    takeSuggestion: () => {
      if (run && slip?.suggestion !== undefined) record(run, String(slip.suggestion));
    },
    misfire: (reason) => {
      if (!run || run.state === 'done') return;
      const read = readingForm(run.measurand.form)?.read({ value: text }, run.measurand);
      const understood = read && 'parts' in read;
      const fields = readingOf(
        run,
        understood ? read.parts : [{ name: 'value', text: text.slice(0, 60), number: null }],
      );
      void recordParts(studyId, [
        { kind: 'readings', fields },
        decide('misfire', { readingId: fields.id, reason }),
      ]);
      setText('');
      setSaid(`Misfire of ${run.item.name} noted. The run stays open.`);
    },
    misfireReading: (at, reason) => {
      if (!at.reading) return;
      void recordParts(studyId, [decide('misfire', { readingId: at.reading.reading.id, reason })]);
      setChosen(at.key);
      setSaid(`Misfire of ${at.item.name} noted. The run is open again.`);
    },
    skip: () => {
      if (run?.state !== 'to come') return;
      void recordParts(studyId, [decide('skip', { run: refOf(run) })]);
      setText('');
      setChosen(undefined);
      setSaid(`${run.item.name} skipped.`);
    },
    undo: () => {
      const last = steps[steps.length - 1];
      if (!last) return;
      const { action, readingId, run: ref, reading, what } = last;
      void recordParts(studyId, [decide(action, { readingId, run: ref, reason: 'undone at the bench' })]);
      // The typed text comes back, so that a slip of the finger is mended and not typed anew.
      setText(what === 'reading' ? (reading?.parts[0]?.text ?? '') : '');
      setChosen(undefined);
      setLastId(undefined);
      setSaid(`The last ${what} is undone.`);
    },
    goTo: (key) => {
      setText('');
      setChosen(key);
    },
  };
}
