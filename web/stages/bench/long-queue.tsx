import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useMemo, useRef } from 'react';
import styled from 'styled-components';
import { NARROW } from '../../ui/tokens.ts';
import { useMedia } from '../../ui/use-media.ts';
import { QueueFrame, type QueueProps, RunLine } from './run-line.tsx';

/** The room that all lines of a long queue would take. */
const Room = styled.ol`
  position: relative;
  flex: none;
  h2 {
    padding-top: 18px;
  }
  > li {
    position: absolute;
    top: 0;
    left: 0;
    min-width: 100%;
    max-width: 100%;
  }
  ${NARROW} {
    > li {
      min-width: 0;
      max-width: none;
    }
    h2 {
      padding-top: 12px;
    }
  }
`;

/** Lines that are drawn beyond those that are seen, so that a turn of the wheel shows no gap. */
const BEYOND = 12;

/** About how large a heading and a run are: high where the queue stands upright, wide where it lies; px. */
const SIZES = { upright: { title: 48, run: 36 }, lying: { title: 130, run: 150 } } as const;

/** The runs that are seen of many; the others keep their room. */
export function LongQueue({ groups, currentKey, severalMeasurands, onChoose }: QueueProps) {
  const frame = useRef<HTMLElement>(null);
  const lies = useMedia(NARROW);
  const rows = useMemo(() => groups.flatMap(({ title, runs }) => [title, ...runs]), [groups]);
  const sizes = lies ? SIZES.lying : SIZES.upright;
  // oxlint-disable-next-line react/incompatible-library -- no compiler keeps what it gives
  const { getVirtualItems, getTotalSize, scrollToIndex, measureElement, measure } = useVirtualizer({
    count: rows.length,
    getScrollElement: () => frame.current,
    estimateSize: (place) => (typeof rows[place] === 'string' ? sizes.title : sizes.run),
    overscan: BEYOND,
    horizontal: lies,
  });
  const current = rows.findIndex((row) => typeof row !== 'string' && row.key === currentKey);
  useEffect(() => {
    measure();
  }, [lies, measure]);
  useEffect(() => {
    if (current !== -1) scrollToIndex(current, { align: 'center' });
  }, [current, lies, scrollToIndex]);
  const room = `${String(getTotalSize())}px`;
  return (
    <QueueFrame aria-label="Run queue" ref={frame}>
      <Room style={lies ? { width: room, height: 64 } : { height: room }}>
        {getVirtualItems().map(({ index, start }) => {
          const row = rows[index];
          const style = {
            transform: lies ? `translateX(${String(start)}px)` : `translateY(${String(start)}px)`,
          };
          if (row === undefined) return null;
          return (
            <li
              key={typeof row === 'string' ? `${row}/${String(index)}` : row.key}
              ref={measureElement}
              data-index={index}
              aria-setsize={rows.length}
              aria-posinset={index + 1}
              style={style}
            >
              {typeof row === 'string' ? (
                <h2>{row}</h2>
              ) : (
                <RunLine
                  as="div"
                  run={row}
                  isCurrent={row.key === currentKey}
                  severalMeasurands={severalMeasurands}
                  onChoose={onChoose}
                />
              )}
            </li>
          );
        })}
      </Room>
    </QueueFrame>
  );
}
