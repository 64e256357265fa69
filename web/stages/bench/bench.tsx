import {
  type KeyboardEvent as ReactKeyboardEvent,
  memo,
  useDeferredValue,
  useEffect,
  useEffectEvent,
  useMemo,
  useRef,
  useState,
} from 'react';
import { useNavigate } from 'react-router';
import styled from 'styled-components';
import { ALPHA } from '../../../core/analysis/alpha.ts';
import { readingsInOrder } from '../../../core/analysis/in-order.ts';
import { firstSetting, studyView } from '../../../core/analysis/view.ts';
import { readingForm } from '../../../core/forms/index.ts';
import type { InstrumentReading, InstrumentState } from '../../../core/model/instrument.ts';
import { blindStudy } from '../../../core/plan/blind.ts';
import { planSize, settingKey, settingWords } from '../../../core/plan/grid.ts';
import type { Run } from '../../../core/plan/queue.ts';
import { counted, formatPlain, formatReading, withUnit } from '../../../core/quantity/format.ts';
import { useAnalysis } from '../../app/api/analysis.ts';
import { useStudy } from '../../app/study-frame.tsx';
import { stripLanes } from '../../strip/lanes.ts';
import { MarkSign } from '../../strip/mark-sign.tsx';
import { OrderPicture } from '../../strip/order-picture.tsx';
import { Strip } from '../../strip/strip.tsx';
import { Button } from '../../ui/button.tsx';
import { Key } from '../../ui/key.tsx';
import { EmptyState, Row, Sheet } from '../../ui/page.tsx';
import { Segments } from '../../ui/segments.tsx';
import { NARROW } from '../../ui/tokens.ts';
import { TAB, Triggered, readInstrument, takeOverBench, tellBench, useLive } from '../../app/api/live.ts';
import { problemText } from '../../app/api/client.ts';
import { patchStudy, recordParts } from '../../app/api/studies.ts';
import { usePreferences } from '../../app/preferences.ts';
import { Menu } from '../../ui/menu.tsx';
import { toast } from '../../ui/toast.tsx';
import { clockTime } from '../../ui/when.ts';
import { BenchNotes } from './bench-notes.tsx';
import { ImportDialog } from './import-dialog.tsx';
import { Instruments, fitting } from './instruments.tsx';
import { LogDialog } from './log-dialog.tsx';
import { NoteDialog, type NoteSubject } from './note-dialog.tsx';
import { RunRemarks } from './run-remarks.tsx';
import { SessionCard } from './session/session-card.tsx';
import { SessionStart } from './session/session-start.tsx';
import { WhatNow } from './what-now.tsx';
import { KeySheet } from './key-sheet.tsx';
import { MisfireDialog } from './misfire-dialog.tsx';
import { RunQueue } from './run-queue.tsx';
import { ENTRIES } from './entry/index.ts';
import { Figure } from './entry/frame.tsx';
import { runWords, useBench } from './use-bench.ts';

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

const Who = styled.div`
  display: flex;
  align-items: center;
  gap: 24px;
  min-height: 92px;
  h1 {
    font-size: clamp(2rem, 5.2vw, var(--size-58));
    line-height: 1.05;
    font-weight: 760;
    overflow-wrap: anywhere;
    display: -webkit-box;
    -webkit-box-orient: vertical;
    -webkit-line-clamp: 2;
    overflow: hidden;
  }
  em {
    font-style: normal;
    font-weight: 500;
    color: var(--fern);
    white-space: nowrap;
  }
  p {
    color: var(--quiet);
    font-size: var(--size-19);
    b {
      color: var(--ink);
      font-weight: 680;
    }
  }
  > svg {
    flex: none;
  }
`;

/** Room for the keys or for a question, so that nothing below it jumps. */
const Under = styled.div`
  min-height: 62px;
  padding-top: 9px;
`;

const Doubt = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 12px;
  strong {
    color: var(--rust);
    font-size: var(--size-19);
    line-height: 1.3;
    font-weight: 640;
  }
`;

const Understood = styled.b`
  font-size: var(--size-19);
  font-weight: 640;
  margin-right: 8px;
`;

/** What the form itself says of a recorded reading: its own interval. */
function recordedWords({ reading, measurand }: Run): string {
  const form = readingForm(measurand.form);
  const found = reading && form?.interval?.(reading.reading.parts, measurand, ALPHA);
  if (!found) return '';
  const figure = (value: number) => formatPlain(Number(value.toPrecision(3)));
  return `; ${figure(found.low)} to ${withUnit(figure(found.high), measurand.unit)} by the ${found.method}`;
}

const Shown = styled.div`
  margin: 6px 0 10px;
`;

const Said = styled.div`
  position: absolute;
  width: 1px;
  height: 1px;
  overflow: hidden;
  clip-path: inset(50%);
`;

/** What an instrument sent, as it would be typed. */
const inWords = ({ text, unit }: InstrumentReading): string => `${text} ${unit}`.trim();

/** What a note can be about at the bench, the likeliest first. */
function noteSubjects(
  run: Run | undefined,
  lastId: string | undefined,
  sessionId: string | undefined,
): NoteSubject[] {
  const nothing = { readingId: null, itemId: null, sessionId: null, run: null };
  const subjects: NoteSubject[] = [];
  const own = run?.reading?.reading.id;
  if (run && own !== undefined) {
    subjects.push({ value: 'reading', label: 'This reading', about: { ...nothing, readingId: own } });
  }
  if (run) {
    const { round, itemId, measurandId, levelIds } = run;
    subjects.push({
      value: 'run',
      label: 'This run',
      about: { ...nothing, run: { round, itemId, measurandId, levelIds } },
    });
  }
  if (lastId !== undefined && lastId !== own) {
    subjects.push({ value: 'last', label: 'The last reading', about: { ...nothing, readingId: lastId } });
  }
  if (run) subjects.push({ value: 'item', label: run.item.name, about: { ...nothing, itemId: run.itemId } });
  if (sessionId !== undefined) {
    subjects.push({ value: 'session', label: 'The session', about: { ...nothing, sessionId } });
  }
  return subjects;
}

/** Drawn anew only when the readings are. */
const LiveStrip = memo(Strip);

/** One item, one number, one line under it. */
export function Bench() {
  const whole = useStudy();
  const navigate = useNavigate();
  const bench = useBench(whole);
  const { run, queue, slip, problem } = bench;
  const [misfiring, setMisfiring] = useState<'now' | Run>();
  const [keys, setKeys] = useState(false);
  const [log, setLog] = useState(false);
  const [noting, setNoting] = useState(false);
  const [importing, setImporting] = useState(false);
  const [shown, setShown] = useState<'items' | 'order'>('items');
  const { letterKeys } = usePreferences();
  const { session, paused, asks } = bench.session;
  const live = useLive(whole.study.id, true);
  const followed = live.connected && live.holder !== null && live.holder !== TAB;
  const starting = run !== undefined && asks && !session;
  // Readings are taken here: by nobody else, in a session that is on.
  const hands = run !== undefined && !followed && !starting && !paused;
  const input = useRef<HTMLInputElement>(null);
  const measurand = run?.measurand ?? queue[queue.length - 1]?.measurand;
  // The strip shows what has been read of this measurand at this setting.
  const key = run ? settingKey(run.levelIds) : firstSetting(whole);
  // The hand comes first: what is drawn of the readings may follow a moment later.
  const settled = useDeferredValue(whole);
  const pointedId = useDeferredValue(bench.lastId);
  const document = useMemo(() => studyView(blindStudy(settled), key), [settled, key]);
  const { data: analysis } = useAnalysis(document, measurand?.id, { resamples: 0 });
  const lanes = useMemo(
    () => (measurand ? stripLanes(document, measurand, analysis) : []),
    [document, measurand, analysis],
  );
  const order = useMemo(
    () => readingsInOrder(document, shown === 'order' && measurand ? measurand.id : ''),
    [document, measurand, shown],
  );
  const marks = useMemo(() => new Map(document.items.map(({ id, mark }) => [id, mark])), [document]);
  const dialogOpen = misfiring !== undefined || keys || log || noting || importing;

  // The entry has the focus whenever a run comes up, so that a hand only ever types and presses Enter.
  useEffect(() => {
    if (!dialogOpen) input.current?.focus();
  }, [run?.key, dialogOpen, hands]);

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
  const subjects: NoteSubject[] = noteSubjects(run, bench.lastId, session?.id);

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
  const onTriggered = useEffectEvent((reading: InstrumentReading) => {
    const own = live.instruments.filter(({ id }) => id === reading.id);
    if (hands && fitting(own, run.measurand).length > 0) bench.takeText(inWords(reading));
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
      if (slip) bench.dismiss();
      else bench.goTo(undefined);
      return true;
    }
    const letter = event.key.toLowerCase();
    if (letterKeys && slip?.suggestion !== undefined && letter === 't') {
      bench.takeSuggestion();
      return true;
    }
    // In an empty entry, and while a question waits, letters are keys: no number begins so.
    return (typed === '' || (slip !== undefined && /^[msut?]$/.test(letter))) && command(letter);
  };
  const Entry = run && ENTRIES[readingForm(run.measurand.form)?.entry ?? 'number'];
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      const typing = target.closest(
        'input, textarea, select, [role="dialog"], [role="menu"], [role="listbox"]',
      );
      if (typing || event.ctrlKey || event.metaKey || event.altKey) return;
      if (onCommand(event.key.toLowerCase())) event.preventDefault();
    };
    globalThis.addEventListener('keydown', onKey);
    return () => {
      globalThis.removeEventListener('keydown', onKey);
    };
  }, []);

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
      notes={
        <BenchNotes document={whole} bench={bench}>
          <SessionCard document={whole} bench={bench.session} />
          {hands && (
            <Instruments
              instruments={live.instruments}
              measurand={run.measurand}
              onTake={(instrument) => void takeFrom(instrument)}
            />
          )}
          <RunRemarks document={whole} run={run} sessionId={session?.id} />
        </BenchNotes>
      }
      notesLabel="Notes at the bench"
    >
      <Columns>
        <RunQueue
          queue={queue}
          currentKey={run?.key}
          severalMeasurands={document.measurands.length > 1}
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
                    takeOverBench(whole.study.id).catch((error: unknown) => {
                      toast({ text: problemText(error), tone: 'attention' });
                    });
                  }}
                >
                  Take over here
                </Button>
              }
            >
              Another tab or tablet takes the readings; they come in here as they are recorded.
            </EmptyState>
          ) : starting ? (
            <SessionStart document={whole} onStart={bench.session.start} />
          ) : run && paused ? (
            <EmptyState
              title={`Paused since ${clockTime(session?.pauses.at(-1)?.from ?? '')}.`}
              action={
                <Button tone="go" onPress={bench.session.goOn} autoFocus>
                  Go on
                </Button>
              }
            >
              {run.item.name} is next. The time of a pause does not count.
            </EmptyState>
          ) : run ? (
            <>
              <Who>
                <MarkSign mark={run.item.mark} size={60} />
                <div>
                  <h1>
                    <bdi>{run.item.name}</bdi>
                    {run.setting.length > 0 && <em> {settingWords(run.setting)}</em>}
                  </h1>
                  <p>
                    <b>{run.item.code}</b> · {runWords(run, document.measurands.length > 1)}
                    {run.misfires > 0 && `, after ${counted(run.misfires, 'misfire')}`}
                    {run.added && ', not in the plan'}
                  </p>
                </div>
              </Who>
              {run.state !== 'done' && <WhatNow document={whole} run={run} bench={bench.session} />}
              {run.state === 'done' ? (
                <>
                  <Figure $odd={false}>
                    <input
                      readOnly
                      ref={input}
                      aria-label={`Recorded reading of ${run.item.name}`}
                      value={run.reading?.value == null ? '' : formatReading(run.reading.value)}
                      onKeyDown={(event) => {
                        if (command(event.key.toLowerCase())) event.preventDefault();
                        else if (event.key === 'Escape') bench.goTo(undefined);
                      }}
                    />
                    <span>{run.measurand.unit}</span>
                  </Figure>
                  <Under>
                    <Row>
                      <span>Recorded{recordedWords(run)}.</span>
                      <Button
                        size="small"
                        onPress={() => {
                          setMisfiring(run);
                        }}
                      >
                        It was a misfire <Key>M</Key>
                      </Button>
                      <Button
                        size="small"
                        onPress={() => {
                          bench.takeAgain(run);
                        }}
                      >
                        Take it again <Key>R</Key>
                      </Button>
                      <Button
                        size="small"
                        tone="go"
                        onPress={() => {
                          bench.goTo(undefined);
                        }}
                      >
                        On with the queue <Key>Esc</Key>
                      </Button>
                    </Row>
                  </Under>
                </>
              ) : (
                <>
                  {Entry && (
                    <Entry
                      key={run.key}
                      run={run}
                      texts={bench.texts}
                      onText={bench.setText}
                      wrongPart={bench.wrongPart}
                      odd={Boolean(slip ?? problem)}
                      onEnter={bench.enter}
                      onKey={entryKey}
                      first={input}
                    />
                  )}
                  <Under id="bench-under">
                    {slip ? (
                      <Doubt role="alert">
                        <strong>{slip.sentence}</strong>
                        {slip.suggestion !== undefined && (
                          <Button size="small" tone="go" onPress={bench.takeSuggestion}>
                            Take {withUnit(formatPlain(slip.suggestion), run.measurand.unit)} <Key>T</Key>
                          </Button>
                        )}
                        <Button size="small" onPress={bench.keep}>
                          Keep it <Key>Enter</Key>
                        </Button>
                        <Button
                          size="small"
                          tone="quiet"
                          onPress={() => {
                            setMisfiring('now');
                          }}
                        >
                          Misfire <Key>M</Key>
                        </Button>
                      </Doubt>
                    ) : problem ? (
                      <Doubt role="alert">
                        <strong>{problem}</strong>
                      </Doubt>
                    ) : (
                      <Row>
                        {bench.understood !== undefined && <Understood>= {bench.understood}</Understood>}
                        <Button
                          size="small"
                          tone="quiet"
                          onPress={() => {
                            setMisfiring('now');
                          }}
                        >
                          <Key>M</Key> misfire
                        </Button>
                        <Button size="small" tone="quiet" isDisabled={!bench.canUndo} onPress={bench.undo}>
                          <Key>U</Key> undo
                        </Button>
                        <Button
                          size="small"
                          tone="quiet"
                          isDisabled={run.state !== 'to come'}
                          onPress={bench.skip}
                        >
                          <Key>S</Key> skip
                        </Button>
                        <Button
                          size="small"
                          tone="quiet"
                          onPress={() => {
                            setKeys(true);
                          }}
                        >
                          <Key>?</Key> all keys
                        </Button>
                        <Menu
                          label="More at the bench"
                          actions={[
                            { id: 'note', label: 'A note or photo', onAction: () => setNoting(true) },
                            { id: 'add', label: 'Add a run of this item', onAction: () => bench.addRun(run) },
                            {
                              id: 'import',
                              label: 'Readings from a table…',
                              onAction: () => {
                                setImporting(true);
                              },
                            },
                            { id: 'log', label: 'What was done', onAction: () => setLog(true) },
                          ]}
                        />
                      </Row>
                    )}
                  </Under>
                </>
              )}
            </>
          ) : (
            <EmptyState
              title={
                queue.some(({ state }) => state === 'skipped')
                  ? 'All runs are done but the skipped ones.'
                  : `All ${counted(queue.length, 'run')} are done.`
              }
              action={
                <Row>
                  <Button tone="go" onPress={() => void navigate('../screen')}>
                    To the screening
                  </Button>
                  <Button isDisabled={!bench.canUndo} onPress={bench.undo}>
                    <Key>U</Key> undo the last
                  </Button>
                </Row>
              }
            >
              Look the readings over next. A run can still be opened from the queue.
            </EmptyState>
          )}
          <Said role="status" aria-live="polite">
            {bench.said}
          </Said>
          {measurand && lanes.length > 0 && (
            <Shown>
              <Segments
                label="Readings shown"
                labelHidden
                options={[
                  { value: 'items', label: 'By item' },
                  { value: 'order', label: 'In the order taken' },
                ]}
                value={shown}
                onChange={setShown}
              />
            </Shown>
          )}
          {measurand && shown === 'order' && (
            <OrderPicture label={measurand.name} unit={measurand.unit} order={order} marks={marks} />
          )}
          {measurand && shown === 'items' && (
            <LiveStrip
              label={`${measurand.name}: readings so far, by item`}
              unit={measurand.unit}
              lanes={lanes}
              laneHeight={Math.max(34, Math.min(48, Math.floor(300 / Math.max(1, lanes.length))))}
              pointedId={pointedId}
            />
          )}
        </Hand>
      </Columns>
      <MisfireDialog
        isOpen={misfiring !== undefined}
        itemName={(misfiring === 'now' ? run : misfiring)?.item.name ?? ''}
        reasons={whole.study.misfireReasons}
        onReasons={(misfireReasons) => {
          patchStudy(whole.study, { misfireReasons }).catch((error: unknown) => {
            toast({ text: problemText(error), tone: 'attention' });
          });
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
      <LogDialog
        document={blindStudy(whole)}
        isOpen={log}
        canUndo={bench.canUndo}
        onUndo={bench.undo}
        onClose={() => {
          setLog(false);
        }}
      />
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
      {noting && (
        <NoteDialog
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
