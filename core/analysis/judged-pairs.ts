import { countOf } from '../compare/elsewhere.ts';
import type { Comparison } from '../compare/method.ts';
import type { Sample } from '../compare/sample.ts';
import { verdictOf } from '../compare/verdict.ts';
import { readingsToSettle } from '../rank/readings-to-settle.ts';
import { roundingVariance } from '../summary/step.ts';
import type { AnalysedPair, CompareOptions } from './compare-screened.ts';

/** The verdict of each pair, and how many more readings an open one is likely to take. */
export function judgePairs(
  samples: readonly Sample[],
  { pairs, criticalAt: planned }: Comparison,
  located: readonly number[],
  {
    better,
    margin,
    pairAlpha,
    step,
    exact = false,
    accuracy,
  }: Omit<CompareOptions, 'margin' | 'pairAlpha'> & { margin: number; pairAlpha: number },
): AnalysedPair[] {
  const rounding = exact ? 0 : 2 * roundingVariance(step);
  return pairs.map((pair): AnalysedPair => {
    const counts = [countOf(samples[pair.a] as Sample), countOf(samples[pair.b] as Sample)] as const;
    const means = [located[pair.a] as number, located[pair.b] as number] as const;
    const verdict = verdictOf({
      pair,
      means,
      counts,
      better,
      margin,
      alpha: pairAlpha,
      rounding,
      exact,
      accuracy: accuracy?.(Math.max(Math.abs(means[0]), Math.abs(means[1]))),
    });
    const unsettled =
      verdict.verdict === 'not settled' &&
      better.kind !== 'unranked' &&
      pair.variance !== null &&
      planned !== undefined;
    return {
      ...pair,
      ...verdict,
      moreReadings: unsettled
        ? readingsToSettle({
            difference: verdict.lead,
            margin,
            variance: pair.variance as number,
            fixed: pair.fixed,
            rounding,
            criticalAt: planned,
            readings: Math.min(...counts),
          })
        : undefined,
    };
  });
}
