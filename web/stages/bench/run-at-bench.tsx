import { type KeyboardEvent, type ReactNode, type RefObject, lazy } from 'react';
import styled from 'styled-components';
import { readingForm } from '../../../core/forms/index.ts';
import type { InstrumentState } from '../../../core/model/instrument.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { settingWords } from '../../../core/plan/grid.ts';
import type { Run } from '../../../core/bench/queue.ts';
import { counted, formatPlain, readingWords, withUnit } from '../../../core/quantity/format.ts';
import { MarkSign } from '../../strip/mark-sign.tsx';
import { Button } from '../../ui/button.tsx';
import { Key } from '../../ui/key.tsx';
import { LetterKey } from './letter-key.tsx';
import { Row } from '../../ui/page.tsx';
import { ENTRIES } from './entry/index.ts';
import { EntryName, Figure } from './entry/frame.tsx';
import { type Pressed, pressedIn } from './pressed.ts';
import { type Bench, runWords } from './use-bench.ts';
import { WhatNow } from './what-now.tsx';
import { Later } from '../../ui/later.tsx';

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

// Few forms have intervals of their own, and what works them out is large.
const ReadingInterval = lazy(async () => ({
  default: (await import('./reading-interval.tsx')).ReadingInterval,
}));

const Understood = styled.b`
  font-size: var(--size-19);
  font-weight: 640;
  margin-right: 8px;
`;

export interface RunAtBenchProps {
  document: StudyDocument;
  bench: Bench;
  run: Run;
  instruments: readonly InstrumentState[];
  /** Gets the focus when the run comes up. */
  input: RefObject<HTMLInputElement | null>;
  /** Keys of the entry; true when the key was one of the bench's. */
  onKey: (event: KeyboardEvent, typed: string) => boolean;
  /** A key of the bench; true when it was one. */
  onCommand: (pressed: Pressed) => boolean;
  onMisfire: (of: 'now' | Run) => void;
  onKeys: () => void;
  /** Further actions, behind a button. */
  more: ReactNode;
}

/** What is said where somebody types over a reading that is recorded. */
export const RECORDED_ALREADY = 'This run is read already. Take it again to type another reading.';

const hasInterval = (name: string): boolean => {
  const form = readingForm(name);
  return (form?.counted ?? form?.interval) !== undefined;
};

/** That a run is recorded, and what can be done about it. */
function RecordedActions({ bench, run, onMisfire }: Pick<RunAtBenchProps, 'bench' | 'run' | 'onMisfire'>) {
  return (
    <Row>
      <span>
        Recorded
        {run.reading && hasInterval(run.measurand.form) && (
          <Later quiet>
            <ReadingInterval parts={run.reading.reading.parts} measurand={run.measurand} />
          </Later>
        )}
        .
      </span>
      <Button
        size="small"
        onPress={() => {
          onMisfire(run);
        }}
      >
        It was a misfire <LetterKey>M</LetterKey>
      </Button>
      <Button
        size="small"
        onPress={() => {
          bench.takeAgain(run);
        }}
      >
        Take it again <LetterKey>R</LetterKey>
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
  );
}

/** A run that is read already: what was recorded, and what can be done about it. */
function RecordedRun({
  bench,
  run,
  input,
  onCommand,
  onMisfire,
}: Omit<RunAtBenchProps, 'document' | 'instruments' | 'onKey' | 'onKeys' | 'more'>) {
  const { reading } = run;
  const shown =
    reading?.value == null ? '' : readingWords({ value: reading.value, parts: reading.reading.parts }, '');
  return (
    <>
      <EntryName>What was recorded</EntryName>
      <Figure $odd={false}>
        <input
          readOnly
          ref={input}
          aria-label={`Recorded reading of ${run.item.name}`}
          value={shown}
          onKeyDown={(event) => {
            if (onCommand(pressedIn(event))) event.preventDefault();
            else if (event.key === 'Escape') bench.goTo(undefined);
            else if (/^\d$/.test(event.key)) bench.trouble(RECORDED_ALREADY);
          }}
        />
        <span>{shown.includes(':') ? 'min:s' : run.measurand.unit}</span>
      </Figure>
      <Under>
        {bench.problem !== undefined && (
          <Doubt role="alert">
            <strong>{bench.problem}</strong>
          </Doubt>
        )}
        <RecordedActions bench={bench} run={run} onMisfire={onMisfire} />
      </Under>
    </>
  );
}

/** A question about what was typed: is it a slip? */
function SlipQuestion({
  slip,
  bench,
  run,
  onMisfire,
}: Pick<RunAtBenchProps, 'bench' | 'run' | 'onMisfire'> & {
  slip: NonNullable<RunAtBenchProps['bench']['slip']>;
}) {
  return (
    <Doubt role="alert">
      <strong>{slip.sentence}</strong>
      {slip.suggestion !== undefined && (
        <Button size="small" tone="go" onPress={bench.takeSuggestion}>
          Take {withUnit(formatPlain(slip.suggestion), run.measurand.unit)} <LetterKey>T</LetterKey>
        </Button>
      )}
      <Button size="small" onPress={bench.keep}>
        Keep it <Key>Enter</Key>
      </Button>
      <Button
        size="small"
        tone="quiet"
        onPress={() => {
          onMisfire('now');
        }}
      >
        Misfire <LetterKey>M</LetterKey>
      </Button>
    </Doubt>
  );
}

/** Under the entry: a question, what was wrong, or what was understood, with the keys. */
function UnderEntry({
  bench,
  run,
  onMisfire,
  onKeys,
  more,
}: Pick<RunAtBenchProps, 'bench' | 'run' | 'onMisfire' | 'onKeys' | 'more'>) {
  const { slip, waiting, problem } = bench;
  if (slip) return <SlipQuestion {...{ slip, bench, run, onMisfire }} />;
  if (waiting !== undefined)
    return (
      <Doubt role="alert">
        <strong>“{waiting}” is not over yet.</strong>
        <Button size="small" onPress={bench.enter}>
          Record it all the same <Key>Enter</Key>
        </Button>
        <Button size="small" tone="quiet" onPress={bench.dismiss}>
          Wait <Key>Esc</Key>
        </Button>
      </Doubt>
    );
  if (problem)
    return (
      <Doubt role="alert">
        <strong>{problem}</strong>
      </Doubt>
    );
  return (
    <Row>
      {bench.understood !== undefined && <Understood>= {bench.understood}</Understood>}
      <Button
        size="small"
        tone="quiet"
        onPress={() => {
          onMisfire('now');
        }}
      >
        <LetterKey>M</LetterKey> misfire
      </Button>
      <Button size="small" tone="quiet" isDisabled={!bench.canUndo} onPress={bench.undo}>
        <LetterKey>U</LetterKey> undo
      </Button>
      <Button size="small" tone="quiet" isDisabled={run.state !== 'to come'} onPress={bench.skip}>
        <LetterKey>S</LetterKey> skip
      </Button>
      <Button size="small" tone="quiet" onPress={onKeys}>
        <Key>?</Key> all keys
      </Button>
      {more}
    </Row>
  );
}

/** A run that is to be read: its entry, and under it a question, what was wrong, or the keys. */
function RunEntry({
  bench,
  run,
  instruments,
  input,
  onKey,
  onMisfire,
  onKeys,
  more,
}: Omit<RunAtBenchProps, 'document' | 'onCommand'>) {
  const { slip, waiting, problem } = bench;
  const Entry = ENTRIES[readingForm(run.measurand.form)?.entry ?? 'number'];
  return (
    <>
      <Entry
        key={run.key}
        run={run}
        instruments={instruments}
        texts={bench.texts}
        onText={bench.setText}
        wrongPart={bench.wrongPart}
        odd={Boolean(slip ?? waiting ?? problem)}
        onEnter={bench.enter}
        onMove={bench.move}
        onKey={onKey}
        first={input}
      />
      <Under id="bench-under">
        <UnderEntry {...{ bench, run, onMisfire, onKeys, more }} />
      </Under>
    </>
  );
}

/** The run at the bench in letters to be read from two metres, with its entry or what was recorded. */
export function RunAtBench(props: RunAtBenchProps) {
  const { document, bench, run } = props;
  return (
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
            {run.takenAgain > 0 && ', taken again'}
            {run.added && ', not in the plan'}
          </p>
        </div>
      </Who>
      {run.state === 'done' ? (
        <RecordedRun {...props} />
      ) : (
        <>
          <WhatNow document={document} run={run} bench={bench.session} />
          <RunEntry {...props} />
        </>
      )}
    </>
  );
}
