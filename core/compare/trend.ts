import type { LineSpread } from './line-interval.ts';
import { tQuantileUpper, tTwoSided } from '../distributions/index.ts';
import { normalQuantileUpper } from '../distributions/normal.ts';
import { moments } from '../summary/moments.ts';
import { ranks } from './ranks.ts';

/** How two quantities go together. */
export interface Correlation {
  r: number;
  /** Interval of Pearson's r by Fisher's transformation; null below four points. */
  interval: readonly [number, number] | null;
  p: number | null;
}

/** A straight line through points. */
export interface Line {
  slope: number;
  intercept: number;
  slopeSe: number | null;
  slopeInterval: readonly [number, number] | null;
  df: number;
  /** What the interval of the line is worked out from; null where it has none. */
  spread: LineSpread | null;
}

function crossProducts(x: ArrayLike<number>, y: ArrayLike<number>) {
  const [mx, my] = [moments(x), moments(y)];
  let sxy = 0;
  for (let i = 0; i < x.length; i += 1) sxy += ((x[i] as number) - mx.mean) * ((y[i] as number) - my.mean);
  return { mx, my, sxy };
}

/**
 * Pearson's correlation with Fisher's interval.
 * @param x points, any unit
 * @param y as many
 * @returns undefined below three points or without spread
 * @source Fisher (1921), Metron 1
 */
export function pearson(x: ArrayLike<number>, y: ArrayLike<number>, alpha: number): Correlation | undefined {
  const n = x.length;
  const { mx, my, sxy } = crossProducts(x, y);
  if (n < 3 || mx.sumOfSquares === 0 || my.sumOfSquares === 0) return undefined;
  const r = Math.max(-1, Math.min(1, sxy / Math.sqrt(mx.sumOfSquares * my.sumOfSquares)));
  const t = r * Math.sqrt((n - 2) / (1 - r * r));
  const half = normalQuantileUpper(alpha / 2) / Math.sqrt(n - 3);
  const z = Math.atanh(r);
  return {
    r,
    interval: n > 3 && Math.abs(r) < 1 ? [Math.tanh(z - half), Math.tanh(z + half)] : null,
    p: Math.abs(r) < 1 ? tTwoSided(t, n - 2) : 0,
  };
}

/**
 * Spearman's rank correlation; ties share their mean rank.
 * @source Spearman (1904), American Journal of Psychology 15
 */
export const spearman = (x: ArrayLike<number>, y: ArrayLike<number>): number | undefined => {
  const [rx, ry] = [ranks(x).ranks, ranks(y).ranks];
  const { mx, my, sxy } = crossProducts(rx, ry);
  if (x.length < 2 || mx.sumOfSquares === 0 || my.sumOfSquares === 0) return undefined;
  return sxy / Math.sqrt(mx.sumOfSquares * my.sumOfSquares);
};

/**
 * Kendall's τ-b, corrected for ties.
 * @source Kendall (1945), Biometrika 33
 */
export function kendallTauB(x: ArrayLike<number>, y: ArrayLike<number>): number | undefined {
  let [agree, untiedX, untiedY] = [0, 0, 0];
  for (let i = 1; i < x.length; i += 1) {
    for (let j = 0; j < i; j += 1) {
      const dx = Math.sign((x[i] as number) - (x[j] as number));
      const dy = Math.sign((y[i] as number) - (y[j] as number));
      agree += dx * dy;
      untiedX += Math.abs(dx);
      untiedY += Math.abs(dy);
    }
  }
  return untiedX === 0 || untiedY === 0 ? undefined : agree / Math.sqrt(untiedX * untiedY);
}

/**
 * Least-squares line with the interval of its slope.
 * @param lost degrees of freedom lost besides the slope: 1 for the intercept, more where groups were centred
 * @returns undefined where x has no spread
 * @source Gauss (1809); interval by Student's t
 */
export function leastSquares(
  x: ArrayLike<number>,
  y: ArrayLike<number>,
  alpha: number,
  lost = 1,
): Line | undefined {
  const { mx, my, sxy } = crossProducts(x, y);
  if (x.length < 2 || mx.sumOfSquares === 0) return undefined;
  const slope = sxy / mx.sumOfSquares;
  const df = x.length - 1 - lost;
  const residual = Math.max(0, my.sumOfSquares - slope * sxy);
  const slopeSe = df > 0 ? Math.sqrt(residual / df / mx.sumOfSquares) : null;
  const critical = tQuantileUpper(alpha / 2, Math.max(1, df));
  const half = slopeSe === null ? null : critical * slopeSe;
  return {
    slope,
    intercept: my.mean - slope * mx.mean,
    slopeSe,
    slopeInterval: half === null ? null : [slope - half, slope + half],
    df,
    spread:
      df > 0
        ? {
            ...{ n: x.length, meanX: mx.mean, sumOfSquaresX: mx.sumOfSquares },
            ...{ residual: Math.sqrt(residual / df), critical },
          }
        : null,
  };
}
