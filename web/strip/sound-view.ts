import type { TimeWindow } from '../../core/trace/series.ts';

/** The shortest stretch that a picture shows, s: a few samples. */
const SHORTEST_S = 0.0005;

/** A stretch as it is, moved into the recording where it does not lie within. */
function within({ from, to }: TimeWindow, lengthS: number): TimeWindow {
  const span = Math.min(lengthS, Math.max(Math.min(SHORTEST_S, lengthS), to - from));
  const start = Math.min(Math.max(0, from), lengthS - span);
  return { from: start, to: start + span };
}

/** What is seen when it is zoomed by a factor around a moment: above 1 it comes nearer. */
export function zoomed(
  { from, to }: TimeWindow,
  factor: number,
  around: number,
  lengthS: number,
): TimeWindow {
  const span = (to - from) / factor;
  const share = to > from ? (around - from) / (to - from) : 0.5;
  return within({ from: around - share * span, to: around + (1 - share) * span }, lengthS);
}

/** What is seen when it is moved on by so many seconds. */
export const panned = ({ from, to }: TimeWindow, byS: number, lengthS: number): TimeWindow =>
  within({ from: from + byS, to: to + byS }, lengthS);

/** A window with some room on both sides. */
export const around = ({ from, to }: TimeWindow, lengthS: number): TimeWindow => {
  const room = Math.max(0.25 * (to - from), 0.05);
  return within({ from: from - room, to: to + room }, lengthS);
};
