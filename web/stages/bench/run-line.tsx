import { memo } from 'react';
import styled from 'styled-components';
import type { QueueGroup } from '../../../core/bench/irreversible.ts';
import type { Run } from '../../../core/bench/queue.ts';
import { settingWords } from '../../../core/plan/grid.ts';
import { readingWords } from '../../../core/quantity/format.ts';
import { ItemName } from '../../ui/name.tsx';
import { NARROW, focusRing, label } from '../../ui/tokens.ts';

/** Stands upright beside the work; lies over it where the page is narrow. */
export const QueueFrame = styled.nav`
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
  /** What it stands in, where that is no list by itself. */
  as?: 'li' | 'div';
  run: Run;
  isCurrent: boolean;
  severalMeasurands: boolean;
  onChoose: (key: string) => void;
}

/** One run. It is drawn again only when something of it has changed; what it calls never changes in effect. */
export const RunLine = memo(
  ({ as: Place = 'li', run, isCurrent, severalMeasurands, onChoose }: RunLineProps) => (
    <Place>
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
    </Place>
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

/** What both ways of drawing the queue are given. */
export interface QueueProps {
  groups: readonly QueueGroup[];
  currentKey: string | undefined;
  severalMeasurands: boolean;
  onChoose: (key: string) => void;
}
