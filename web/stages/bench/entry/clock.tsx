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

/** A stopwatch that may count down: the space bar starts and stops it, L takes a split. Or the time typed in. */
export function Clock({ run, texts, onText, wrongPart, odd, onEnter, onKey, first }: EntryProps) {
  // It runs on while another run is looked at, and while the page is loaded again.
  const [startedAt, changeStart, forgetStart] = useKept<number | undefined>(
    clockName(run),
    () => undefined,
    isInstant,
  );
  const { letterKeys } = usePreferences();
  const [elapsed, setElapsed] = useState(0);
  const { countdownS } = run.measurand.settings;
  const from = typeof countdownS === 'number' ? countdownS : 0;
  const text = texts.time ?? '';
  const taken = Object.entries(texts).flatMap(([name, value]) =>
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
    if (startedAt === undefined || taken.length >= MOST_SPLITS) return;
    onText(`split${String(taken.length + 1)}`, clockText((nowMs() - startedAt) / 1000));
  };
  const toggle = () => {
    if (startedAt === undefined) start();
    else stop();
    first.current?.focus();
  };
  const shown = from > 0 ? from - elapsed : elapsed;
  return (
    <>
      <EntryName>{run.measurand.name}: start the stopwatch, or type the time, such as 4:18.6</EntryName>
      <Figure $odd={odd}>
        {startedAt !== undefined && (
          <Running aria-label="Stopwatch">
            {shown < 0 ? '−' : ''}
            {clockText(Math.abs(shown))}
          </Running>
        )}
        <input
          ref={first}
          value={startedAt === undefined ? text : ''}
          readOnly={startedAt !== undefined}
          style={startedAt === undefined ? {} : { position: 'absolute', opacity: 0, width: 1 }}
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
            if (event.key === ' ') toggle();
            else if (letterKeys && startedAt !== undefined && event.key.toLowerCase() === 'l') split();
            else if (startedAt !== undefined && event.key === 'Enter') stop();
            else if (!onKey(event, startedAt === undefined ? text : 'running')) return;
            event.preventDefault();
          }}
        />
        <span>{text.includes(':') ? 'min:s' : 's'}</span>
        <Button tone="go" size="large" onPress={onEnter} isDisabled={startedAt !== undefined}>
          Record <Key>Enter</Key>
        </Button>
      </Figure>
      <Late>
        <Button size="large" onPress={toggle}>
          {startedAt === undefined ? (
            <>
              {text === '' ? <Play size={22} aria-hidden /> : <TimerReset size={22} aria-hidden />}{' '}
              {text === '' ? 'Start' : 'Start again'}
            </>
          ) : (
            <>
              <Square size={20} aria-hidden /> Stop
            </>
          )}{' '}
          <Key>Space</Key>
        </Button>
        {startedAt !== undefined && (
          <Button
            size="large"
            tone="quiet"
            onPress={() => {
              split();
              first.current?.focus();
            }}
          >
            Split <LetterKey>L</LetterKey>
          </Button>
        )}
        {startedAt === undefined && text !== '' && (
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
        )}
        {taken.length > 0 && (
          <ol aria-label="Splits">
            {taken.map((value, i) => (
              <li key={i}>
                {i + 1}: {value}
              </li>
            ))}
          </ol>
        )}
      </Late>
    </>
  );
}
