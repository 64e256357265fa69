import { Fragment, memo, useEffect, useRef, useState } from 'react';
import styled from 'styled-components';
import { queueGroups } from '../../../core/bench/irreversible.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { settingWords } from '../../../core/plan/grid.ts';
import type { Run } from '../../../core/bench/queue.ts';
import { readingWords } from '../../../core/quantity/format.ts';
import { Button } from '../../ui/button.tsx';
import { ItemName } from '../../ui/name.tsx';
import { NARROW, focusRing, label } from '../../ui/tokens.ts';

const Frame = styled.nav`
  max-height: calc(100vh - 130px);
  overflow-y: auto;
  scrollbar-width: thin;
  margin-left: -8px;
  padding: 2px 8px;
  position: sticky;
  top: 12px;
  h2 {
    ${label}
    padding: 4px 12px 6px;
  }
  ol + h2 {
    margin-top: 18px;
  }
  ${NARROW} {
    position: static;
    display: flex;
    align-items: center;
    overflow-x: auto;
    max-height: none;
    margin: 0 -8px;
    ol {
      display: flex;
    }
    ol + h2 {
      margin-top: 0;
    }
    h2 {
      white-space: nowrap;
      padding: 0 8px;
    }
  }
`;

const Line = styled.button<{ $state: Run['state'] }>`
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 8px;
  width: 100%;
  min-height: 36px;
  padding: 2px 12px;
  border: 0;
  border-radius: var(--corner);
  background: transparent;
  color: ${({ $state }) => ($state === 'to come' ? 'var(--ink)' : 'var(--quiet)')};
  text-align: left;
  cursor: pointer;
  small {
    font-size: var(--size-13);
  }
  > span {
    min-width: 0;
  }
  em {
    display: block;
    padding-left: 25px;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    font-style: normal;
    font-weight: 400;
    font-size: var(--size-13);
    line-height: 1.2;
    color: var(--quiet);
  }
  &:hover {
    background: var(--hover);
  }
  &[aria-current] {
    background: var(--fern-soft);
    color: var(--ink);
    font-weight: 660;
  }
  &:focus-visible {
    ${focusRing}
    outline-offset: -2px;
  }
  @media (pointer: coarse) {
    min-height: 44px;
  }
  ${NARROW} {
    min-height: 44px;
    max-width: 200px;
  }
`;

const resultOf = ({ state, reading, misfires, takenAgain, added }: Run): string => {
  if (reading?.value != null) return readingWords({ value: reading.value, parts: reading.reading.parts }, '');
  if (state === 'skipped') return 'skipped';
  if (takenAgain > 0) return 'again';
  if (misfires > 0) return 'misfire';
  return added ? 'added' : '';
};

const lineName = ({ item, setting }: Run): string =>
  setting.length > 0 ? `${item.code} ${settingWords(setting)}` : item.name;

interface RunLineProps {
  run: Run;
  isCurrent: boolean;
  severalMeasurands: boolean;
  onChoose: (key: string) => void;
}

/** One run. It is drawn again only when something of it has changed; what it calls never changes in effect. */
const RunLine = memo(
  ({ run, isCurrent, severalMeasurands, onChoose }: RunLineProps) => (
    <li>
      <Line
        $state={run.state}
        aria-current={isCurrent ? 'step' : undefined}
        onClick={() => {
          onChoose(run.key);
        }}
      >
        <span>
          <ItemName name={lineName(run)} mark={run.item.mark} size={15} />
          {severalMeasurands && <em>{run.measurand.name}</em>}
        </span>
        <small>{resultOf(run)}</small>
      </Line>
    </li>
  ),
  (a, b) =>
    a.isCurrent === b.isCurrent &&
    a.severalMeasurands === b.severalMeasurands &&
    a.run.key === b.run.key &&
    a.run.state === b.run.state &&
    a.run.item === b.run.item &&
    a.run.measurand === b.run.measurand &&
    a.run.reading?.value === b.run.reading?.value &&
    a.run.misfires === b.run.misfires &&
    a.run.takenAgain === b.run.takenAgain &&
    a.run.added === b.run.added &&
    a.run.setting === b.run.setting,
);
RunLine.displayName = 'RunLine';

/** Runs drawn at a time; a plan may have thousands. */
const WINDOW = 160;

export interface RunQueueProps {
  plan: Pick<StudyDocument, 'study' | 'factors' | 'levels'>;
  queue: readonly Run[];
  currentKey: string | undefined;
  severalMeasurands: boolean;
  onChoose: (key: string) => void;
}

/** What is done, what is next, what was skipped, round by round. Any run can be opened. */
export function RunQueue({ plan, queue, currentKey, severalMeasurands, onChoose }: RunQueueProps) {
  const frame = useRef<HTMLElement>(null);
  useEffect(() => {
    const line = frame.current?.querySelector<HTMLElement>('[aria-current]');
    const box = frame.current;
    if (!line || !box) return;
    box.scrollTop = line.offsetTop - box.clientHeight / 3;
    box.scrollLeft = line.offsetLeft - box.clientWidth / 3;
  }, [currentKey]);
  const place = Math.max(
    0,
    queue.findIndex(({ key }) => key === currentKey),
  );
  const [moved, setMoved] = useState({ by: 0, from: currentKey });
  const shift = moved.from === currentKey ? moved.by : 0;
  const large = queue.length > 2 * WINDOW;
  const first = large ? Math.max(0, Math.min(place - WINDOW / 2 + shift, queue.length - WINDOW)) : 0;
  const last = large ? first + WINDOW : queue.length;
  const shown = queue.slice(first, last);
  const groups = queueGroups(plan, queue, shown);
  const look = (by: number) => {
    setMoved({ by: shift + by, from: currentKey });
  };
  return (
    <Frame aria-label="Run queue" ref={frame}>
      {first > 0 && (
        <Button
          size="small"
          tone="quiet"
          onPress={() => {
            look(-WINDOW);
          }}
        >
          {first} earlier
        </Button>
      )}
      {groups.map(({ key, title, runs }) => (
        <Fragment key={key}>
          <h2>{title}</h2>
          <ol>
            {runs.map((run) => (
              <RunLine
                key={run.key}
                run={run}
                isCurrent={run.key === currentKey}
                severalMeasurands={severalMeasurands}
                onChoose={onChoose}
              />
            ))}
          </ol>
        </Fragment>
      ))}
      {last < queue.length && (
        <Button
          size="small"
          tone="quiet"
          onPress={() => {
            look(WINDOW);
          }}
        >
          {queue.length - last} later
        </Button>
      )}
    </Frame>
  );
}
