import { useWidth } from '../ui/use-width.ts';
import { Axes, type PlotFrame } from './axes.tsx';
import { type ValueAxis, spreadLabels, valueAxis } from './axis.ts';
import { markColour, markOutline } from '../../core/model/marks.ts';
import { Drawing, shortened } from './drawing.tsx';

/** One item by two figures. */
export interface AgainstPoint {
  id: string;
  name: string;
  mark: number;
  x: number;
  y: number;
  /** What y may be. */
  interval: readonly [number, number] | null;
}

export interface AgainstPictureProps {
  label: string;
  caption: string;
  /** Names of the axes, with their units. */
  across: string;
  up: string;
  points: readonly AgainstPoint[];
  /** Ids of the items that no other beats on both, in the order in which they are joined. */
  unbeaten: readonly string[];
  /** A straight line, where one is to be shown. */
  line?: { slope: number; intercept: number } | undefined;
  /** What lies around it: from and to at each value across. */
  band?: ((x: number) => readonly [number, number]) | undefined;
  /** Whether the axis across may grow in equal ratios. */
  ratios?: boolean;
}

const FRAME: PlotFrame = { height: 380, top: 30, foot: 52, left: 62, right: 128 };
const { height: HEIGHT, top: TOP, foot: FOOT, left: LEFT, right: RIGHT } = FRAME;
const MARK = 7.5;
const LINE = 19;

/** Values along an axis, near enough to one another for a straight line to be one on an axis of ratios as well. */
const stepsOf = ({ low, high }: ValueAxis): number[] =>
  Array.from({ length: 41 }, (_, i) => low + ((high - low) * i) / 40);

/** The outline of a band: along its lower edge, and back along its upper one. */
const outlineOf = (band: NonNullable<AgainstPictureProps['band']>, steps: readonly number[]) =>
  ([0, 1] as const).flatMap((end) =>
    (end === 0 ? steps : steps.toReversed()).map((x) => ({ x, y: band(x)[end] })),
  );

/** Items as marks by two figures; those that no other beats on both are joined. */
export function AgainstPicture(props: AgainstPictureProps) {
  const { label, caption, across, up, points, unbeaten, line, band, ratios = true } = props;
  const [frame, width] = useWidth<HTMLElement>(760);
  if (points.length === 0) return null;
  const x = valueAxis(
    points.map((point) => point.x),
    [],
    { from: LEFT, to: width - RIGHT, count: Math.max(3, Math.round(width / 150)), ratios },
  );
  const y = valueAxis(
    points.map((point) => point.y),
    [...points.flatMap(({ interval }) => interval ?? []), ...(band ? stepsOf(x).flatMap(band) : [])],
    { from: HEIGHT - FOOT, to: TOP, count: 6, ratios: false },
  );
  const labels = spreadLabels(
    points.map((point) => y.place(point.y)),
    LINE,
    TOP,
    HEIGHT - FOOT - 4,
  );
  const polyline = (through: readonly { x: number; y: number }[]): string =>
    through.map((point) => `${x.place(point.x).toFixed(1)},${y.place(point.y).toFixed(1)}`).join(' ');
  const joined = unbeaten.flatMap((id) => points.find((point) => point.id === id) ?? []);
  return (
    <Drawing frame={frame} width={width} height={HEIGHT} label={label} caption={caption}>
      {band && <polygon points={polyline(outlineOf(band, stepsOf(x)))} fill="var(--fern-soft)" />}
      <Axes frame={FRAME} x={x} y={y} width={width} across={across} up={up} />
      {line && (
        <polyline
          points={polyline(stepsOf(x).map((value) => ({ x: value, y: line.intercept + line.slope * value })))}
          fill="none"
          stroke="var(--quiet)"
          strokeDasharray="2 5"
        />
      )}
      {joined.length > 1 && (
        <polyline points={polyline(joined)} fill="none" stroke="var(--fern)" strokeWidth={2} />
      )}
      {points.map((point, i) => (
        <Point
          key={point.id}
          point={point}
          x={x.place(point.x)}
          y={y.place}
          label={labels[i] as number}
          best={unbeaten.includes(point.id)}
        />
      ))}
    </Drawing>
  );
}

/** One item: its mark, what its height may be, its name beside it. */
function Point({
  point: { name, mark, y: value, interval },
  x,
  y,
  label,
  best,
}: {
  point: AgainstPoint;
  /** Place of the mark across, px. */
  x: number;
  y: (value: number) => number;
  /** Height of the name, px. */
  label: number;
  best: boolean;
}) {
  const height = y(value);
  return (
    <g>
      {interval && (
        <line
          x1={x}
          x2={x}
          y1={y(interval[0])}
          y2={y(interval[1])}
          stroke={markColour(mark)}
          strokeWidth={2}
        />
      )}
      <path
        d={markOutline(mark)}
        fill={markColour(mark)}
        transform={`translate(${x.toFixed(1)} ${height.toFixed(1)}) scale(${String(MARK)})`}
      />
      {Math.abs(label - height) > 2 && (
        <line x1={x + MARK} x2={x + 14} y1={height} y2={label} stroke="var(--rule-strong)" />
      )}
      <text className={best ? 'strong' : undefined} x={x + 16} y={label + 5}>
        {shortened(name, 14)}
        <title>{name}</title>
      </text>
    </g>
  );
}
