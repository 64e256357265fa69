import { type ReactNode, lazy, useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import styled from 'styled-components';
import type { InstrumentState } from '../../../core/model/instrument.ts';
import type { Measurand } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { planSize } from '../../../core/plan/grid.ts';
import { NextStage } from '../../app/next-stage.tsx';
import { useStudy } from '../../app/study-frame.tsx';
import { Button } from '../../ui/button.tsx';
import { EmptyState, Sheet } from '../../ui/page.tsx';
import { NARROW } from '../../ui/tokens.ts';
import { tellBench, useLive } from '../../app/api/live.ts';
import { Later } from '../../ui/later.tsx';
import { Menu } from '../../ui/menu.tsx';
import { NotReading, useHeld } from './at-hand.tsx';
import { BenchDialogs, type OpenDialog } from './bench-dialogs.tsx';
import { useBenchKeys } from './bench-keys.ts';
import { BenchNotes } from './bench-notes.tsx';
import { Instruments } from './instruments.tsx';
import { LetterKey } from './letter-key.tsx';
import { LookDue } from './look-due.tsx';
import { RunAtBench } from './run-at-bench.tsx';
import { RunRemarks } from './run-remarks.tsx';
import { SessionCard } from './session/session-card.tsx';
import { RunQueue } from './run-queue.tsx';
import { type Bench as AtBench, useBench } from './use-bench.ts';
import { useTakeFrom } from './use-take-from.ts';

// The entry does not wait for what draws the readings under it, which comes meanwhile.
const readingsDrawn = () => import('./bench-readings.tsx');
readingsDrawn().catch(() => undefined);
const BenchReadings = lazy(async () => ({ default: (await readingsDrawn()).BenchReadings }));

const Columns = styled.div`
  display: grid;
  grid-template-columns: 204px minmax(0, 1fr);
  gap: 36px;
  ${NARROW} {
    grid-template-columns: minmax(0, 1fr);
    gap: 16px;
  }
`;

const Hand = styled.section`
  min-width: 0;
`;

const Said = styled.div`
  position: absolute;
  width: 1px;
  height: 1px;
  overflow: hidden;
  clip-path: inset(50%);
`;

/** Pages on which readings are worked out from files, each for a reading form. */
const FROM_FILES = [
  { form: 'trace', page: 'traces', label: 'Readings from traces' },
  { form: 'recording', page: 'recordings', label: 'Readings from recordings' },
] as const;

/** There is nothing to read, or far too much. */
function NoRuns({ document }: { document: StudyDocument }) {
  const navigate = useNavigate();
  const { refused } = planSize(document);
  return (
    <Sheet notes={null} notesLabel="Notes">
      <EmptyState
        title={refused === undefined ? 'Nothing to read yet.' : 'The plan is too large for the bench.'}
        action={
          <Button tone="go" onPress={() => void navigate('../plan')}>
            To the plan
          </Button>
        }
      >
        {refused ?? 'The bench needs at least one item and one measurand.'}
      </EmptyState>
    </Sheet>
  );
}

/** What is seldom wanted at the bench. */
function More({
  document,
  bench,
  reads,
  onOpen,
}: {
  document: StudyDocument;
  bench: AtBench;
  /** Whether readings are taken here. */
  reads: boolean;
  onOpen: (dialog: OpenDialog) => void;
}) {
  const navigate = useNavigate();
  const { run } = bench;
  const opens = (id: 'note' | 'import' | 'log', label: string) => ({
    ...{ id, label },
    onAction: () => {
      onOpen(id);
    },
  });
  const pages = FROM_FILES.filter(({ form }) =>
    document.measurands.some((measurand) => measurand.form === form),
  );
  return (
    <Menu
      label="More at the bench"
      actions={[
        ...(reads && run
          ? [
              opens('note', 'A note or photo'),
              {
                ...{ id: 'add', label: 'Add a run of this item' },
                onAction: () => {
                  bench.addRun(run);
                },
              },
            ]
          : []),
        opens('import', 'Readings from a table…'),
        ...pages.map(({ page, label }) => ({
          ...{ id: page, label },
          onAction: () => void navigate(`../bench/${page}`),
        })),
        opens('log', 'What was done'),
      ]}
    />
  );
}

/** Puts the entry in the hand whenever a run comes up, so that a hand only ever types and presses Enter. */
function useEntryFocus({ run, undone }: AtBench, dialogOpen: boolean, reads: boolean) {
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (!dialogOpen) input.current?.focus();
  }, [run?.key, run?.state, dialogOpen]);
  useEffect(() => {
    // The field is another one once an instrument reads; who is busy elsewhere is not called away.
    if (!dialogOpen && document.activeElement === document.body) input.current?.focus();
  }, [reads, dialogOpen]);
  // What an undo brought back is selected, so that the right number is typed over it.
  useEffect(() => {
    if (undone && !dialogOpen) input.current?.select();
  }, [run?.key, undone, dialogOpen]);
  return input;
}

/** Tells the instruments what is on the bench, where there are any. */
function useTellBench(document: StudyDocument, taken: AtBench['run']): void {
  const [level] = taken?.setting.flatMap(({ value }) => (value === null ? [] : [value])) ?? [];
  const name = document.items.find(({ id }) => id === taken?.itemId)?.name;
  useEffect(() => {
    if (name !== undefined) tellBench(name, level ?? null);
  }, [name, level]);
}

/** What there is to know at the bench, and the instruments of the run that is taken. */
function Margin({
  document,
  bench,
  taken,
  instruments,
  onTake,
  open,
  onOpen,
}: {
  document: StudyDocument;
  bench: AtBench;
  taken: AtBench['run'];
  instruments: readonly InstrumentState[];
  onTake: (instrument: InstrumentState) => void;
  open: OpenDialog | undefined;
  onOpen: (dialog: OpenDialog | undefined) => void;
}) {
  return (
    <BenchNotes document={document} bench={bench}>
      <LookDue document={document} queue={bench.queue} />
      <SessionCard document={document} bench={bench.session} />
      {taken && (
        <Instruments
          instruments={instruments}
          measurand={taken.measurand}
          onTake={onTake}
          connecting={open === 'connect'}
          onConnecting={(connecting) => {
            onOpen(connecting ? 'connect' : undefined);
          }}
        />
      )}
      <RunRemarks document={document} run={bench.run} sessionId={bench.session.session?.id} />
    </BenchNotes>
  );
}

interface EntryAndReadingsProps {
  whole: StudyDocument;
  bench: AtBench;
  /** Why nothing is read here now. */
  held: ReturnType<typeof useHeld>;
  /** The run that is read here. */
  taken: AtBench['run'];
  measurand: Measurand | undefined;
  live: ReturnType<typeof useLive>;
  input: ReturnType<typeof useEntryFocus>;
  entryKey: ReturnType<typeof useBenchKeys>['entryKey'];
  command: ReturnType<typeof useBenchKeys>['command'];
  more: ReactNode;
  onOpen: (dialog: OpenDialog) => void;
}

/** What the hand works at: the entry, or why there is none, and the readings so far. */
function EntryAndReadings({
  whole,
  bench,
  held,
  taken,
  measurand,
  live,
  input,
  entryKey,
  command,
  more,
  onOpen,
}: EntryAndReadingsProps) {
  return (
    <Hand aria-label="Entry">
      {held && (
        <NotReading
          document={whole}
          bench={bench}
          held={held}
          beside={
            <>
              <Button isDisabled={!bench.canUndo} onPress={bench.undo}>
                <LetterKey>U</LetterKey> undo the last
              </Button>
              {more}
            </>
          }
        />
      )}
      {taken && (
        <RunAtBench
          document={whole}
          bench={bench}
          run={taken}
          instruments={live.instruments}
          input={input}
          onKey={entryKey}
          onCommand={command}
          onMisfire={(misfire) => {
            onOpen({ misfire });
          }}
          onKeys={() => {
            onOpen('keys');
          }}
          more={more}
        />
      )}
      <Said role="status" aria-live="polite">
        {bench.said}
      </Said>
      {measurand && (
        <Later waiting={<p>Drawing the readings…</p>}>
          <BenchReadings document={whole} run={bench.run} measurand={measurand} lastId={bench.lastId} />
        </Later>
      )}
    </Hand>
  );
}

/** One item, one number, one line under it. */
export function Bench() {
  const whole = useStudy();
  const bench = useBench(whole);
  const { run, queue } = bench;
  const [open, setOpen] = useState<OpenDialog>();
  const live = useLive(whole.study.id, true);
  const held = useHeld(whole, bench, live);
  // Readings are taken here: by nobody else, in a session that is on.
  const taken = held ? undefined : run;
  const measurand = run?.measurand ?? queue[queue.length - 1]?.measurand;
  const input = useEntryFocus(bench, open !== undefined, taken !== undefined);
  const takeFrom = useTakeFrom({ ...bench, run: taken });
  useTellBench(whole, live.instruments.length > 0 ? taken : undefined);
  const { command, entryKey } = useBenchKeys(
    {
      ...{ bench, live, taken, followed: held?.by === 'another tab' },
      ...{ dialogOpen: open !== undefined, openDialog: setOpen },
      takeFrom,
    },
    () => input.current?.focus(),
  );
  if (queue.length === 0) return <NoRuns document={whole} />;
  const more = <More document={whole} bench={bench} reads={taken !== undefined} onOpen={setOpen} />;
  return (
    <Sheet
      next={!run && <NextStage to="screen" />}
      notes={
        <Margin
          document={whole}
          {...{ bench, taken, open }}
          onTake={takeFrom}
          instruments={live.instruments}
          onOpen={setOpen}
        />
      }
      notesLabel="Notes at the bench"
    >
      <Columns>
        <RunQueue
          plan={whole}
          queue={queue}
          currentKey={run?.key}
          severalMeasurands={whole.measurands.length > 1}
          onChoose={bench.goTo}
        />
        <EntryAndReadings
          {...{ whole, bench, held, taken, live, input, entryKey, command, more }}
          measurand={measurand}
          onOpen={setOpen}
        />
      </Columns>
      <BenchDialogs
        document={whole}
        bench={bench}
        open={open}
        onClose={() => {
          setOpen(undefined);
        }}
      />
    </Sheet>
  );
}
