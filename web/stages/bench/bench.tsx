import {
  type KeyboardEvent as ReactKeyboardEvent,
  lazy,
  useEffect,
  useEffectEvent,
  useRef,
  useState,
} from 'react';
import { useNavigate } from 'react-router';
import styled from 'styled-components';
import type { InstrumentReading, InstrumentState } from '../../../core/model/instrument.ts';
import { blindStudy } from '../../../core/plan/blind.ts';
import { openingEarly, openingEarlyWords } from '../../../core/bench/irreversible.ts';
import { planSize } from '../../../core/plan/grid.ts';
import type { Run } from '../../../core/bench/queue.ts';
import { counted } from '../../../core/quantity/format.ts';
import { NextStage } from '../../app/next-stage.tsx';
import { useStudy } from '../../app/study-frame.tsx';
import { Button } from '../../ui/button.tsx';
import { EmptyState, Row, Sheet } from '../../ui/page.tsx';
import { NARROW } from '../../ui/tokens.ts';
import { Triggered, readInstrument, takeOverBench, tellBench, useLive } from '../../app/api/live.ts';
import { TAB } from '../../app/api/tab.ts';
import { problemText } from '../../app/api/client.ts';
import { patchStudy, recordParts } from '../../app/api/studies.ts';
import { tell } from '../../app/tell.ts';
import { usePreferences } from '../../app/preferences.ts';
import { Later } from '../../ui/later.tsx';
import { Menu } from '../../ui/menu.tsx';
import { toast } from '../../ui/toast.tsx';
import { clockTime } from '../../ui/when.ts';
import { BenchNotes } from './bench-notes.tsx';
import { Instruments, fitting } from './instruments.tsx';
import { LetterKey } from './letter-key.tsx';
import { LookDue } from './look-due.tsx';
import { NoteDialog } from './note-dialog.tsx';
import { noteSubjects } from './note-subjects.ts';
import { RECORDED_ALREADY, RunAtBench } from './run-at-bench.tsx';
import { RunRemarks } from './run-remarks.tsx';
import { SessionCard } from './session/session-card.tsx';
import { SessionStart } from './session/session-start.tsx';
import { KeySheet } from './key-sheet.tsx';
import { MisfireDialog } from './misfire-dialog.tsx';
import { RunQueue } from './run-queue.tsx';
import { useBench } from './use-bench.ts';

// Seldom wanted, and nobody types into them at once: they come when they are asked for.
const ImportDialog = lazy(async () => ({ default: (await import('./import-dialog.tsx')).ImportDialog }));
// The entry does not wait for what draws the readings under it, which comes meanwhile.
const readingsDrawn = () => import('./bench-readings.tsx');
readingsDrawn().catch(() => undefined);
const BenchReadings = lazy(async () => ({ default: (await readingsDrawn()).BenchReadings }));
const LogDialog = lazy(async () => ({ default: (await import('./log-dialog.tsx')).LogDialog }));

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

/** What a typed reading may begin with. */
const BEGINS_A_NUMBER = /^[\d.,+\u2212-]$/;

/** What an instrument sent, as it would be typed. */
const inWords = ({ text, unit }: InstrumentReading): string => `${text} ${unit}`.trim();

/** One item, one number, one line under it. */
export function Bench() {
  const whole = useStudy();
  const navigate = useNavigate();
  const bench = useBench(whole);
  const { run, queue, slip } = bench;
  const [misfiring, setMisfiring] = useState<'now' | Run>();
  const [keys, setKeys] = useState(false);
  const [log, setLog] = useState(false);
  const [noting, setNoting] = useState(false);
  const [importing, setImporting] = useState(false);
  const { letterKeys } = usePreferences();
  const { session, paused, asks } = bench.session;
  const live = useLive(whole.study.id, true);
  const followed = live.connected && live.holder !== null && live.holder !== TAB;
  const starting = run !== undefined && asks && !session;
  const input = useRef<HTMLInputElement>(null);
  const [connecting, setConnecting] = useState(false);
  const [openedEarly, setOpenedEarly] = useState<ReadonlySet<string>>(new Set());
  const early = run && openingEarly(whole, queue, run);
  const earlyKey = early && `${run.itemId}/${early.level.id}`;
  const guarded = earlyKey !== undefined && !openedEarly.has(earlyKey);
  // Readings are taken here: by nobody else, in a session that is on.
  const hands = run !== undefined && !followed && !starting && !paused && !guarded;
  const measurand = run?.measurand ?? queue[queue.length - 1]?.measurand;
  const dialogOpen = misfiring !== undefined || keys || log || noting || importing || connecting;

  // The entry has the focus whenever a run comes up, so that a hand only ever types and presses Enter.
  useEffect(() => {
    if (!dialogOpen) input.current?.focus();
  }, [run?.key, run?.state, dialogOpen, hands]);

  // What an undo brought back is selected, so that the right number is typed over it.
  useEffect(() => {
    if (bench.undone && !dialogOpen) input.current?.select();
  }, [run?.key, bench.undone, dialogOpen]);

  const [level] = run?.setting.flatMap(({ value }) => (value === null ? [] : [value])) ?? [];
  const onBench = live.instruments.length > 0 && hands ? run.itemId : undefined;
  const name = whole.items.find(({ id }) => id === onBench)?.name;
  useEffect(() => {
    if (name !== undefined) tellBench(name, level ?? null);
  }, [name, level]);

  const takeFrom = async ({ id }: InstrumentState) => {
    try {
      bench.takeText(inWords(await readInstrument(id)));
    } catch (error) {
      bench.trouble(problemText(error));
    }
  };
  const subjects = noteSubjects(run, bench.lastId, session?.id);

  const command = (key: string): boolean => {
    if (key === '?') setKeys(true);
    else if (!letterKeys || followed) return false;
    else if (key === 'l') setLog(true);
    else if (key === 'u') bench.undo();
    else if (!hands) return false;
    else if (key === 's') bench.skip();
    else if (key === 'm') setMisfiring(run.state === 'done' ? run : 'now');
    else if (key === 'a') bench.addRun(run);
    else if (key === 'n') setNoting(true);
    else if (key === 'r' && run.state === 'done') bench.takeAgain(run);
    else if (key === 'i') {
      const [instrument] = fitting(live.instruments, run.measurand);
      if (!instrument) return false;
      void takeFrom(instrument);
    } else return false;
    return true;
  };
  const onCommand = useEffectEvent(command);
  /** What is typed beside the entry goes into it, or it is said why not. */
  const onStray = useEffectEvent(() => {
    if (followed || dialogOpen) return;
    if (hands && run.state !== 'done') input.current?.focus();
    else if (hands) bench.trouble(RECORDED_ALREADY);
    else if (run) {
      const why = paused ? 'The session is paused: go on first.' : 'Nothing is being read just now.';
      toast({ text: `Not taken: what was just typed. ${why}`, tone: 'attention' });
    }
  });
  const onTriggered = useEffectEvent((reading: InstrumentReading) => {
    const triggered = live.instruments.filter(({ id }) => id === reading.id);
    if (hands && fitting(triggered, run.measurand).length > 0) bench.takeText(inWords(reading));
  });
  useEffect(() => {
    const hear = (event: Event) => {
      if (event instanceof Triggered) onTriggered(event.reading);
    };
    live.triggers.addEventListener('triggered', hear);
    return () => {
      live.triggers.removeEventListener('triggered', hear);
    };
  }, [live.triggers]);
  const entryKey = (event: ReactKeyboardEvent, typed: string): boolean => {
    if (event.key === 'Enter') {
      bench.enter();
      return true;
    }
    if (event.ctrlKey || event.metaKey || event.altKey) return false;
    if (event.key === 'Escape') {
      if (slip ?? bench.waiting) bench.dismiss();
      else bench.goTo(undefined);
      return true;
    }
    const letter = event.key.toLowerCase();
    if (letterKeys && slip?.suggestion !== undefined && letter === 't') {
      bench.takeSuggestion();
      return true;
    }
    // In an empty entry, and while a question waits, letters are keys: no number begins so.
    const isKey =
      typed === '' ||
      ((slip ?? bench.waiting) !== undefined && /^[msut?]$/.test(letter)) ||
      (bench.undone && letter === 'u');
    return isKey && command(letter);
  };
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      const typing = target.closest(
        'input, textarea, select, [role="dialog"], [role="menu"], [role="listbox"]',
      );
      if (typing || event.ctrlKey || event.metaKey || event.altKey) return;
      if (onCommand(event.key.toLowerCase())) event.preventDefault();
      else if (BEGINS_A_NUMBER.test(event.key)) onStray();
    };
    globalThis.addEventListener('keydown', onKey);
    return () => {
      globalThis.removeEventListener('keydown', onKey);
    };
  }, []);

  const more = (
    <Menu
      label="More at the bench"
      actions={[
        ...(hands
          ? [
              { id: 'note', label: 'A note or photo', onAction: () => setNoting(true) },
              { id: 'add', label: 'Add a run of this item', onAction: () => bench.addRun(run) },
            ]
          : []),
        { id: 'import', label: 'Readings from a table…', onAction: () => setImporting(true) },
        ...FROM_FILES.filter(({ form }) => whole.measurands.some((measurand) => measurand.form === form)).map(
          ({ page, label }) => ({ id: page, label, onAction: () => void navigate(`../bench/${page}`) }),
        ),
        { id: 'log', label: 'What was done', onAction: () => setLog(true) },
      ]}
    />
  );

  const undo = (
    <Button isDisabled={!bench.canUndo} onPress={bench.undo}>
      <LetterKey>U</LetterKey> undo the last
    </Button>
  );

  if (queue.length === 0) {
    const { refused } = planSize(whole);
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

  return (
    <Sheet
      next={!run && <NextStage to="screen" />}
      notes={
        <BenchNotes document={whole} bench={bench}>
          <LookDue document={whole} queue={queue} />
          <SessionCard document={whole} bench={bench.session} />
          {hands && (
            <Instruments
              instruments={live.instruments}
              measurand={run.measurand}
              onTake={(instrument) => void takeFrom(instrument)}
              connecting={connecting}
              onConnecting={setConnecting}
            />
          )}
          <RunRemarks document={whole} run={run} sessionId={session?.id} />
        </BenchNotes>
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
        <Hand aria-label="Entry">
          {followed ? (
            <EmptyState
              title={run ? `${run.item.name} is at the bench.` : 'All runs are done.'}
              action={
                <Button
                  tone="go"
                  onPress={() => {
                    tell(takeOverBench(whole.study.id));
                  }}
                >
                  Take over here
                </Button>
              }
            >
              Another tab or tablet takes the readings; they come in here as they are recorded.
            </EmptyState>
          ) : starting ? (
            <SessionStart
              document={whole}
              onStart={bench.session.start}
              beside={
                <>
                  {undo}
                  {more}
                </>
              }
            />
          ) : run && paused ? (
            <EmptyState
              title={`Paused since ${clockTime(session?.pauses.at(-1)?.from ?? '')}.`}
              action={
                <Row>
                  <Button tone="go" onPress={bench.session.goOn} autoFocus>
                    Go on
                  </Button>
                  {undo}
                  {more}
                </Row>
              }
            >
              {run.item.name} is next. The time of a pause does not count.
            </EmptyState>
          ) : run && early && guarded ? (
            <EmptyState
              title={`Not yet: ${run.item.name} at ${early.level.name}.`}
              action={
                <Row>
                  <Button
                    tone="go"
                    autoFocus
                    onPress={() => {
                      bench.goTo(early.lost[0]?.key);
                    }}
                  >
                    Read {counted(early.lost.length, 'run')} first
                  </Button>
                  <Button
                    onPress={() => {
                      setOpenedEarly((before) => new Set([...before, earlyKey]));
                    }}
                  >
                    Open it all the same
                  </Button>
                  {undo}
                  {more}
                </Row>
              }
            >
              {openingEarlyWords(early)}
            </EmptyState>
          ) : run ? (
            <RunAtBench
              document={whole}
              bench={bench}
              run={run}
              instruments={live.instruments}
              input={input}
              onKey={entryKey}
              onCommand={command}
              onMisfire={setMisfiring}
              onKeys={() => {
                setKeys(true);
              }}
              more={more}
            />
          ) : (
            <EmptyState
              title={
                queue.some(({ state }) => state === 'skipped')
                  ? 'All runs are done but the skipped ones.'
                  : `All ${counted(queue.length, 'run')} are done.`
              }
              action={
                <Row>
                  {undo}
                  {more}
                </Row>
              }
            >
              Look the readings over next. A run can still be opened from the queue.
            </EmptyState>
          )}
          <Said role="status" aria-live="polite">
            {bench.said}
          </Said>
          {measurand && (
            <Later waiting={<p>Drawing the readings…</p>}>
              <BenchReadings document={whole} run={run} measurand={measurand} lastId={bench.lastId} />
            </Later>
          )}
        </Hand>
      </Columns>
      <MisfireDialog
        isOpen={misfiring !== undefined}
        itemName={(misfiring === 'now' ? run : misfiring)?.item.name ?? ''}
        reasons={whole.study.misfireReasons}
        onReasons={(misfireReasons) => {
          tell(patchStudy(whole.study, { misfireReasons }));
        }}
        onClose={() => {
          setMisfiring(undefined);
        }}
        onReason={(reason) => {
          if (misfiring === 'now') bench.misfire(reason);
          else if (misfiring) bench.misfireReading(misfiring, reason);
          setMisfiring(undefined);
        }}
      />
      <Later>
        {log && (
          <LogDialog
            document={blindStudy(whole)}
            isOpen
            canUndo={bench.canUndo}
            onUndo={bench.undo}
            onClose={() => {
              setLog(false);
            }}
          />
        )}
        {importing && (
          <ImportDialog
            document={blindStudy(whole)}
            onClose={() => {
              setImporting(false);
            }}
            onDone={(count) => {
              setImporting(false);
              toast({ text: `${counted(count, 'reading')} taken from the table. Undo takes them all back.` });
            }}
          />
        )}
      </Later>
      {noting && (
        <NoteDialog
          studyId={whole.study.id}
          subjects={subjects}
          onClose={() => {
            setNoting(false);
          }}
          onNote={(text, about, photo) => {
            setNoting(false);
            const fields = { ...about, text, photo: null, removed: false, notedAt: new Date().toISOString() };
            void recordParts(whole.study.id, [{ kind: 'notes', fields, ...(photo ? { photo } : {}) }]);
          }}
        />
      )}
      <KeySheet
        isOpen={keys}
        onClose={() => {
          setKeys(false);
        }}
      />
    </Sheet>
  );
}
