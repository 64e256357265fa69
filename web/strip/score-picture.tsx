import { useId } from 'react';
import { scaleLinear } from 'd3-scale';
import { useWidth } from '../ui/use-width.ts';
import { markColour, markOutline } from '../../core/model/marks.ts';
import { Drawing, shortened } from './drawing.tsx';

/** One item with what each measurand gives to its score. */
export interface ScoreBar {
  id: string;
  name: string;
  mark: number;
  /** As printed. */
  score: string;
  place: string;
  /** In the order of the measurands. */
  parts: readonly number[];
  /** From where to where the score may lie, where that is not known as one figure. */
  reach?: readonly [number, number] | null;
}

export interface ScorePictureProps {
  label: string;
  caption: string;
  measurands: readonly string[];
  /** Best first. */
  bars: readonly ScoreBar[];
}

const ROW = 40;
const BAR = 22;
/** Height of the ends of a line from where to where a score may lie. */
const WHISKER = 9;
const LEGEND_LINE = 24;
const FOOT = 6;
/** Room for names on the left, score and place on the right. */
const [NAMES, FIGURES, RANGES] = [150, 118, 178];
const NARROW_PICTURE = 520;
const NARROW_NAMES = 96;
const WORD = 7.6;
const SWATCH = 14;
/** Fills of the measurands: ever lighter, hatched in turn, so that grey paper tells them apart as well. */
const FILLS: readonly { strength: number; hatched: boolean }[] = [
  { strength: 100, hatched: false },
  { strength: 52, hatched: false },
  { strength: 78, hatched: true },
  { strength: 28, hatched: false },
  { strength: 60, hatched: true },
  { strength: 14, hatched: false },
];
const fillOf = (i: number) => FILLS[i % FILLS.length] as (typeof FILLS)[number];

/** The legend's words in lines, each as wide as there is room. */
function legendLines(words: readonly string[], width: number): { word: string; x: number; line: number }[] {
  let [x, line] = [0, 0];
  return words.map((word) => {
    const needed = SWATCH + 6 + word.length * WORD + 18;
    if (x > 0 && x + needed > width) [x, line] = [0, line + 1];
    const placed = { word, x, line };
    x += needed;
    return placed;
  });
}

/** A piece of a bar, or a swatch of the legend. */
function Piece({
  hatch,
  i,
  x,
  y,
  width,
  height,
}: {
  /** Id of the pattern of hatched pieces. */
  hatch: string;
  i: number;
  x: number;
  y: number;
  width: number;
  height: number;
}) {
  const { strength, hatched } = fillOf(i);
  const rect = { x, y, height, width: Math.max(0, width) };
  return (
    <>
      <rect {...rect} fill="var(--fern)" fillOpacity={strength / 100} stroke="var(--sheet)" strokeWidth={1} />
      {hatched && <rect {...rect} fill={`url(#${hatch})`} />}
    </>
  );
}

/** What each piece of a bar is of. */
function Legend({
  lines,
  hatch,
  from,
}: {
  lines: ReturnType<typeof legendLines>;
  /** The id of the pattern. */
  hatch: string;
  /** Where it begins, px. */
  from: number;
}) {
  return lines.map(({ word, x, line }, i) => (
    <g key={word} transform={`translate(${String(from + x)} ${String(line * LEGEND_LINE)})`}>
      <Piece hatch={hatch} i={i} x={0} y={4} width={SWATCH} height={SWATCH} />
      <text x={SWATCH + 6} y={16}>
        {word}
      </text>
    </g>
  ));
}

/** Scores as bars, each of what the measurands give to it; what takes away goes to the left. */
export function ScorePicture({ label, caption, measurands, bars }: ScorePictureProps) {
  const [frame, width] = useWidth<HTMLElement>(860);
  const hatch = useId();
  const names = width < NARROW_PICTURE ? NARROW_NAMES : NAMES;
  const legend = legendLines(measurands, width - names);
  const top = LEGEND_LINE * (1 + Math.max(0, ...legend.map(({ line }) => line))) + 22;
  const height = top + ROW * bars.length + FOOT;
  const sums = bars.map(({ parts }) => ({
    up: parts.reduce((sum, part) => sum + Math.max(0, part), 0),
    down: parts.reduce((sum, part) => sum + Math.min(0, part), 0),
  }));
  const ends = bars.flatMap(({ reach }) => reach ?? []);
  const figures = ends.length > 0 ? RANGES : FIGURES;
  const scale = scaleLinear()
    .domain([
      Math.min(0, ...ends, ...sums.map(({ down }) => down)),
      Math.max(1e-9, ...ends, ...sums.map(({ up }) => up)),
    ])
    .range([names, width - figures]);
  return (
    <Drawing
      frame={frame}
      width={width}
      height={height}
      label={`${label}. The table below has the figures.`}
      caption={caption}
    >
      <defs>
        <pattern id={hatch} width={6} height={6} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line x1={0} x2={0} y1={0} y2={6} stroke="var(--sheet)" strokeWidth={2.4} />
        </pattern>
      </defs>
      <Legend lines={legend} hatch={hatch} from={names} />
      <text className="quiet" x={width - 58} y={top - 8} textAnchor="end">
        score
      </text>
      <text className="quiet" x={width} y={top - 8} textAnchor="end">
        place
      </text>
      <line x1={scale(0)} x2={scale(0)} y1={top - 2} y2={height} stroke="var(--rule-strong)" />
      {bars.map((bar, row) => (
        <Bar
          key={bar.id}
          bar={bar}
          top={top + ROW * row}
          width={width}
          most={Math.floor((names - 30) / 8.4)}
          scale={scale}
          measurands={measurands}
          hatch={hatch}
        />
      ))}
    </Drawing>
  );
}

/** From where to where each part of a score lies: what adds to it to the right of 0, what takes away to the left. */
function stacked(parts: readonly number[]): [number, number][] {
  let [right, left] = [0, 0];
  return parts.map((part) => {
    if (part < 0) {
      left += part;
      return [left, left - part];
    }
    right += part;
    return [right - part, right];
  });
}

/** One item: its name, what makes its score, the score and the place. It slides to where it stands. */
function Bar({
  bar: { name, mark, score, place, parts, reach },
  top,
  width,
  most,
  scale,
  measurands,
  hatch,
}: {
  bar: ScoreBar;
  top: number;
  width: number;
  /** Letters of a name that there is room for. */
  most: number;
  scale: (value: number) => number;
  measurands: readonly string[];
  hatch: string;
}) {
  return (
    <g style={{ transform: `translateY(${String(top)}px)`, transition: 'transform 0.3s ease' }}>
      <line x1={0} x2={width} y1={0} y2={0} stroke="var(--rule)" />
      <path
        d={markOutline(mark)}
        fill={markColour(mark)}
        transform={`translate(10 ${String(ROW / 2)}) scale(7)`}
      />
      <text className="strong" x={26} y={ROW / 2 + 5}>
        {shortened(name, most)}
        <title>{name}</title>
      </text>
      {stacked(parts).map(([from, to], i) => (
        <Piece
          key={measurands[i]}
          hatch={hatch}
          i={i}
          x={scale(from)}
          y={(ROW - BAR) / 2}
          width={scale(to) - scale(from)}
          height={BAR}
        />
      ))}
      {reach && reach[1] > reach[0] && (
        <path
          d={`M${String(scale(reach[0]))} ${String(ROW / 2)}H${String(scale(reach[1]))}m0 ${String(-WHISKER / 2)}v${String(WHISKER)}M${String(scale(reach[0]))} ${String((ROW - WHISKER) / 2)}v${String(WHISKER)}`}
          stroke="var(--ink)"
          strokeWidth={1.6}
          fill="none"
        />
      )}
      <text x={width - 58} y={ROW / 2 + 5} textAnchor="end">
        {score}
      </text>
      <text className="strong" x={width} y={ROW / 2 + 5} textAnchor="end">
        {place}
      </text>
    </g>
  );
}
