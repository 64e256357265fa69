import { Play, Square, TimerReset } from 'lucide-react';
import { useEffect, useState } from 'react';
import styled from 'styled-components';
import { MOST_SPLITS } from '../../../../core/forms/timed.ts';
import { clockText } from '../../../../core/quantity/clock.ts';
import { Button } from '../../../ui/button.tsx';
import { Key } from '../../../ui/key.tsx';
import { Row } from '../../../ui/page.tsx';
import { usePreferences } from '../../../app/preferences.ts';
import { useKept } from '../../../app/kept.ts';
import { LetterKey } from '../letter-key.tsx';
import { type EntryProps, clockName } from './entry.ts';
import { EntryName, Figure, LabelledFigure } from './frame.tsx';

const Running = styled.output`
  flex: 1;
  font-size: clamp(3.4rem, 9vw, var(--size-104));
  line-height: 1.12;
  font-weight: 620;
  letter-spacing: -0.02em;
`;

const Late = styled(Row)`
  margin-top: 10px;
  > label {
    flex: 0 1 170px;
    input {
      font-size: var(--size-25);
    }
  }
  ol {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 16px;
    color: var(--quiet);
  }
`;

const isInstant = (value: unknown): value is number => typeof value === 'number';

/** The time in ms, by the clock that is never set; comparable from one load of the page to the next. */
const nowMs = () => performance.timeOrigin + performance.now();

/** The stopwatch of a run, which runs on while another run is looked at, and while the page is loaded again. */
function useStopwatch({ run, texts, onText }: Pick<EntryProps, 'run' | 'texts' | 'onText'>) {
  const [startedAt, changeStart, forgetStart] = useKept<number | undefined>(
    clockName(run),
    () => undefined,
    isInstant,
  );
  const [elapsed, setElapsed] = useState(0);
  const splits = Object.entries(texts).flatMap(([name, value]) =>
    name.startsWith('split') && value ? [value] : [],
  );
  useEffect(() => {
    if (startedAt === undefined) return undefined;
    const timer = setInterval(() => {
      setElapsed((nowMs() - startedAt) / 1000);
    }, 50);
    return () => {
      clearInterval(timer);
    };
  }, [startedAt]);
  const start = () => {
    for (let i = 1; i <= MOST_SPLITS; i += 1) {
      if ((texts[`split${String(i)}`] ?? '') !== '') onText(`split${String(i)}`, '');
    }
    onText('time', '');
    setElapsed(0);
    const now = nowMs();
    changeStart(() => now);
  };
  const stop = () => {
    if (startedAt === undefined) return;
    onText('time', clockText((nowMs() - startedAt) / 1000), 'timer');
    forgetStart();
  };
  const split = () => {
    if (startedAt === undefined || splits.length >= MOST_SPLITS) return;
    onText(`split${String(splits.length + 1)}`, clockText((nowMs() - startedAt) / 1000));
  };
  return { runs: startedAt !== undefined, elapsed, splits, start, stop, split };
}

/** By how much the stopwatch was pressed late. */
function PressedLate({ texts, onText, wrongPart, onKey }: EntryProps) {
  return (
    <LabelledFigure $odd={wrongPart === 'late'}>
      <small>Pressed late by</small>
      <span>
        <input
          value={texts.late ?? ''}
          placeholder="0"
          inputMode="decimal"
          maxLength={20}
          onChange={(event) => {
            onText('late', event.target.value);
          }}
          onKeyDown={(event) => {
            if (onKey(event, 'late')) event.preventDefault();
          }}
        />
        s
      </span>
    </LabelledFigure>
  );
}

/** The buttons of the stopwatch, by how much it was pressed late, and its splits. */
function ClockFoot({
  entry,
  runs,
  splits,
  onToggle,
  onSplit,
}: {
  entry: EntryProps;
  runs: boolean;
  splits: readonly string[];
  onToggle: () => void;
  onSplit: () => void;
}) {
  const isEmpty = (entry.texts.time ?? '') === '';
  return (
    <Late>
      <Button size="large" onPress={onToggle}>
        {runs ? (
          <>
            <Square size={20} aria-hidden /> Stop
          </>
        ) : isEmpty ? (
          <>
            <Play size={22} aria-hidden /> Start
          </>
        ) : (
          <>
            <TimerReset size={22} aria-hidden /> Start again
          </>
        )}{' '}
        <Key>Space</Key>
      </Button>
      {runs && (
        <Button size="large" tone="quiet" onPress={onSplit}>
          Split <LetterKey>L</LetterKey>
        </Button>
      )}
      {!runs && !isEmpty && <PressedLate {...entry} />}
      {splits.length > 0 && (
        <ol aria-label="Splits">
          {splits.map((value, i) => (
            <li key={i}>
              {i + 1}: {value}
            </li>
          ))}
        </ol>
      )}
    </Late>
  );
}

const signedClock = (seconds: number): string => `${seconds < 0 ? '−' : ''}${clockText(Math.abs(seconds))}`;

/** A stopwatch that may count down: the space bar starts and stops it, L takes a split. Or the time typed in. */
export function Clock(entry: EntryProps) {
  const { run, texts, onText, odd, onEnter, onKey, first } = entry;
  const { runs, elapsed, splits, start, stop, split } = useStopwatch(entry);
  const { letterKeys } = usePreferences();
  const { countdownS } = run.measurand.settings;
  const shown = typeof countdownS === 'number' && countdownS > 0 ? countdownS - elapsed : elapsed;
  const text = texts.time ?? '';
  const toggle = () => {
    if (runs) stop();
    else start();
    first.current?.focus();
  };
  const keys: Readonly<Record<string, (() => void) | undefined>> = {
    ' ': toggle,
    enter: runs ? stop : undefined,
    l: runs && letterKeys ? split : undefined,
  };
  return (
    <>
      <EntryName>{run.measurand.name}: start the stopwatch, or type the time, such as 4:18.6</EntryName>
      <Figure $odd={odd}>
        {runs && <Running aria-label="Stopwatch">{signedClock(shown)}</Running>}
        <input
          ref={first}
          value={runs ? '' : text}
          readOnly={runs}
          style={runs ? { position: 'absolute', opacity: 0, width: 1 } : {}}
          inputMode="text"
          autoComplete="off"
          maxLength={60}
          aria-label={`Time of ${run.item.name}, as m:ss.s or in seconds`}
          aria-invalid={odd}
          aria-describedby="bench-under"
          onChange={(event) => {
            onText('time', event.target.value);
          }}
          onKeyDown={(event) => {
            const does = keys[event.key.toLowerCase()];
            // Held down, a key does it once.
            if (does && !event.repeat) does();
            else if (!does && !onKey(event, runs ? 'running' : text)) return;
            event.preventDefault();
          }}
        />
        <span>{text.includes(':') ? 'min:s' : 's'}</span>
        <Button tone="go" size="large" onPress={onEnter} isDisabled={runs}>
          Record <Key>Enter</Key>
        </Button>
      </Figure>
      <ClockFoot
        entry={entry}
        runs={runs}
        splits={splits}
        onToggle={toggle}
        onSplit={() => {
          split();
          first.current?.focus();
        }}
      />
    </>
  );
}
