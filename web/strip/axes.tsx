import { formatPlain } from '../../core/quantity/format.ts';
import type { ValueAxis } from './axis.ts';

/** The room of a picture that is not plot, in px, and its height. */
export interface PlotFrame {
  height: number;
  top: number;
  foot: number;
  left: number;
  right: number;
}

export interface AxesProps {
  frame: PlotFrame;
  /** Of the whole picture, px. */
  width: number;
  /** Ticks across: numbers that stand there as they are, or with words in their place. */
  x: Pick<ValueAxis, 'place'> & { ticks: readonly (number | { value: number; words: string })[] };
  y: ValueAxis;
  /** Names of the axes, with their units. */
  across: string;
  up: string;
}

/** Round values up the side of a picture, each with a line across. */
export const ValueTicks = ({
  ticks,
  place,
  left,
  right,
}: {
  ticks: readonly number[];
  /** How high a value stands, px. */
  place: (value: number) => number;
  left: number;
  right: number;
}) =>
  ticks.map((tick) => (
    <g key={tick}>
      <line x1={left} x2={right} y1={place(tick)} y2={place(tick)} stroke="var(--rule)" />
      <text className="quiet" x={left - 8} y={place(tick) + 4} textAnchor="end">
        {formatPlain(tick)}
      </text>
    </g>
  ));

/** The two axes of a picture of points, with their names and round values. */
export function Axes({ frame, width, x, y, across, up }: AxesProps) {
  const { height, foot, left } = frame;
  const right = width - frame.right;
  const floor = height - foot;
  return (
    <>
      <text className="quiet" x={left - 54} y={14}>
        {up}
      </text>
      <ValueTicks ticks={y.ticks} place={y.place} left={left} right={right} />
      {x.ticks
        .map((tick) => (typeof tick === 'number' ? { value: tick, words: formatPlain(tick) } : tick))
        .map(({ value, words }) => (
          <g key={value}>
            <line
              x1={x.place(value)}
              x2={x.place(value)}
              y1={floor}
              y2={floor + 5}
              stroke="var(--rule-strong)"
            />
            <text className="quiet" x={x.place(value)} y={floor + 20} textAnchor="middle">
              {words}
            </text>
          </g>
        ))}
      <line x1={left} x2={right} y1={floor} y2={floor} stroke="var(--rule-strong)" />
      <text className="quiet" x={right} y={height - 8} textAnchor="end">
        {across}
      </text>
    </>
  );
}
