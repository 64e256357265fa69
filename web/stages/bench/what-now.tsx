import { useEffect, useRef } from 'react';
import styled from 'styled-components';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import type { Run } from '../../../core/bench/queue.ts';
import { waitBefore } from '../../../core/bench/session.ts';
import { sound } from '../../app/sound.ts';
import { useNow } from './session/use-now.ts';
import type { SessionAtBench } from './session/use-session.ts';

const Line = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 2px 18px;
  margin-top: 8px;
  min-height: 30px;
  font-size: var(--size-19);
  b {
    color: var(--fern);
    font-weight: 680;
  }
  output {
    font-weight: 720;
    min-width: 4ch;
    display: inline-block;
  }
  ol {
    display: contents;
  }
  i {
    margin-right: 7px;
    color: var(--quiet);
    font-style: normal;
  }
`;

const minutes = (seconds: number): string => {
  const whole = Math.ceil(seconds);
  return whole < 60
    ? `${String(whole)}\u202fs`
    : `${String(Math.floor(whole / 60))}:${String(whole % 60).padStart(2, '0')}`;
};

export interface WhatNowProps {
  document: StudyDocument;
  run: Run;
  bench: SessionAtBench;
}

/** What to do now: the wait that is on, counting down, and the steps before each reading. It holds nobody up. */
export function WhatNow({ document, run, bench }: WhatNowProps) {
  const now = useNow(250);
  const wait = waitBefore(document, run, bench.session, now);
  const waited = useRef(false);
  const waiting = wait !== undefined;
  useEffect(() => {
    if (waited.current && !waiting) sound('wait over');
    waited.current = waiting;
  }, [waiting]);
  const steps = document.study.procedure.beforeReading;
  if (!wait && steps.length === 0) return null;
  return (
    <Line aria-label="What to do now">
      {wait && (
        <b>
          {wait.what}: <output aria-live="off">{minutes(wait.leftS)}</output>
        </b>
      )}
      <ol>
        {steps.map((step, i) => (
          <li key={step}>
            {steps.length > 1 && <i aria-hidden>{i + 1}</i>}
            {step}
          </li>
        ))}
      </ol>
    </Line>
  );
}
