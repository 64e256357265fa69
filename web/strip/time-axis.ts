import { spanText } from '../../core/quantity/clock.ts';

const [MINUTE, HOUR, DAY] = [60, 3600, 86400];
/** Steps that a clock has. */
const STEPS = [
  ...[0.001, 0.002, 0.005, 0.01, 0.02, 0.05, 0.1, 0.2, 0.5],
  ...[1, 2, 5, 10, 15, 30],
  ...[1, 2, 5, 10, 15, 30].map((minutes) => minutes * MINUTE),
  ...[1, 2, 3, 4, 6, 12].map((hours) => hours * HOUR),
  ...[1, 2, 5, 10, 20, 50, 100, 200, 500, 1000].map((days) => days * DAY),
];

/** Round times along an axis: about so many, each with its words. */
export function timeTicks(low: number, high: number, count: number): { time: number; words: string }[] {
  const wanted = (high - low) / Math.max(1, count);
  const step = STEPS.find((candidate) => candidate >= wanted * (1 - 1e-9)) ?? STEPS.at(-1) ?? DAY;
  const ticks: { time: number; words: string }[] = [];
  for (let i = Math.ceil(low / step - 1e-9); i * step <= high + 1e-9 * step; i += 1) {
    const time = Number((i * step).toFixed(3));
    const full = spanText(time);
    ticks.push({ time, words: step < MINUTE ? full : full.replace(/:00$/, '') });
  }
  return ticks;
}
