import { Slider, SliderThumb, SliderTrack } from 'react-aria-components';
import styled from 'styled-components';
import { spanText } from '../../../../core/quantity/clock.ts';
import { parseQuantity } from '../../../../core/quantity/parse.ts';
import type { TimeWindow } from '../../../../core/trace/series.ts';
import { SavedSpan } from '../../../app/draft-field.tsx';
import { focusRing } from '../../../ui/tokens.ts';

const Bar = styled(Slider)<{ $left: number; $right: number }>`
  margin: 0 ${({ $right }) => $right}px 12px ${({ $left }) => $left}px;
`;

const Track = styled(SliderTrack)`
  position: relative;
  height: 32px;
  &::before {
    content: '';
    position: absolute;
    inset: 14px 0;
    border-radius: 2px;
    background: var(--rule);
  }
`;

const Thumb = styled(SliderThumb)`
  top: 50%;
  width: 18px;
  height: 28px;
  border: 2px solid var(--sheet);
  border-radius: 5px;
  background: var(--fern);
  cursor: ew-resize;
  &[data-dragging] {
    background: var(--fern-deep);
  }
  &[data-focus-visible] {
    ${focusRing}
  }
  /* A finger needs more than is seen. */
  &::after {
    content: '';
    position: absolute;
    inset: -8px -13px;
  }
`;

/** How many steps a window's end can be moved by keys, over the whole length. */
const KEY_STEPS = 200;

/** The two ends of a window, to be dragged or moved by the arrow keys under the picture. */
export function WindowSlider({
  window: { from, to },
  lengthS,
  view = { from: 0, to: lengthS },
  stepS,
  left,
  right,
  onDrag,
  onChange,
}: {
  window: TimeWindow;
  lengthS: number;
  /** What the picture above shows; all of it where nothing is said. */
  view?: TimeWindow;
  /** Usual time from row to row, s. */
  stepS: number;
  /** Room beside the plot, px. */
  left: number;
  right: number;
  /** The window as it is dragged. */
  onDrag: (window: TimeWindow) => void;
  /** The window as it is let go. */
  onChange: (window: TimeWindow) => void;
}) {
  const step = Math.max(stepS, stepS * Math.round((view.to - view.from) / KEY_STEPS / stepS));
  const inView = (time: number) => Math.min(view.to, Math.max(view.from, time));
  // The slider rounds both ends to its step; the one that was not moved stays where it is.
  const moved = (ends: readonly number[]): TimeWindow => {
    const [first = from, last = to] = ends;
    return {
      from: Math.abs(first - inView(from)) <= step / 2 ? from : first,
      to: Math.abs(last - inView(to)) <= step / 2 ? to : last,
    };
  };
  const told = (say: (window: TimeWindow) => void) => (ends: number | number[]) => {
    const next = moved(ends as number[]);
    if (next.from < next.to) say(next);
  };
  return (
    <Bar
      $left={left}
      $right={right}
      aria-label="Window"
      minValue={view.from}
      maxValue={view.to}
      step={Math.min(step, view.to - view.from)}
      value={[inView(from), inView(to)]}
      onChange={told(onDrag)}
      onChangeEnd={told(onChange)}
    >
      <Track>
        {['From', 'To'].map((end, index) => (
          <Thumb key={end} index={index} aria-label={end} />
        ))}
      </Track>
    </Bar>
  );
}

/** The two ends of a window as times after the start of the file. */
export function WindowFields({
  of,
  columns = 3,
  window: { from, to },
  lengthS,
  onChange,
}: {
  /** Whose window it is, where others have their own. */
  of?: string;
  columns?: 2 | 3;
  window: TimeWindow;
  lengthS: number;
  onChange: (window: TimeWindow) => void;
}) {
  const within = (seconds: number) =>
    seconds < 0 || seconds > lengthS ? `The file runs from 0:00:00 to ${spanText(lengthS)}.` : undefined;
  const field = (
    label: string,
    saved: number,
    save: (seconds: number) => void,
    wrong: (seconds: number) => string | undefined,
  ) => (
    <SavedSpan
      columns={columns}
      label={label}
      saved={saved}
      parse={(text) => {
        const understood = parseQuantity(text, 's');
        if ('problem' in understood) return understood;
        const problem = within(understood.number) ?? wrong(understood.number);
        return problem === undefined ? { value: understood.number } : { problem };
      }}
      save={(seconds) => {
        save(seconds);
        return Promise.resolve();
      }}
    />
  );
  return (
    <>
      {field(
        of === undefined ? 'From, after the start' : `From, of ${of}`,
        from,
        (next) => onChange({ from: next, to }),
        (next) => (next >= to ? 'The window ends before it begins.' : undefined),
      )}
      {field(
        'To',
        to,
        (next) => onChange({ from, to: next }),
        (next) => (next <= from ? 'The window ends before it begins.' : undefined),
      )}
    </>
  );
}
