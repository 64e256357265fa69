import { useDeferredValue, useMemo, useState } from 'react';
import { type Slip } from '../../../core/bench/slip.ts';
import type { PartTexts } from '../../../core/forms/form.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { blindItems } from '../../../core/plan/blind.ts';
import { type Run, plannedRuns, runQueue } from '../../../core/bench/queue.ts';
import { filledIn, understoodWords } from '../../../core/bench/run-entry.ts';
import { canUndo } from '../../../core/bench/undo.ts';
import { isText, keep, kept, useKept } from '../../app/kept.ts';
import { type SessionAtBench, useSession } from './session/use-session.ts';

import {
  type BenchContext,
  type Doubt,
  type Entry,
  NOTHING_TYPED,
  entryName,
  entrySteps,
  isEntry,
  runSteps,
} from './bench-steps.ts';

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

/** The runs of a study in the order of its plan, as the bench may show them. */
function useQueue(document: StudyDocument): readonly Run[] {
  const { study, items, measurands, factors, levels } = document;
  const planned = useMemo(
    () => plannedRuns({ study, items, measurands, factors, levels }),
    [study, items, measurands, factors, levels],
  );
  return useMemo(() => {
    const runs = runQueue(document, planned);
    if (document.study.blind !== 'blind') return runs;
    const shown = blindItems(document);
    return runs.map((run) => ({ ...run, item: shown.get(run.itemId) ?? run.item }));
  }, [document, planned]);
}

/** The run that was chosen from the queue, which is kept when the page is loaded again. */
function useChosen(studyId: string, queue: readonly Run[]) {
  const name = `run/${studyId}`;
  const [chosen, setChosen] = useState(() => {
    const before = kept(name, isText);
    return queue.find(({ key, state }) => key === before && state !== 'done')?.key;
  });
  const choose = (key: string | undefined) => {
    setChosen(key);
    keep(name, key);
  };
  return [chosen, choose] as const;
}

/** Everything that the bench does, on the study's record. */
export function useBench(document: StudyDocument): Bench {
  const studyId = document.study.id;
  const queue = useQueue(document);
  // Whether there is something to undo may be told a moment later than the next run is shown; what it is may not.
  const settled = useDeferredValue(document);
  const undoable = useMemo(() => canUndo(settled), [settled]);
  const session = useSession(document);
  const [chosen, choose] = useChosen(studyId, queue);
  const [lastDoubt, setDoubt] = useState<Doubt>();
  const [said, setSaid] = useState('');
  const [lastId, setLastId] = useState<string>();
  const run = queue.find(({ key }) => key === chosen) ?? queue.find(({ state }) => state === 'to come');
  // What is typed stays with its run: also when another one is looked at, or the page is loaded again.
  const [entry, changeEntry] = useKept<Entry>(entryName(studyId, run?.key), () => NOTHING_TYPED, isEntry);
  const { texts: typed, source = 'typed' } = entry;
  // Nor is a question asked about another run, where this one was taken by another tab meanwhile.
  const doubt = lastDoubt?.run === run?.key ? lastDoubt : undefined;
  const texts: PartTexts = run ? { ...filledIn(queue, run), ...typed } : typed;
  const context: BenchContext = {
    ...{ document, session, queue, run, texts, source, doubt },
    ...{ changeEntry, setDoubt, choose, setSaid, setLastId },
  };
  return {
    ...{ session, queue, run, texts, said, lastId },
    understood: run && understoodWords(run.measurand, texts),
    problem: doubt?.problem?.text,
    wrongPart: doubt?.problem?.part,
    slip: doubt?.slip,
    waiting: doubt?.wait,
    canUndo: undoable,
    undone: entry.undone === true,
    ...entrySteps(context),
    ...runSteps(context),
  };
}

/** What a run is, besides its item and levels: “Round 2, Air speed”. */
export const runWords = ({ round, measurand }: Run, several: boolean): string =>
  several ? `${measurand.name}, round ${String(round)}` : `Round ${String(round)}, ${measurand.name}`;
