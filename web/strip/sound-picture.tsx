import { scaleLinear } from 'd3-scale';
import { type PointerEvent, type RefObject, useEffect, useEffectEvent, useRef } from 'react';
import { formatPlain } from '../../core/quantity/format.ts';
import { TRACK_STEP_S } from '../../core/sound/track.ts';
import type { TimeWindow } from '../../core/trace/series.ts';
import type { SoundColumns } from '../workers/recording.worker.ts';
import { useWidth } from '../ui/use-width.ts';
import { Drawing } from './drawing.tsx';
import { panned, zoomed } from './sound-view.ts';
import { timeTicks } from './time-axis.ts';

/** A window to show: a reading to be, one that was taken, or what is no reading. */
export interface ShownWindow extends TimeWindow {
  key: string;
  /** Its number in the table. */
  words: string;
  tone: 'reading' | 'taken' | 'none';
}

export interface SoundPictureProps {
  label: string;
  caption: string;
  lengthS: number;
  view: TimeWindow;
  columns: SoundColumns | undefined;
  /** Levels, dB relative to full scale; undefined while they are worked out. */
  track: Float32Array | undefined;
  /** What is added to a level to be shown, dB, and the unit it then has. */
  scale: { addDb: number; unit: string };
  threshold: number | undefined;
  windows: readonly ShownWindow[];
  chosenKey: string | undefined;
  /** The moment that is being played. */
  playing: number | undefined;
  onView: (view: TimeWindow) => void;
  onChoose: (key: string) => void;
  /** As it is dragged; the last one when it is let go. */
  onThreshold: (threshold: number, done: boolean) => void;
  onWindow: (window: TimeWindow, done: boolean) => void;
}

export const [SOUND_LEFT, SOUND_RIGHT] = [58, 14];
const [TOP, WAVE, GAP, LEVELS, FOOT] = [22, 84, 16, 130, 28];
const LEVEL_TOP = TOP + WAVE + GAP;
const HEIGHT = LEVEL_TOP + LEVELS + FOOT;
/** How near to a line it is taken hold of, px. */
const NEAR = 7;
/** So quiet a stretch is drawn as if it were as loud as this. */
const LEAST_PEAK = 0.001;
/** A press that moves less than this is a click, px. */
const STILL = 4;
/** What a turn of the wheel by one zooms by. */
const WHEEL = 0.0016;

const FILLS = { reading: 'var(--fern-soft)', taken: 'var(--hover)', none: 'none' } as const;

/** So many columns of the picture are worked out. */
export const soundColumns = (width: number): number =>
  Math.max(50, Math.round(width - SOUND_LEFT - SOUND_RIGHT));

/** A place in the picture to a tenth of a pixel: this is several times as fast as toFixed. */
const tenth = (place: number): string => String(Math.round(10 * place) / 10);

/** The outline of a wave: along its highest samples and back along its lowest. */
function outline(columns: SoundColumns, x: (time: number) => number, y: (value: number) => number): string {
  const { low, high, from, to } = columns;
  const each = (to - from) / low.length;
  const points: string[] = [];
  const point = (i: number, value: number) => {
    if (!Number.isNaN(value)) points.push(`${tenth(x(from + (i + 0.5) * each))},${tenth(y(value))}`);
  };
  for (let i = 0; i < high.length; i += 1) point(i, high[i] as number);
  for (let i = low.length - 1; i >= 0; i -= 1) point(i, low[i] as number);
  return points.join(' ');
}

/** The largest sample that is seen, so that quiet sounds are seen as well once they are alone. */
function peakOf(columns: SoundColumns | undefined): number {
  let peak = LEAST_PEAK;
  for (const samples of [columns?.low ?? [], columns?.high ?? []])
    for (const sample of samples) if (Math.abs(sample) > peak) peak = Math.abs(sample);
  return peak;
}

/** The level over time, its highest in each column. */
function levelLine(
  track: Float32Array,
  view: TimeWindow,
  count: number,
  x: (time: number) => number,
  y: (level: number) => number,
): string {
  const points: string[] = [];
  const [first, last] = [view.from / TRACK_STEP_S, view.to / TRACK_STEP_S];
  const each = Math.max(1, (last - first) / count);
  for (let start = Math.max(0, first); start < Math.min(last + 1, track.length); start += each) {
    let most = -Infinity;
    for (let place = Math.floor(start); place < Math.min(start + each, track.length); place += 1)
      most = Math.max(most, track[place] as number);
    points.push(`${tenth(x((Math.floor(start) + each / 2) * TRACK_STEP_S))},${tenth(y(most))}`);
  }
  return points.join(' ');
}

/** The lowest and the highest level of a lane. */
function levelRange(track: Float32Array | undefined, threshold: number | undefined): [number, number] {
  if (!track || track.length === 0) return [-90, 0];
  let [low, high] = [Infinity, -Infinity];
  for (const level of track) {
    low = Math.min(low, level);
    high = Math.max(high, level);
  }
  return [Math.max(-100, Math.min(low, threshold ?? low)) - 3, Math.max(high, threshold ?? high) + 3];
}

type Held = { kind: 'from' | 'to' | 'threshold' } | { kind: 'view'; x: number; view: TimeWindow };

type Scale = ReturnType<typeof scaleLinear<number, number>>;

const CURSORS = { from: 'ew-resize', to: 'ew-resize', threshold: 'ns-resize', view: 'crosshair' } as const;

/** Zooms and moves by the wheel what is seen. */
function useWheel(
  frame: RefObject<HTMLElement | null>,
  { view, lengthS, onView }: Pick<SoundPictureProps, 'view' | 'lengthS' | 'onView'>,
  x: Scale,
): void {
  const onWheel = useEffectEvent((event: WheelEvent) => {
    const { left } = (event.currentTarget as Element).getBoundingClientRect();
    // Without a key the page scrolls, as anywhere; sideways it moves the picture.
    if (event.ctrlKey || event.metaKey) {
      event.preventDefault();
      onView(zoomed(view, Math.exp(-WHEEL * event.deltaY), x.invert(event.clientX - left), lengthS));
    } else if (Math.abs(event.deltaX) > Math.abs(event.deltaY)) {
      event.preventDefault();
      onView(panned(view, x.invert(event.deltaX) - x.invert(0), lengthS));
    }
  });
  useEffect(() => {
    const { current } = frame;
    if (!current) return undefined;
    const listen = (event: WheelEvent) => {
      onWheel(event);
    };
    current.addEventListener('wheel', listen, { passive: false });
    return () => {
      current.removeEventListener('wheel', listen);
    };
  }, [frame]);
}

/** Where the pointer is, in the picture's pixels. */
const placeOf = (event: PointerEvent<SVGRectElement>) => {
  const { left, top } = event.currentTarget.getBoundingClientRect();
  return { px: event.clientX - left + SOUND_LEFT, py: event.clientY - top };
};

interface HoldProps {
  x: Scale;
  levels: Scale;
  chosen: ShownWindow | undefined;
  of: SoundPictureProps;
}

/** What is taken hold of, and what follows when it is moved and let go. Places are in the picture's pixels. */
function useHold({ x, levels, chosen, of }: HoldProps) {
  const { lengthS, view, threshold, windows, onView, onChoose, onThreshold, onWindow } = of;
  const held = useRef<Held>(undefined);
  /** What is taken hold of at a place. */
  const holdAt = (px: number, py: number): Held => {
    if (chosen && py < LEVEL_TOP) {
      const [toFrom, toTo] = [Math.abs(px - x(chosen.from)), Math.abs(px - x(chosen.to))];
      if (Math.min(toFrom, toTo) <= NEAR) return { kind: toFrom < toTo ? 'from' : 'to' };
    }
    if (threshold !== undefined && Math.abs(py - levels(threshold)) <= NEAR) return { kind: 'threshold' };
    return { kind: 'view', x: px, view };
  };
  const drag = (px: number, py: number, done: boolean) => {
    const { current } = held;
    if (!current) return;
    if (current.kind === 'view') {
      if (!done) onView(panned(current.view, x.invert(current.x) - x.invert(px), lengthS));
      return;
    }
    if (current.kind === 'threshold') {
      onThreshold(levels.invert(Math.min(LEVEL_TOP + LEVELS, Math.max(LEVEL_TOP, py))), done);
      return;
    }
    if (!chosen) return;
    const time = Math.min(lengthS, Math.max(0, x.invert(px)));
    const moved = { from: chosen.from, to: chosen.to, [current.kind]: Number(time.toFixed(3)) };
    if (moved.from < moved.to) onWindow(moved, done);
  };
  const letGo = (px: number, py: number) => {
    const { current } = held;
    drag(px, py, true);
    held.current = undefined;
    if (current?.kind !== 'view' || Math.abs(px - current.x) > STILL) return;
    const time = x.invert(px);
    const under = windows.find(({ from, to }) => time >= from && time <= to);
    if (under) onChoose(under.key);
  };
  return {
    takeHold: (px: number, py: number) => {
      held.current = holdAt(px, py);
    },
    /** Moves what is held. @returns what could be taken hold of here, where nothing is held */
    move: (px: number, py: number): Held['kind'] | undefined => {
      if (!held.current) return holdAt(px, py).kind;
      drag(px, py, false);
      return undefined;
    },
    letGo,
    giveUp: () => {
      held.current = undefined;
    },
  };
}

/** What a pointer takes hold of and moves: an end of the chosen window, the threshold, or what is seen. */
function Grips({ x, levels, right, chosen, of }: HoldProps & { right: number }) {
  const { takeHold, move, letGo, giveUp } = useHold({ x, levels, chosen, of });
  return (
    <rect
      x={SOUND_LEFT}
      y={0}
      width={Math.max(0, right - SOUND_LEFT)}
      height={LEVEL_TOP + LEVELS}
      fill="transparent"
      style={{ touchAction: 'pan-y', cursor: CURSORS.view }}
      onPointerDown={(event) => {
        const { px, py } = placeOf(event);
        takeHold(px, py);
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={(event) => {
        const { px, py } = placeOf(event);
        const under = move(px, py);
        if (under) event.currentTarget.style.cursor = CURSORS[under];
      }}
      onPointerUp={(event) => {
        const { px, py } = placeOf(event);
        letGo(px, py);
      }}
      onPointerCancel={giveUp}
    />
  );
}

/** The wave, and the level under it. */
function Curves({
  columns,
  track,
  view,
  width,
  x,
  wave,
  levels,
}: Pick<SoundPictureProps, 'columns' | 'track' | 'view'> & {
  width: number;
  x: Scale;
  wave: Scale;
  levels: Scale;
}) {
  return (
    <>
      {columns && (
        <polygon
          points={outline(columns, x, wave)}
          fill="var(--ink)"
          stroke="var(--ink)"
          strokeWidth={0.7}
          strokeLinejoin="round"
        />
      )}
      {track && (
        <polyline
          points={levelLine(track, view, soundColumns(width), x, levels)}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={1.3}
          strokeLinejoin="round"
        />
      )}
    </>
  );
}

/** A recording over time: its wave, its level over the threshold, and the windows that become readings. */
export function SoundPicture(props: SoundPictureProps) {
  const { label, caption, view, columns, track, scale, threshold, windows, chosenKey, playing } = props;
  const [frame, width] = useWidth<HTMLElement>(860);
  const right = width - SOUND_RIGHT;
  const x = scaleLinear().domain([view.from, view.to]).range([SOUND_LEFT, right]);
  const peak = peakOf(columns);
  const wave = scaleLinear()
    .domain([-peak, peak])
    .range([TOP + WAVE, TOP]);
  const levels = scaleLinear()
    .domain(levelRange(track, threshold))
    .range([LEVEL_TOP + LEVELS, LEVEL_TOP]);
  const chosen = windows.find(({ key }) => key === chosenKey);
  useWheel(frame, props, x);
  const clip = `sound-${String(Math.round(width))}`;
  return (
    <Drawing frame={frame} width={width} height={HEIGHT} label={label} caption={caption}>
      <clipPath id={clip}>
        <rect x={SOUND_LEFT} y={0} width={Math.max(0, right - SOUND_LEFT)} height={HEIGHT} />
      </clipPath>
      <g clipPath={`url(#${clip})`}>
        {windows.map((window) => (
          <WindowShade key={window.key} window={window} chosen={window.key === chosenKey} x={x} />
        ))}
      </g>
      <WaveAxis y={wave} peak={peak} right={right} />
      {track && <LevelAxis y={levels} scale={scale} right={right} />}
      <g clipPath={`url(#${clip})`}>
        <Curves {...{ columns, track, view, width, x, wave, levels }} />
        {playing !== undefined && (
          <Upright x={x(playing)} bottom={LEVEL_TOP + LEVELS} colour="var(--rust)" wide={2} />
        )}
        {chosen && (
          <>
            <Upright x={x(chosen.from)} bottom={TOP + WAVE} colour="var(--fern)" wide={2.5} />
            <Upright x={x(chosen.to)} bottom={TOP + WAVE} colour="var(--fern)" wide={2.5} />
          </>
        )}
      </g>
      {threshold !== undefined && (
        <line
          x1={SOUND_LEFT}
          x2={right}
          y1={levels(threshold)}
          y2={levels(threshold)}
          stroke="var(--rust)"
          strokeWidth={1.6}
          strokeDasharray="5 4"
        />
      )}
      <TimeAxis x={x} view={view} right={right} />
      <Grips x={x} levels={levels} right={right} chosen={chosen} of={props} />
    </Drawing>
  );
}

/** A line at a moment, from the top of the picture. */
function Upright({ x, bottom, colour, wide }: { x: number; bottom: number; colour: string; wide: number }) {
  return <line x1={x} x2={x} y1={TOP} y2={bottom} stroke={colour} strokeWidth={wide} />;
}

function TimeAxis({ x, view, right }: { x: Scale; view: TimeWindow; right: number }) {
  const ticks = timeTicks(view.from, view.to, Math.max(3, Math.round((right - SOUND_LEFT) / 100)));
  const foot = LEVEL_TOP + LEVELS;
  return ticks.map(({ time, words }) => (
    <g key={time}>
      <line x1={x(time)} x2={x(time)} y1={foot} y2={foot + 5} stroke="var(--rule-strong)" />
      <text className="quiet" x={x(time)} y={HEIGHT - 8} textAnchor="middle">
        {words}
      </text>
    </g>
  ));
}

/** A window over both lanes, with its number above. */
function WindowShade({
  window: { from, to, words, tone },
  chosen,
  x,
}: {
  window: ShownWindow;
  chosen: boolean;
  x: (time: number) => number;
}) {
  const [start, wide] = [x(from), Math.max(2, x(to) - x(from))];
  return (
    <g>
      <rect
        x={start}
        y={TOP}
        width={wide}
        height={WAVE + GAP + LEVELS}
        fill={FILLS[tone]}
        stroke={tone === 'none' ? 'var(--rule-strong)' : 'none'}
        strokeDasharray="3 3"
      />
      <text className={chosen ? 'strong' : 'quiet'} x={start + wide / 2} y={TOP - 7} textAnchor="middle">
        {words}
      </text>
    </g>
  );
}

/** Full scale, where it is seen, and silence. */
function WaveAxis({ y, peak, right }: { y: (value: number) => number; peak: number; right: number }) {
  const lines = [0, ...(peak > 0.9 ? [-1, 1] : [])].filter((value) => Math.abs(value) <= peak);
  return lines.map((value) => (
    <g key={value}>
      <line x1={SOUND_LEFT} x2={right} y1={y(value)} y2={y(value)} stroke="var(--rule)" />
      <text className="quiet" x={SOUND_LEFT - 8} y={y(value) + 4} textAnchor="end">
        {value === 0 ? '0' : 'full'}
      </text>
    </g>
  ));
}

function LevelAxis({
  y,
  scale: { addDb, unit },
  right,
}: {
  y: Scale;
  scale: SoundPictureProps['scale'];
  right: number;
}) {
  const [low = 0, high = 0] = y.domain();
  const ticks = scaleLinear()
    .domain([low + addDb, high + addDb])
    .ticks(5);
  return (
    <>
      {ticks.map((tick) => (
        <g key={tick}>
          <line x1={SOUND_LEFT} x2={right} y1={y(tick - addDb)} y2={y(tick - addDb)} stroke="var(--rule)" />
          <text className="quiet" x={SOUND_LEFT - 8} y={y(tick - addDb) + 4} textAnchor="end">
            {formatPlain(tick)}
          </text>
        </g>
      ))}
      <text className="quiet" x={SOUND_LEFT - 8} y={LEVEL_TOP - 3} textAnchor="end">
        {unit}
      </text>
    </>
  );
}
