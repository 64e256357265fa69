import { type ScaleLinear, scaleLinear } from 'd3-scale';
import { markColour } from '../../core/model/marks.ts';
import type { Point } from '../../core/trace/thin.ts';
import { useWidth } from '../ui/use-width.ts';
import { ValueTicks } from './axes.tsx';
import { spreadLabels } from './axis.ts';
import { Drawing, shortened } from './drawing.tsx';
import { timeTicks } from './time-axis.ts';

/** What one item's logger wrote. */
export interface TraceLine {
  id: string;
  name: string;
  mark: number;
  /** Over seconds from where the picture begins. */
  points: readonly Point[];
  /** The curve that was fitted to it. */
  curve: readonly Point[];
  /** A moment to point out, s. */
  moment: number | undefined;
  /** Drawn in front and strong, as the one that is looked at. */
  chosen: boolean;
}

export interface TracePictureProps {
  label: string;
  caption: string;
  unit: string;
  lines: readonly TraceLine[];
  from: number;
  to: number;
  /** Windows to shade, s; of the line that is looked at, or of all. */
  window: { from: number; to: number } | undefined;
  /** Levels to draw across: a threshold, the ends of a band. */
  levels: readonly number[];
}

const HEIGHT = 340;
export const [TRACE_LEFT, TRACE_RIGHT] = [58, 112];
const [TOP, FOOT, LINE] = [16, 30, 18];

/** So many columns of a picture are worth their points. */
export const TRACE_COLUMNS = 500;

const joined = (points: readonly Point[], x: (time: number) => number, y: (value: number) => number) =>
  points.map((point) => `${x(point.x).toFixed(1)},${y(point.y).toFixed(1)}`).join(' ');

type Scale = ScaleLinear<number, number>;

/** The axes of values and of time. */
function TraceAxes({
  unit,
  from,
  to,
  x,
  y,
}: Pick<TracePictureProps, 'unit' | 'from' | 'to'> & { x: Scale; y: Scale }) {
  const right = x(to);
  return (
    <>
      <ValueTicks ticks={y.ticks(6)} place={y} left={TRACE_LEFT} right={right} />
      <text className="quiet" x={TRACE_LEFT - 8} y={TOP - 4} textAnchor="end">
        {unit}
      </text>
      {timeTicks(from, to, Math.max(3, Math.round((right - TRACE_LEFT) / 90))).map(({ time, words }) => (
        <g key={time}>
          <line
            x1={x(time)}
            x2={x(time)}
            y1={HEIGHT - FOOT}
            y2={HEIGHT - FOOT + 5}
            stroke="var(--rule-strong)"
          />
          <text className="quiet" x={x(time)} y={HEIGHT - 9} textAnchor="middle">
            {words}
          </text>
        </g>
      ))}
    </>
  );
}

/** The names of items where their traces end, each once. */
function Names({
  lines,
  to,
  y,
  from: left,
}: {
  /** The one that is looked at last. */
  lines: readonly TraceLine[];
  to: number;
  y: Scale;
  /** Where they begin, px. */
  from: number;
}) {
  const named = [
    ...new Map(lines.filter(({ points }) => points.length > 0).map((line) => [line.name, line])).values(),
  ];
  const ends = named.map(({ points }) => (points.findLast((point) => point.x <= to) ?? points[0])?.y ?? 0);
  const places = spreadLabels(
    ends.map((end) => y(end)),
    LINE,
    TOP,
    HEIGHT - FOOT,
  );
  return named.map(({ id, name, mark, chosen }, i) => (
    <text
      key={id}
      className={chosen ? 'strong' : ''}
      x={left}
      y={(places[i] as number) + 5}
      style={{ fill: markColour(mark) }}
    >
      {shortened(name, 13)}
      <title>{name}</title>
    </text>
  ));
}

/** The scale of the values of some traces, with the levels that are drawn across. */
function valueScale(lines: readonly TraceLine[], levels: readonly number[]): Scale {
  const values = lines.flatMap(({ points }) => points.map((point) => point.y));
  const [low, high] = [...values, ...levels].reduce(
    ([least, most], value) => [Math.min(least, value), Math.max(most, value)],
    [Infinity, -Infinity],
  );
  const room = 0.05 * (high - low) || Math.abs(high) * 0.05 || 1;
  return scaleLinear()
    .domain(Number.isFinite(low) ? [low - room, high + room] : [0, 1])
    .range([HEIGHT - FOOT, TOP]);
}

/** Traces laid over each other, with the window that a value is worked out from. */
export function TracePicture(props: TracePictureProps) {
  const { label, caption, unit, lines, from, to, window: shaded, levels } = props;
  const [frame, width] = useWidth<HTMLElement>(860);
  const right = width - TRACE_RIGHT;
  const x = scaleLinear().domain([from, to]).range([TRACE_LEFT, right]);
  const y = valueScale(lines, levels);
  const clip = `trace-${String(Math.round(width))}`;
  // The one that is looked at is drawn last, over the others, and names its item, which is named once.
  const order = [...lines].sort((a, b) => Number(a.chosen) - Number(b.chosen));
  const anyChosen = lines.some(({ chosen }) => chosen);
  return (
    <Drawing frame={frame} width={width} height={HEIGHT} label={label} caption={caption}>
      <clipPath id={clip}>
        <rect x={TRACE_LEFT} y={0} width={Math.max(0, right - TRACE_LEFT)} height={HEIGHT} />
      </clipPath>
      {shaded && (
        <rect
          x={x(shaded.from)}
          y={TOP - 8}
          width={Math.max(1, x(shaded.to) - x(shaded.from))}
          height={HEIGHT - FOOT - TOP + 8}
          fill="var(--fern-soft)"
          clipPath={`url(#${clip})`}
        />
      )}
      <TraceAxes unit={unit} from={from} to={to} x={x} y={y} />
      {levels.map((level) => (
        <line
          key={level}
          x1={TRACE_LEFT}
          x2={right}
          y1={y(level)}
          y2={y(level)}
          stroke="var(--rust)"
          strokeDasharray="2 4"
        />
      ))}
      <g clipPath={`url(#${clip})`}>
        {order.map((line) => (
          <Line key={line.id} line={line} x={x} y={y} faint={anyChosen && !line.chosen} />
        ))}
      </g>
      <Names lines={order} to={to} y={y} from={right + 8} />
    </Drawing>
  );
}

/** One trace, its fitted curve, and the moment that its value is of. */
function Line({
  line: { points, curve, moment, mark, chosen },
  x,
  y,
  faint,
}: {
  line: TraceLine;
  x: (time: number) => number;
  y: (value: number) => number;
  faint: boolean;
}) {
  const colour = markColour(mark);
  return (
    <g opacity={faint ? 0.55 : 1}>
      <polyline
        points={joined(points, x, y)}
        fill="none"
        stroke={colour}
        strokeWidth={chosen ? 2.4 : 1.4}
        strokeLinejoin="round"
      />
      {chosen && curve.length > 0 && (
        <polyline
          points={joined(curve, x, y)}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={1.2}
          strokeDasharray="6 4"
        />
      )}
      {chosen && moment !== undefined && (
        <line x1={x(moment)} x2={x(moment)} y1={TOP - 8} y2={HEIGHT - FOOT} stroke="var(--ink)" />
      )}
    </g>
  );
}
