import {
  type KeyboardEvent as ReactKeyboardEvent,
  useEffect,
  useEffectEvent,
  useMemo,
  useRef,
  useState,
} from 'react';
import { useNavigate } from 'react-router';
import styled from 'styled-components';
import { ALPHA } from '../../../core/analysis/alpha.ts';
import { firstSetting, studyView } from '../../../core/analysis/view.ts';
import { readingForm } from '../../../core/forms/index.ts';
import { blindStudy } from '../../../core/plan/blind.ts';
import { planSize, settingKey, settingWords } from '../../../core/plan/grid.ts';
import type { Run } from '../../../core/plan/queue.ts';
import { counted, formatPlain, formatReading, withUnit } from '../../../core/quantity/format.ts';
import { useAnalysis } from '../../app/api/analysis.ts';
import { useStudy } from '../../app/study-frame.tsx';
import { stripLanes } from '../../strip/lanes.ts';
import { MarkSign } from '../../strip/mark-sign.tsx';
import { Strip } from '../../strip/strip.tsx';
import { Button } from '../../ui/button.tsx';
import { Key } from '../../ui/key.tsx';
import { EmptyState, Row, Sheet } from '../../ui/page.tsx';
import { NARROW } from '../../ui/tokens.ts';
import { BenchNotes } from './bench-notes.tsx';
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

const Said = styled.div`
  position: absolute;
  width: 1px;
  height: 1px;
  overflow: hidden;
  clip-path: inset(50%);
`;

/** One item, one number, one line under it. */
export function Bench() {
  const whole = useStudy();
  const navigate = useNavigate();
  const bench = useBench(whole);
  const { run, queue, slip, problem } = bench;
  const [misfiring, setMisfiring] = useState<'now' | Run>();
  const [keys, setKeys] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const measurand = run?.measurand ?? queue[queue.length - 1]?.measurand;
  // The strip shows what has been read of this measurand at this setting.
  const key = run ? settingKey(run.levelIds) : firstSetting(whole);
  const document = useMemo(() => studyView(blindStudy(whole), key), [whole, key]);
  const { data: analysis } = useAnalysis(document, measurand?.id, { resamples: 0 });
  const lanes = useMemo(
    () => (measurand ? stripLanes(document, measurand, analysis) : []),
    [document, measurand, analysis],
  );
  const dialogOpen = misfiring !== undefined || keys;

  // The entry has the focus whenever a run comes up, so that a hand only ever types and presses Enter.
  useEffect(() => {
    if (!dialogOpen) input.current?.focus();
  }, [run?.key, dialogOpen]);

  const command = (key: string): boolean => {
    if (key === 'u') bench.undo();
    else if (key === 's') bench.skip();
    else if (key === 'm' && run) setMisfiring(run.state === 'done' ? run : 'now');
    else if (key === '?') setKeys(true);
    else return false;
    return true;
  };
  const onCommand = useEffectEvent(command);
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
    if (slip?.suggestion !== undefined && letter === 't') {
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
    <Sheet notes={<BenchNotes document={whole} bench={bench} />} notesLabel="Notes at the bench">
      <Columns>
        <RunQueue
          queue={queue}
          currentKey={run?.key}
          severalMeasurands={document.measurands.length > 1}
          onChoose={bench.goTo}
        />
        <Hand aria-label="Entry">
          {run ? (
            <>
              <Who>
                <MarkSign mark={run.item.mark} size={60} />
                <div>
                  <h1>
                    <bdi>{run.item.name}</bdi>
                    {run.setting.length > 0 && <em> {settingWords(run.setting)}</em>}
                  </h1>
                  <p>
                    {runWords(run, document.measurands.length > 1)}
                    {run.misfires > 0 && `, after ${counted(run.misfires, 'misfire')}`}
                  </p>
                </div>
              </Who>
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
          {measurand && (
            <Strip
              label={`${measurand.name}: readings so far, by item`}
              unit={measurand.unit}
              lanes={lanes}
              laneHeight={Math.max(34, Math.min(48, Math.floor(300 / Math.max(1, lanes.length))))}
              pointedId={bench.lastId}
            />
          )}
        </Hand>
      </Columns>
      <MisfireDialog
        isOpen={misfiring !== undefined}
        itemName={(misfiring === 'now' ? run : misfiring)?.item.name ?? ''}
        onClose={() => {
          setMisfiring(undefined);
        }}
        onReason={(reason) => {
          if (misfiring === 'now') bench.misfire(reason);
          else if (misfiring) bench.misfireReading(misfiring, reason);
          setMisfiring(undefined);
        }}
      />
      <KeySheet
        isOpen={keys}
        onClose={() => {
          setKeys(false);
        }}
      />
    </Sheet>
  );
}
