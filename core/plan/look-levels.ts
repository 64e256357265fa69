import { turningPoint } from '../distributions/halving.ts';
import { normalQuantileUpper, normalUpper } from '../distributions/normal.ts';
import type { Looks } from '../model/study.ts';

/** Points on each side of the middle at which the density of the running sum is kept, and how far out it reaches. */
const HALF_POINTS = 150;
const REACH = 8;

const density = (z: number) => Math.exp(-0.5 * z * z) / Math.sqrt(2 * Math.PI);

/** The running sum of a study that has not crossed a bound yet: its density at points of the sum, by Simpson's rule. */
interface Running {
  points: Float64Array;
  /** Weight of each point times the density there. */
  mass: Float64Array;
}

function grid(bound: number): { points: Float64Array; weights: Float64Array } {
  const half = Math.min(bound, REACH);
  const count = 2 * HALF_POINTS + 1;
  const step = half / HALF_POINTS;
  const points = Float64Array.from({ length: count }, (_, i) => (i - HALF_POINTS) * step);
  const weights = Float64Array.from({ length: count }, (_, i) =>
    i === 0 || i === count - 1 ? step / 3 : ((i % 2 === 1 ? 4 : 2) * step) / 3,
  );
  return { points, weights };
}

/** Chance that the sum crosses ±bound·√t at the look with information t, having crossed at none before. */
function crossing(running: Running | undefined, before: number, t: number, bound: number): number {
  if (!running) return 2 * normalUpper(bound);
  const spread = Math.sqrt(t - before);
  const limit = bound * Math.sqrt(t);
  let chance = 0;
  running.points.forEach((point, i) => {
    chance +=
      (running.mass[i] as number) *
      (normalUpper((limit - point) / spread) + normalUpper((limit + point) / spread));
  });
  return chance;
}

/** The running sum behind a look at which it did not cross. */
function goOn(running: Running | undefined, before: number, t: number, bound: number): Running {
  const root = Math.sqrt(t);
  const { points, weights } = grid(bound);
  const sums = points.map((z) => z * root);
  const spread = Math.sqrt(t - before);
  const mass = weights.map((weight, i) => {
    const sum = sums[i] as number;
    if (!running) return weight * density(points[i] as number);
    let here = 0;
    running.points.forEach((point, j) => {
      here += ((running.mass[j] as number) * density((sum - point) / spread)) / spread;
    });
    return weight * root * here;
  });
  return { points: sums, mass };
}

/**
 * Chance of a false winner when the ranking is read several times, each time at its own level, and the first one that
 * is settled is believed.
 * @param fractions information at each look, ascending, 0 < t ≤ 1: readings taken over readings planned
 * @param levels two-sided level of each look
 * @source Armitage, McPherson and Rowe (1969), Journal of the Royal Statistical Society A 132: recursive integration
 */
export function chanceOverLooks(fractions: readonly number[], levels: readonly number[]): number {
  let running: Running | undefined;
  let before = 0;
  let chance = 0;
  fractions.forEach((t, look) => {
    const bound = normalQuantileUpper((levels[look] as number) / 2);
    chance += crossing(running, before, t, bound);
    running = goOn(running, before, t, bound);
    before = t;
  });
  return chance;
}

/**
 * The share of alpha that a plan has spent by the time that a share of the readings is in. Each side spends its half.
 * @source Lan and DeMets (1983), Biometrika 70: “late” is like O'Brien and Fleming (1979), “even” like Pocock (1977)
 */
export const spent = (alpha: number, t: number, spending: Looks['spending']): number =>
  t >= 1
    ? alpha
    : spending === 'late'
      ? 4 * normalUpper(normalQuantileUpper(alpha / 4) / Math.sqrt(t))
      : alpha * Math.log(1 + (Math.E - 1) * t);

/**
 * The level at which the ranking is read at each planned look, so that all of them together call a false winner in no
 * more than alpha of studies.
 * @param fractions information at each look, ascending, 0 < t ≤ 1
 * @returns two-sided levels, one a look
 * @source Lan and DeMets (1983), Biometrika 70
 * @example lookLevels([0.5, 0.75, 1], 0.05, 'late') // [0.00305, 0.0183, 0.0441]
 */
export function lookLevels(
  fractions: readonly number[],
  alpha: number,
  spending: Looks['spending'],
): number[] {
  let running: Running | undefined;
  let before = 0;
  let already = 0;
  return fractions.map((t) => {
    const aim = spent(alpha, t, spending) - already;
    const isCrossedTooOften = (bound: number) => crossing(running, before, t, bound) > aim;
    const bound = turningPoint(0, REACH, isCrossedTooOften, 1e-10);
    running = goOn(running, before, t, bound);
    already += aim;
    before = t;
    return 2 * normalUpper(bound);
  });
}
