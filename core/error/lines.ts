import { tQuantileUpper } from '../distributions/index.ts';
import { normalQuantileUpper } from '../distributions/normal.ts';
import { moments } from '../summary/moments.ts';
import { median, sorted } from '../summary/quantile.ts';
import type { Pair } from './agreement.ts';

/** A line of what is indicated against the reference, with intervals where they can be given. */
export interface MethodLine {
  slope: number;
  intercept: number;
  slopeInterval: readonly [number, number] | null;
  interceptInterval: readonly [number, number] | null;
}

function demingOf(pairs: readonly Pair[], ratio: number): { slope: number; intercept: number } | undefined {
  const x = moments(pairs.map(({ reference }) => reference));
  const y = moments(pairs.map(({ indicated }) => indicated));
  let sxy = 0;
  for (const { reference, indicated } of pairs) sxy += (reference - x.mean) * (indicated - y.mean);
  if (sxy === 0) return undefined;
  const difference = y.sumOfSquares - ratio * x.sumOfSquares;
  const slope = (difference + Math.sqrt(difference ** 2 + 4 * ratio * sxy ** 2)) / (2 * sxy);
  return { slope, intercept: y.mean - slope * x.mean };
}

/**
 * Deming's line: both the reference and what is indicated have errors. Intervals by the jackknife.
 * @param ratio variance of the errors of what is indicated over that of the reference
 * @returns undefined below three pairs, or where nothing varies together
 * @source Deming (1943), Statistical Adjustment of Data; jackknife: Linnet (1990), Statistics in Medicine 9
 */
export function deming(pairs: readonly Pair[], alpha: number, ratio = 1): MethodLine | undefined {
  const n = pairs.length;
  const line = n < 3 ? undefined : demingOf(pairs, ratio);
  if (!line) return undefined;
  const without = pairs.map((_, left) =>
    demingOf(
      pairs.filter((__, i) => i !== left),
      ratio,
    ),
  );
  const interval = (name: 'slope' | 'intercept'): readonly [number, number] | null => {
    if (n < 4 || without.some((fit) => fit === undefined)) return null;
    const pseudo = without.map((fit) => n * line[name] - (n - 1) * (fit as typeof line)[name]);
    const { mean, sumOfSquares } = moments(pseudo);
    const half = tQuantileUpper(alpha / 2, n - 2) * Math.sqrt(sumOfSquares / (n - 1) / n);
    return [mean - half, mean + half];
  };
  return { ...line, slopeInterval: interval('slope'), interceptInterval: interval('intercept') };
}

/** More pairs than this are not compared each with each. */
const MOST_PAIRS = 1500;

/**
 * Passing and Bablok's line: the shifted median of all slopes between two pairs, untouched by a few outliers.
 * @returns undefined below three pairs, above 1,500, or without two different references
 * @source Passing and Bablok (1983), Journal of Clinical Chemistry and Clinical Biochemistry 21
 */
export function passingBablok(pairs: readonly Pair[], alpha: number): MethodLine | undefined {
  const n = pairs.length;
  if (n < 3 || n > MOST_PAIRS) return undefined;
  const slopes: number[] = [];
  let below = 0;
  for (let i = 0; i < n; i += 1) {
    for (let j = i + 1; j < n; j += 1) {
      const [a, b] = [pairs[i] as Pair, pairs[j] as Pair];
      const [dx, dy] = [b.reference - a.reference, b.indicated - a.indicated];
      if (dx === 0 && dy === 0) continue;
      const slope = dx === 0 ? Math.sign(dy) * Number.MAX_VALUE : dy / dx;
      if (slope === -1) continue;
      if (slope < -1) below += 1;
      slopes.push(slope);
    }
  }
  const count = slopes.length;
  if (count === 0) return undefined;
  slopes.sort((a, b) => a - b);
  const slopeAt = (place: number) => slopes[Math.min(count, Math.max(1, place)) - 1] as number;
  const slope =
    count % 2 === 1
      ? slopeAt((count + 1) / 2 + below)
      : (slopeAt(count / 2 + below) + slopeAt(count / 2 + 1 + below)) / 2;
  const interceptAt = (taken: number) =>
    median(sorted(pairs.map(({ reference, indicated }) => indicated - taken * reference)));
  const c = normalQuantileUpper(alpha / 2) * Math.sqrt((n * (n - 1) * (2 * n + 5)) / 18);
  const m1 = Math.round((count - c) / 2);
  const slopeInterval = [slopeAt(m1 + below), slopeAt(count - m1 + 1 + below)] as const;
  return {
    slope,
    intercept: interceptAt(slope),
    slopeInterval,
    interceptInterval: [interceptAt(slopeInterval[1]), interceptAt(slopeInterval[0])],
  };
}
