import { scaleLinear } from 'd3-scale';
import { formatNumber } from '../../core/quantity/format.ts';
import { useWidth } from '../ui/use-width.ts';
import { ValueTicks } from './axes.tsx';
import { spreadLabels, valueAxis } from './axis.ts';
import { markColour, markOutline } from '../../core/model/marks.ts';
import { Drawing, shortened } from './drawing.tsx';

/** One item at one level. */
export interface LevelPoint {
  mean: number;
  interval: readonly [number, number] | null;
}

/** One item over the levels. */
export interface LevelLine {
  id: string;
  name: string;
  code: string;
  mark: number;
  /** Level by level; undefined where nothing was read. */
  points: readonly (LevelPoint | undefined)[];
  /** Its place at the last level; '' where places are not meant. */
  place: string;
}

export interface LevelPictureProps {
  /** What is shown, for readers. */
  label: string;
  /** The words under it; what the axis and the band are is added. */
  caption: string;
  /** Levels along the foot: name, and the number where each has one. */
  levels: readonly { name: string; value: number | null }[];
  lines: readonly LevelLine[];
  decimals: number;
  /** The margin around the leader, level by level. */
  band: readonly (readonly [number, number] | undefined)[];
  /** Where two items change places, on the levels’ scale. */
  turns: readonly { level: number; words: string }[];
  /** What pictures that stand beside one another have in them all together: they share an axis. */
  spanned?: { means: readonly number[]; ends: readonly number[] } | undefined;
}

/** The means of items over levels, and the ends of their intervals. */
export const spanOf = (lines: readonly Pick<LevelLine, 'points'>[]) => {
  const points = lines.flatMap((line) => line.points.filter((point) => point !== undefined));
  return {
    means: points.map(({ mean }) => mean),
    ends: points.flatMap(({ interval }) => interval ?? []),
  };
};

const HEIGHT = 400;
const TOP = 34;
const FOOT = 34;
const LEFT = 52;
/** Room at the end of the lines: names, means and places, or codes and places where there is little. */
const [END, SHORT_END] = [230, 92];
const NARROW_PICTURE = 560;
const LINE = 22;
const MARK = 6.5;
/** Items stand beside one another at a level, so that none hides another. */
const APART = 7;

/** Where levels stand along the foot: by their numbers, or evenly where these crowd or are none. */
function placesOf(levels: LevelPictureProps['levels'], from: number, to: number) {
  const values = levels.map(({ value }) => value);
  const even = scaleLinear()
    .domain([0, Math.max(1, levels.length - 1)])
    .range([from, to]);
  const numbers = values.filter((value) => value !== null);
  const byValue = scaleLinear()
    .domain([Math.min(...numbers), Math.max(...numbers)])
    .range([from, to]);
  const sorted = numbers.map((value) => byValue(value)).sort((a, b) => a - b);
  const crowded = sorted.some((place, i) => i > 0 && place - (sorted[i - 1] as number) < 64);
  const numeric = numbers.length === levels.length && numbers.length > 1 && !crowded;
  return {
    numeric,
    place: (level: number) => (numeric ? byValue(values[level] as number) : even(level)),
    byValue,
  };
}

/** Items over the levels of a factor: means joined, with their intervals, and the margin of the leader as a band. */
export function LevelPicture(props: LevelPictureProps) {
  const { label, caption, levels, lines, decimals, band, turns, spanned = spanOf(lines) } = props;
  const [frame, width] = useWidth<HTMLElement>(860);
  const narrow = width < NARROW_PICTURE;
  const end = narrow ? SHORT_END : END;
  const inset = Math.min(60, (APART * lines.length) / 2 + 14);
  const right = width - end;
  const scale = placesOf(levels, LEFT + inset, right - inset);
  if (lines.every(({ points }) => points.every((point) => point === undefined))) return null;
  const axis = valueAxis(spanned.means, [...spanned.ends, ...band.flatMap((reach) => reach ?? [])], {
    from: HEIGHT - FOOT,
    to: TOP,
    count: 6,
    ratios: true,
  });
  const { place: y } = axis;
  const x = (level: number, line: number) => scale.place(level) + (line - (lines.length - 1) / 2) * APART;
  return (
    <Drawing
      frame={frame}
      width={width}
      height={HEIGHT}
      label={`${label}. The table below has the figures.`}
      caption={
        <>
          {caption}
          {axis.ratios && ' The axis grows in equal ratios.'}
          {band.some(Boolean) && ' The band is as near to the best mean as the margin.'}
        </>
      }
    >
      <Band band={band} place={scale.place} y={y} from={LEFT} to={right} />
      <ValueTicks ticks={axis.ticks} place={y} left={LEFT} right={right} />
      {levels.map(({ name }, level) => (
        <text key={name} className="strong" x={scale.place(level)} y={HEIGHT - 8} textAnchor="middle">
          {name}
        </text>
      ))}
      {scale.numeric && <Turns turns={turns} x={scale.byValue} right={right} />}
      {lines.map((line, place) => (
        <ItemLine key={line.id} line={line} x={(level) => x(level, place)} y={y} />
      ))}
      <Ends
        lines={lines}
        lastName={levels.at(-1)?.name ?? ''}
        y={y}
        foot={axis.low}
        {...{ width, right, narrow, decimals }}
      />
    </Drawing>
  );
}

/** Where the order of items turns, along the foot. */
function Turns({
  turns,
  x,
  right,
}: {
  turns: LevelPictureProps['turns'];
  x: (value: number) => number;
  right: number;
}) {
  return turns.map(({ level: value, words }, i) => (
    <g key={words}>
      <line
        x1={x(value)}
        x2={x(value)}
        y1={TOP + 4 + 16 * i}
        y2={HEIGHT - FOOT}
        stroke="var(--rust)"
        strokeDasharray="2 4"
      />
      <text
        className="turn"
        x={x(value)}
        y={TOP - 2 + 16 * i}
        textAnchor={x(value) > (LEFT + right) / 2 ? 'end' : 'start'}
      >
        {words}
      </text>
    </g>
  ));
}

/** What stands behind the lines: names, the last means, and places. */
function Ends({
  lines,
  lastName,
  y,
  foot,
  width,
  right,
  narrow,
  decimals,
}: {
  lines: readonly LevelLine[];
  lastName: string;
  y: (value: number) => number;
  /** The value at the foot of the picture. */
  foot: number;
  width: number;
  right: number;
  narrow: boolean;
  decimals: number;
}) {
  const last = lines.map(({ points }) => points.findLast((point) => point !== undefined));
  const labels = spreadLabels(
    last.map((point) => y(point?.mean ?? foot)),
    LINE,
    TOP - 4,
    HEIGHT - FOOT + 6,
  );
  return (
    <>
      <text className="quiet" x={width} y={TOP - 20} textAnchor="end">
        {!lines.some(({ place }) => place !== '') ? lastName : narrow ? 'place' : `at ${lastName}, place`}
      </text>
      {lines.map(({ id, name, code, place }, line) => {
        const label = (labels[line] as number) + 5;
        const point = last[line];
        return (
          <g key={id}>
            <text className="strong" x={right + 8} y={label}>
              {narrow ? code : shortened(name, 18)}
              <title>{name}</title>
            </text>
            {!narrow && (
              <text className="figure" x={width - 52} y={label} textAnchor="end">
                {point ? formatNumber(point.mean, decimals) : '–'}
              </text>
            )}
            <text className="strong" x={width} y={label} textAnchor="end">
              {place}
            </text>
          </g>
        );
      })}
    </>
  );
}

/** One item: its means joined over the levels that were read, with their intervals. */
function ItemLine({
  line: { points, mark, name },
  x,
  y,
}: {
  line: LevelLine;
  x: (level: number) => number;
  y: (value: number) => number;
}) {
  const colour = markColour(mark);
  const read = points.flatMap((point, level) => (point ? [{ ...point, level }] : []));
  return (
    <g>
      <polyline
        points={read.map(({ level, mean }) => `${x(level).toFixed(1)},${y(mean).toFixed(1)}`).join(' ')}
        fill="none"
        stroke={colour}
        strokeOpacity={0.6}
        strokeWidth={1.8}
      />
      {read.map(({ level, mean, interval }) => (
        <g key={level}>
          {interval && (
            <line
              x1={x(level)}
              x2={x(level)}
              y1={y(interval[0])}
              y2={y(interval[1])}
              stroke={colour}
              strokeWidth={2}
            />
          )}
          <path
            d={markOutline(mark)}
            fill={colour}
            transform={`translate(${x(level).toFixed(1)} ${y(mean).toFixed(1)}) scale(${String(MARK)})`}
          >
            <title>{name}</title>
          </path>
        </g>
      ))}
    </g>
  );
}

/** The margin around the leader from level to level. */
function Band({
  band,
  place,
  y,
  from,
  to,
}: {
  band: LevelPictureProps['band'];
  place: (level: number) => number;
  y: (value: number) => number;
  from: number;
  to: number;
}) {
  const known = band.flatMap((reach, level) => (reach ? [{ reach, level }] : []));
  if (known.length < 2) return null;
  // The band goes on to the edges of the plot: marks stand on both sides of a level.
  const along = (end: 0 | 1) => {
    const corners = known.map(({ reach, level }) => [place(level), y(reach[end])] as const);
    const [first, last] = [corners[0], corners.at(-1)] as [
      readonly [number, number],
      readonly [number, number],
    ];
    return [[from, first[1]] as const, ...corners, [to, last[1]] as const];
  };
  const outline = [...along(0), ...along(1).reverse()];
  return (
    <polygon
      points={outline.map(([left, height]) => `${left.toFixed(1)},${height.toFixed(1)}`).join(' ')}
      fill="var(--fern-soft)"
    />
  );
}
