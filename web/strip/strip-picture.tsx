import { formatPlain } from '../../core/quantity/format.ts';
import { useWidth } from '../ui/use-width.ts';
import { axisOver } from './axis.ts';
import {
  FOOT,
  MARK_RADIUS,
  type StripBand,
  type StripLane,
  keptDomain,
  placeMarks,
  shareAlong,
} from './layout.ts';
import { markColour, markOutline } from '../../core/model/marks.ts';
import { Drawing, shortened } from './drawing.tsx';

const LANE = 46;
const AXIS = 34;
const HEAD = 20;
/** From these widths on there is room for whole names, and for short ones; below, codes stand for them. */
const [WIDE, MIDDLE] = [520, 360];
/** Room for places, and for one character. */
const [PLACES, CHARACTER] = [50, 8.6];

/** Room for names in px, and how many characters of them that holds. */
function roomForNames(width: number): { room: number; characters: number | undefined } {
  if (width >= WIDE) return { room: 150, characters: 17 };
  return width >= MIDDLE ? { room: 112, characters: 12 } : { room: 44, characters: undefined };
}

export interface StripPictureProps {
  /** What is shown, for readers. */
  label: string;
  unit: string;
  lanes: readonly StripLane[];
  band?: StripBand | undefined;
  /** What the axis spans, where that is more than is shown. */
  spanned?: readonly StripLane[] | undefined;
  ratios?: boolean;
  caption: string;
}

/** The axis under the lanes. */
const Axis = ({
  plot,
  y,
  ticks,
  toX,
}: {
  plot: number;
  y: number;
  ticks: readonly number[];
  toX: (value: number) => number;
}) => (
  <>
    <line x2={plot} y1={y} y2={y} stroke="var(--ink)" />
    {ticks.map((tick) => (
      <g key={tick} transform={`translate(${toX(tick).toFixed(1)} ${String(y)})`}>
        <line y2={5} stroke="var(--ink)" />
        <text className="quiet" y={18} textAnchor="middle">
          {formatPlain(tick)}
        </text>
      </g>
    ))}
  </>
);

/** What stands beside a lane: the item, its mean, its place. */
function LaneWords({
  lane: { name, code, figure, place },
  index,
  characters,
  width,
}: {
  lane: StripLane;
  index: number;
  /** So many of a name have room; undefined where only its code has. */
  characters: number | undefined;
  width: number;
}) {
  const y = HEAD + (index + 1) * LANE - FOOT - MARK_RADIUS + 5;
  return (
    <g>
      <text className="strong" y={y}>
        {characters === undefined ? code : shortened(name, characters)}
        <title>{name}</title>
      </text>
      <text className="figure" x={width - (place === undefined ? 0 : 44)} y={y} textAnchor="end">
        {figure}
      </text>
      {place !== undefined && (
        <text className="strong" x={width} y={y} textAnchor="end">
          {place}
        </text>
      )}
    </g>
  );
}

const laneWords = ({ name, figure, place }: StripLane): string =>
  `${name} ${figure ?? ''}${place ? `, place ${place}` : ''}`;

/** The strip as a drawing of lines and outlines: sharp at any size, and without hands. */
export function StripPicture({
  label,
  unit,
  lanes,
  spanned = lanes,
  band,
  ratios,
  caption,
}: StripPictureProps) {
  const [frame, width] = useWidth<HTMLElement>(860);
  const { room: names, characters } = roomForNames(width);
  const placed = lanes.some(({ place }) => place !== undefined);
  const longest = Math.max(...lanes.map(({ figure }) => figure?.length ?? 0));
  const ends = 16 + CHARACTER * longest + (placed ? PLACES : 0);
  const plot = Math.max(60, width - names - ends);
  const domain = keptDomain(spanned, band, ratios);
  const scale = (value: number) => plot * shareAlong(domain, value);
  const { ticks } = axisOver(
    { low: domain.min, high: domain.max, ratios: domain.ratios ?? false },
    { from: 0, to: plot, count: Math.max(2, Math.round(plot / 70)) },
  );
  const bottom = HEAD + lanes.length * LANE;
  const clamped = (value: number) => Math.min(plot, Math.max(0, scale(value)));
  return (
    <Drawing
      frame={frame}
      width={width}
      height={bottom + AXIS}
      label={`${label}: ${lanes.map(laneWords).join('; ')}`}
      caption={`${caption}${band ? ` The band: ${band.label}.` : ''}`}
    >
      <g transform={`translate(${String(names)} ${String(HEAD)})`}>
        {band && (
          <rect
            x={clamped(band.from)}
            width={Math.max(1, clamped(band.to) - clamped(band.from))}
            height={lanes.length * LANE}
            fill="var(--fern-soft)"
          />
        )}
        {lanes.map((lane, i) => (
          <Lane key={lane.id} lane={lane} index={i} plot={plot} toX={scale} clamped={clamped} />
        ))}
        <Axis plot={plot} y={lanes.length * LANE} ticks={ticks} toX={scale} />
      </g>
      <text className="quiet" x={width} y={12} textAnchor="end">
        {placed ? 'mean, place' : 'mean'}
      </text>
      <text className="quiet" x={names + plot + 16} y={bottom + 18}>
        {unit}
      </text>
      {lanes.map((lane, i) => (
        <LaneWords key={lane.id} lane={lane} index={i} characters={characters} width={width} />
      ))}
    </Drawing>
  );
}

/** More marks than this in a lane are drawn as thin strokes: a printed page shows no more. */
const MOST_MARKS = 400;

/** The readings of a lane. */
function Marks({
  marks,
  mark,
  index,
  plot,
  toX,
}: Pick<StripLane, 'marks' | 'mark'> & { index: number; plot: number; toX: (value: number) => number }) {
  const colour = markColour(mark);
  const dense = marks.length > MOST_MARKS;
  const shown = dense ? marks.filter((_, i) => i % Math.ceil(marks.length / MOST_MARKS) === 0) : marks;
  return (
    <>
      {placeMarks(shown, toX, index, LANE, plot).map(({ mark: { id, out }, x, y, parked }) => (
        <path
          key={id}
          d={markOutline(mark)}
          transform={`translate(${x.toFixed(1)} ${y.toFixed(1)}) scale(${String(parked ? MARK_RADIUS * 0.8 : MARK_RADIUS)})`}
          fill={out ? 'none' : colour}
          fillOpacity={dense ? 0.4 : 0.85}
          stroke={out ? colour : 'none'}
          strokeWidth={out ? 0.3 : 0}
        />
      ))}
    </>
  );
}

/** The stretch that an item may lie in where no more is known of it, and what is said of that. */
function Reach({
  of: { reach, words, mean },
  colour,
  foot,
  plot,
  clamped,
}: {
  of: Pick<StripLane, 'reach' | 'words' | 'mean'>;
  colour: string;
  /** Where it ends below. */
  foot: number;
  plot: number;
  clamped: (value: number) => number;
}) {
  const [low = null, high = null] = reach ?? [];
  const [from, to] = [low === null ? 0 : clamped(low), high === null ? plot : clamped(high)];
  return (
    <>
      {words !== undefined && (
        <text
          className="quiet"
          x={Math.min(plot - 70, Math.max(70, mean === null ? (from + to) / 2 : clamped(mean)))}
          y={foot - 14}
          textAnchor="middle"
        >
          {words}
        </text>
      )}
      {reach && (
        <rect
          x={from}
          width={Math.max(3, to - from)}
          y={foot - 8}
          height={8}
          fill="none"
          stroke={colour}
          strokeWidth={1.5}
          strokeDasharray={reach.includes(null) ? '6 4' : undefined}
        />
      )}
    </>
  );
}

/** What was read of an item, over the axis that all share. */
function Lane({
  lane,
  index,
  plot,
  toX,
  clamped,
}: {
  lane: StripLane;
  index: number;
  plot: number;
  toX: (value: number) => number;
  clamped: (value: number) => number;
}) {
  const { marks, mark, mean, interval } = lane;
  const colour = markColour(mark);
  const foot = (index + 1) * LANE - 6;
  return (
    <g>
      <line x2={plot} y1={(index + 1) * LANE} y2={(index + 1) * LANE} stroke="var(--rule)" />
      <Marks marks={marks} mark={mark} index={index} plot={plot} toX={toX} />
      <Reach of={lane} {...{ colour, foot, plot, clamped }} />
      {interval && (
        <line
          x1={clamped(interval[0])}
          x2={clamped(interval[1])}
          y1={foot}
          y2={foot}
          stroke="var(--ink)"
          strokeWidth={2}
        />
      )}
      {mean !== null && (
        <line
          x1={clamped(mean)}
          x2={clamped(mean)}
          y1={foot - 5}
          y2={foot + 5}
          stroke="var(--ink)"
          strokeWidth={2.5}
        />
      )}
    </g>
  );
}
