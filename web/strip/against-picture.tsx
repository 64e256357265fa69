import { formatPlain } from '../../core/quantity/format.ts';
import { useWidth } from '../ui/use-width.ts';
import { spreadLabels, valueAxis } from './axis.ts';
import { markColour, markOutline } from './marks.ts';
import { PictureFrame } from './picture-frame.ts';

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
}

const HEIGHT = 380;
const [TOP, FOOT, LEFT, RIGHT] = [30, 52, 62, 128];
const MARK = 7.5;
const LINE = 19;

/** Items as marks by two figures; those that no other beats on both are joined. */
export function AgainstPicture({ label, caption, across, up, points, unbeaten, line }: AgainstPictureProps) {
  const [frame, width] = useWidth<HTMLElement>(760);
  if (points.length === 0) return null;
  const x = valueAxis(
    points.map((point) => point.x),
    [],
    { from: LEFT, to: width - RIGHT, count: Math.max(3, Math.round(width / 150)), ratios: true },
  );
  const y = valueAxis(
    points.map((point) => point.y),
    points.flatMap(({ interval }) => interval ?? []),
    { from: HEIGHT - FOOT, to: TOP, count: 6, ratios: false },
  );
  const labels = spreadLabels(
    points.map((point) => y.place(point.y)),
    LINE,
    TOP,
    HEIGHT - FOOT - 4,
  );
  const joined = unbeaten.flatMap((id) => points.find((point) => point.id === id) ?? []);
  return (
    <PictureFrame ref={frame}>
      <svg
        width={width}
        height={HEIGHT}
        viewBox={`0 0 ${String(width)} ${String(HEIGHT)}`}
        role="img"
        aria-label={label}
      >
        <text className="quiet" x={LEFT - 54} y={14}>
          {up}
        </text>
        {y.ticks.map((tick) => (
          <g key={tick}>
            <line x1={LEFT} x2={width - RIGHT} y1={y.place(tick)} y2={y.place(tick)} stroke="var(--rule)" />
            <text className="quiet" x={LEFT - 8} y={y.place(tick) + 4} textAnchor="end">
              {formatPlain(tick)}
            </text>
          </g>
        ))}
        {x.ticks.map((tick) => (
          <g key={tick}>
            <line
              x1={x.place(tick)}
              x2={x.place(tick)}
              y1={HEIGHT - FOOT}
              y2={HEIGHT - FOOT + 5}
              stroke="var(--rule-strong)"
            />
            <text className="quiet" x={x.place(tick)} y={HEIGHT - FOOT + 20} textAnchor="middle">
              {formatPlain(tick)}
            </text>
          </g>
        ))}
        <line
          x1={LEFT}
          x2={width - RIGHT}
          y1={HEIGHT - FOOT}
          y2={HEIGHT - FOOT}
          stroke="var(--rule-strong)"
        />
        <text className="quiet" x={width - RIGHT} y={HEIGHT - 8} textAnchor="end">
          {across}
        </text>
        {line && !x.ratios && (
          <line
            x1={x.place(x.low)}
            x2={x.place(x.high)}
            y1={y.place(line.intercept + line.slope * x.low)}
            y2={y.place(line.intercept + line.slope * x.high)}
            stroke="var(--quiet)"
            strokeDasharray="2 5"
          />
        )}
        {joined.length > 1 && (
          <polyline
            points={joined
              .map((point) => `${x.place(point.x).toFixed(1)},${y.place(point.y).toFixed(1)}`)
              .join(' ')}
            fill="none"
            stroke="var(--fern)"
            strokeWidth={2}
          />
        )}
        {points.map((point, i) => {
          const [left, height] = [x.place(point.x), y.place(point.y)];
          const best = unbeaten.includes(point.id);
          return (
            <g key={point.id}>
              {point.interval && (
                <line
                  x1={left}
                  x2={left}
                  y1={y.place(point.interval[0])}
                  y2={y.place(point.interval[1])}
                  stroke={markColour(point.mark)}
                  strokeWidth={2}
                />
              )}
              <path
                d={markOutline(point.mark)}
                fill={markColour(point.mark)}
                transform={`translate(${left.toFixed(1)} ${height.toFixed(1)}) scale(${String(MARK)})`}
              />
              {Math.abs((labels[i] as number) - height) > 2 && (
                <line
                  x1={left + MARK}
                  x2={left + 14}
                  y1={height}
                  y2={labels[i]}
                  stroke="var(--rule-strong)"
                />
              )}
              <text className={best ? 'strong' : undefined} x={left + 16} y={(labels[i] as number) + 5}>
                {point.name.length > 14 ? `${point.name.slice(0, 13)}…` : point.name}
                <title>{point.name}</title>
              </text>
            </g>
          );
        })}
      </svg>
      <figcaption>{caption}</figcaption>
    </PictureFrame>
  );
}
