import { tQuantileUpper, tTwoSided } from '../distributions/index.ts';
import { rangeCritical, rangeUpper } from '../distributions/range.ts';
import { correctedP, levelOfEach } from '../distributions/several.ts';
import type { Contrast, PairDifference } from './method.ts';
import type { Location } from './sample.ts';

type Tested = Omit<PairDifference, 'a' | 'b' | 'difference' | 'variance' | 'fixed'>;

/** Standard error and degrees of freedom of a difference (Welch 1947; Satterthwaite 1946). */
export function welch(a: Location, b: Location): { se: number; df: number } {
  const variance = a.varianceOfMean + b.varianceOfMean;
  const denominator = a.varianceOfMean ** 2 / a.df + b.varianceOfMean ** 2 / b.df;
  return {
    se: Math.sqrt(variance),
    // Without any spread the readings say nothing on df; the pooled count stands in.
    df: denominator > 0 ? variance ** 2 / denominator : a.df + b.df,
  };
}

/** Interval and p of a difference where neither item shows any spread, nor has any step: the difference itself. */
const spreadless = (difference: number, df: number): Tested => ({
  se: 0,
  df,
  p: difference === 0 ? 1 : 0,
  low: difference,
  high: difference,
  critical: 0,
});

/** p and interval of a difference by Student's t, one of m. */
export function byT(difference: number, se: number, df: number, alpha: number, m: number): Tested {
  if (se === 0) return spreadless(difference, df);
  const critical = tQuantileUpper(levelOfEach(alpha, m) / 2, df);
  const half = critical * se;
  return {
    se,
    df,
    p: correctedP(tTwoSided(difference / se, df), m),
    low: difference - half,
    high: difference + half,
    critical,
  };
}

/** An estimate with the interval that its critical value gives. */
export const contrast = (estimate: number, se: number, critical: number): Contrast => ({
  estimate,
  se,
  low: estimate - critical * se,
  high: estimate + critical * se,
});

/** p and interval of a difference by the studentized range over all items. */
export function byRange(difference: number, se: number, df: number, items: number, alpha: number): Tested {
  if (se === 0) return spreadless(difference, df);
  if (items > 2 && df < 2) return { se, df, p: null, low: null, high: null, critical: null };
  const critical = rangeCritical(alpha, items, df);
  return {
    se,
    df,
    p: rangeUpper(difference / se, items, df),
    low: difference - critical * se,
    high: difference + critical * se,
    critical,
  };
}
