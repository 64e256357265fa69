import {
  type CSSProperties,
  type KeyboardEvent,
  type MouseEvent,
  type PointerEvent,
  useEffect,
  useEffectEvent,
  useId,
  useRef,
  useState,
} from 'react';
import styled from 'styled-components';
import { formatReading, withUnit } from '../../core/quantity/format.ts';
import { focusRing } from '../ui/tokens.ts';
import {
  type Domain,
  LANE_HEIGHT,
  type PlacedMark,
  type StripBand,
  type StripLane,
  nearestMark,
  shareAlong,
} from './layout.ts';
import { AXIS_HEIGHT, StripChart } from './strip-chart.ts';
import { useThemeChange } from './use-theme-change.ts';

/** What of a strip is on its canvas. */
export interface StripStageProps {
  /** What is shown, for readers: “Air speed, all readings by item”. */
  label: string;
  unit: string;
  lanes: readonly StripLane[];
  /** The margin around the leader, or another stretch to show. */
  band?: StripBand | undefined;
  /** Height of a lane in px. */
  laneHeight?: number;
  /** Reading to point out with a ring. */
  pointedId?: string | undefined;
  /** Called with the id of the reading that was chosen by click, tap or Enter. */
  onChoose?: (id: string) => void;
}

const Stage = styled.div`
  position: relative;
  min-width: 0;
  cursor: crosshair;
  touch-action: manipulation;
  &:focus-visible {
    ${focusRing}
    outline-offset: 0;
    border-radius: 2px;
  }
`;

const Ring = styled.div`
  position: absolute;
  width: 24px;
  height: 24px;
  margin: -12px 0 0 -12px;
  border: 2px solid var(--focus);
  border-radius: 50%;
  pointer-events: none;
`;

const HintBox = styled.div<{ $left: boolean }>`
  position: absolute;
  z-index: 2;
  transform: translate(${({ $left }) => ($left ? 'calc(-100% - 16px)' : '16px')}, -50%);
  padding: 4px 10px;
  border-radius: 6px;
  background: var(--ink);
  color: var(--sheet);
  font-size: var(--size-13);
  white-space: nowrap;
  pointer-events: none;
  max-width: 60vw;
  overflow: hidden;
  text-overflow: ellipsis;
`;

const BandLabel = styled.div`
  position: absolute;
  top: 2px;
  font-size: var(--size-13);
  color: var(--fern);
  white-space: nowrap;
  pointer-events: none;
  background: color-mix(in srgb, var(--sheet) 75%, transparent);
  border-radius: 4px;
  padding: 0 4px;
`;

const Hidden = styled.div`
  position: absolute;
  width: 1px;
  height: 1px;
  overflow: hidden;
  clip-path: inset(50%);
  white-space: nowrap;
`;

/** Beside the band, on the side with more room, so that it covers no mark of the leader. */
function bandLabelPlace(band: StripBand, domain: Domain): CSSProperties {
  const share = (value: number) => Math.min(1, Math.max(0, shareAlong(domain, value)));
  return share(band.from) > 1 - share(band.to)
    ? { right: `calc(${String(100 * (1 - share(band.from)))}% + 6px)` }
    : { left: `calc(${String(100 * share(band.to))}% + 6px)` };
}

function sentence(placed: PlacedMark, lanes: readonly StripLane[], unit: string): string {
  const lane = lanes[placed.lane];
  const value = withUnit(formatReading(placed.mark.value), unit);
  return `${lane?.name ?? ''}: ${value}, ${placed.mark.title}${placed.mark.out ? ', left out' : ''}`;
}

/** The chart on a canvas, drawn again when something of it changes; its marks are where it says. */
function useStripChart(
  drawn: { lanes: readonly StripLane[]; domain: Domain; band: StripBand | undefined } & {
    laneHeight: number;
    pointedId: string | undefined;
  },
  onMoved: () => void,
) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const chart = useRef<StripChart>(undefined);
  const moved = useEffectEvent(onMoved);
  useEffect(() => {
    if (!canvas.current) return undefined;
    const made = new StripChart(canvas.current, () => {
      moved();
    });
    chart.current = made;
    void document.fonts.ready.then(() => {
      if (chart.current === made) made.retint();
    });
    return () => {
      made.destroy();
      chart.current = undefined;
    };
  }, []);
  useThemeChange(() => {
    chart.current?.retint();
  });
  const { lanes, domain, band, laneHeight, pointedId } = drawn;
  useEffect(() => {
    chart.current?.update({ lanes, domain, band, laneHeight, pointedId });
  }, [lanes, domain, band, laneHeight, pointedId]);
  return [canvas, chart] as const;
}

/** Where a key leads from a mark, among the marks of all lanes; undefined where it leads nowhere. */
function markByKey(
  key: string,
  active: PlacedMark | undefined,
  placed: readonly (readonly PlacedMark[])[],
): PlacedMark | undefined {
  const within = (lane: number, index: number) => {
    const marks = placed[lane] ?? [];
    return marks[Math.min(marks.length - 1, Math.max(0, index))];
  };
  const inLane = (step: 1 | -1) => {
    const from = active ?? { lane: step === 1 ? -1 : placed.length, x: 0 };
    for (let lane = from.lane + step; lane >= 0 && lane < placed.length; lane += step) {
      const distances = (placed[lane] ?? []).map(({ x }) => Math.abs(x - from.x));
      if (distances.length > 0) return within(lane, distances.indexOf(Math.min(...distances)));
    }
    return undefined;
  };
  const lane = active?.lane ?? placed.findIndex((marks) => marks.length > 0);
  const place = active ? (placed[lane] ?? []).findIndex(({ mark }) => mark.id === active.mark.id) : -1;
  switch (key) {
    case 'ArrowRight':
      return within(lane, place + 1);
    case 'ArrowLeft':
      return within(lane, place - 1);
    case 'ArrowDown':
      return inLane(1);
    case 'ArrowUp':
      return inLane(-1);
    case 'Home':
      return within(lane, 0);
    default:
      return within(lane, Number.MAX_SAFE_INTEGER);
  }
}

const MOVING_KEYS: readonly string[] = ['ArrowRight', 'ArrowLeft', 'ArrowDown', 'ArrowUp', 'Home', 'End'];

/** The ring about a mark, and what it is. */
function Pointed({ mark, domain, words }: { mark: PlacedMark; domain: Domain; words: string }) {
  return (
    <>
      <Ring style={{ left: mark.x, top: mark.y }} />
      <HintBox
        $left={shareAlong(domain, mark.mark.value) > 0.5}
        style={{ left: mark.x, top: mark.y }}
        aria-hidden
      >
        {words}
      </HintBox>
    </>
  );
}

type Pointing = MouseEvent<HTMLDivElement> | PointerEvent<HTMLDivElement>;

/** The mark that is pointed at; a finger points less exactly. */
function markUnder(event: Pointing, placed: StripChart['placed'], laneHeight: number) {
  const box = event.currentTarget.getBoundingClientRect();
  const touched = 'pointerType' in event && event.pointerType === 'touch';
  const [x, y] = [event.clientX - box.left, event.clientY - box.top];
  return nearestMark(placed, x, y, laneHeight, touched ? 28 : 16);
}

/** The canvas with what is pointed at, by pointer or by keys. */
export function StripStage({ of, domain }: { of: StripStageProps; domain: Domain }) {
  const { label, unit, lanes, band, laneHeight = LANE_HEIGHT, pointedId, onChoose } = of;
  const [active, setActive] = useState<PlacedMark>();
  const [byKey, setByKey] = useState(false);
  const optionId = useId();
  const [canvas, chart] = useStripChart({ lanes, domain, band, laneHeight, pointedId }, () => {
    setActive(undefined);
  });
  const onPointer = (event: Pointing) => {
    const found = markUnder(event, chart.current?.placed ?? [], laneHeight);
    if (found?.mark.id !== active?.mark.id) setActive(found);
    setByKey(false);
    return found;
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (MOVING_KEYS.includes(event.key)) {
      const next = markByKey(event.key, active, chart.current?.placed ?? []);
      if (next) {
        setByKey(true);
        setActive(next);
      }
    } else if ((event.key === 'Enter' || event.key === ' ') && active) onChoose?.(active.mark.id);
    else if (event.key === 'Escape' && active) setActive(undefined);
    else return;
    event.preventDefault();
  };
  const words = active ? sentence(active, lanes, unit) : 'No reading chosen. Use the arrow keys.';
  return (
    <Stage
      role="listbox"
      tabIndex={0}
      aria-label={label}
      aria-activedescendant={optionId}
      onKeyDown={onKeyDown}
      onPointerMove={onPointer}
      onPointerLeave={() => {
        if (!byKey) setActive(undefined);
      }}
      onClick={(event) => {
        const found = onPointer(event);
        if (found) onChoose?.(found.mark.id);
      }}
      style={{ height: lanes.length * laneHeight + AXIS_HEIGHT }}
      data-strip
    >
      <canvas ref={canvas} aria-hidden />
      {band && <BandLabel style={bandLabelPlace(band, domain)}>{band.label}</BandLabel>}
      {active && <Pointed mark={active} domain={domain} words={words} />}
      <Hidden role="option" id={optionId} aria-selected={Boolean(active)}>
        {words}
      </Hidden>
    </Stage>
  );
}
