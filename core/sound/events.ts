import { quantile, sorted } from '../summary/quantile.ts';
import type { TimeWindow } from '../trace/series.ts';
import { TRACK_STEP_S } from './track.ts';

/** So much over the background something begins, dB, unless it is said otherwise. */
export const USUAL_OVER = 10;
/** What stops for less than this, s, is still the same. */
export const USUAL_APART_S = 0.5;
/** The background is what is exceeded in so much of the time. */
const BACKGROUND_SHARE = 0.9;
/** Room that is left between a sound and what is taken for its background, s. */
const [BEFORE_S, AFTER_S] = [0.1, 0.3];
/** How long a background is at least, and at most, s. */
const [SHORTEST_S, LONGEST_S] = [0.5, 5];

/** A stretch of a recording that is louder than its background. */
export interface SoundEvent extends TimeWindow {
  /** The highest level of its track, dB relative to full scale. */
  highest: number;
  /** The quiet stretch that is nearest to it; undefined where there is none in the whole recording. */
  background: TimeWindow | undefined;
}

/** The level of the background: what the track exceeds nearly all of the time. */
export const backgroundOf = (track: Float32Array): number =>
  quantile(sorted(Array.from(track)), 1 - BACKGROUND_SHARE);

const seconds = (place: number): number => Number((place * TRACK_STEP_S).toFixed(2));

/** Stretches over a threshold, as places in the track; what stops for less than `apart` places goes on. */
function loudStretches(track: Float32Array, threshold: number, apart: number) {
  const found: { first: number; last: number; highest: number }[] = [];
  for (let place = 0; place < track.length; place += 1) {
    const level = track[place] as number;
    if (level < threshold) continue;
    const before = found.at(-1);
    if (before && place - before.last <= apart) {
      before.last = place;
      before.highest = Math.max(before.highest, level);
    } else found.push({ first: place, last: place, highest: level });
  }
  return found;
}

/** The quiet stretches between loud ones, each as long as a background is at most, from its end. */
function quietStretches(loud: readonly TimeWindow[], lengthS: number): TimeWindow[] {
  const ends = [-AFTER_S, ...loud.map(({ to }) => to)];
  const starts = [...loud.map(({ from }) => from), lengthS + BEFORE_S];
  return ends.flatMap((end, i) => {
    const [from, to] = [end + AFTER_S, (starts[i] as number) - BEFORE_S];
    return to - from >= SHORTEST_S ? [{ from: Math.max(from, to - LONGEST_S), to }] : [];
  });
}

/**
 * Finds what is louder than a threshold: each thing from its onset to where it stops, with the quiet stretch nearest to it.
 * @param track levels as TrackMeter gives them, dB
 * @param threshold dB, as the track
 * @param apartS what stops for less than this is still the same
 */
export function findEvents(track: Float32Array, threshold: number, apartS: number): SoundEvent[] {
  const loud = loudStretches(track, threshold, Math.round(apartS / TRACK_STEP_S)).map(
    ({ first, last, highest }) => ({ from: seconds(first), to: seconds(last + 1), highest }),
  );
  const quiet = quietStretches(loud, seconds(track.length)).map(({ from, to }) => ({
    from: Number(from.toFixed(2)),
    to: Number(to.toFixed(2)),
  }));
  return loud.map((event) => ({ ...event, background: nearestQuiet(event, quiet) }));
}

/** The quiet stretch that is nearest in time to a window. */
export function nearestQuiet({ from, to }: TimeWindow, quiet: readonly TimeWindow[]): TimeWindow | undefined {
  const away = (stretch: TimeWindow) => Math.max(from - stretch.to, stretch.from - to);
  return [...quiet].sort((a, b) => away(a) - away(b))[0];
}

/** What comes of a level in a background. */
export type Corrected =
  { level: number; correction: number; differs: number } | { problem: string; differs: number };

/** Above the first difference nothing is taken off, below the second nothing is sure, dB. */
const [CLEAR, UNSURE] = [15, 6];

/**
 * A level with the background taken off by energy.
 * @source ISO 3744:2010, 8.2.3 (from memory): K₁ = −10·lg(1 − 10^(−0.1·ΔL)) where ΔL is from 6 to 15 dB, nothing above
 */
export function withoutBackground(level: number, background: number): Corrected {
  const differs = level - background;
  if (differs > CLEAR) return { level, correction: 0, differs };
  if (!(differs >= UNSURE)) {
    return {
      differs,
      problem: `It lies only ${Math.max(0, differs).toFixed(1)} dB over the background: too little to take that off (ISO 3744 asks for ${String(UNSURE)} dB).`,
    };
  }
  const correction = -10 * Math.log10(1 - 10 ** (-0.1 * differs));
  return { level: level - correction, correction, differs };
}
