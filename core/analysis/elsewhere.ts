import { pairMethod } from '../compare/methods.ts';
import type { Sample } from '../compare/sample.ts';
import { listed, wordFor } from '../quantity/format.ts';
import { typedSummary } from '../summary/typed-summary.ts';
import type { CompareOptions, Remark, ScreenedReadings } from './compare-screened.ts';

/** Items that are known from elsewhere and were not read, with what is known of them. */
export function elsewhereOf(
  readings: readonly ScreenedReadings[],
  samples: readonly Sample[],
  { alpha, exact, ranksOnly, method }: CompareOptions,
  remarks: Remark[],
): { place: number; sample: Sample }[] {
  const found = readings.flatMap(({ item, typed }, i) => {
    const sample = samples[i] as Sample;
    if (typed === undefined || sample.kept.length > 0 || exact) return [];
    return [{ place: i, sample: { item, kept: sample.kept, summary: typedSummary(typed, alpha), typed } }];
  });
  if (found.length === 0) return found;
  const names = listed(found.map(({ sample }) => sample.item));
  if (ranksOnly || (method !== undefined && pairMethod(method).ranksOnly)) {
    remarks.push({
      about: 'comparison',
      text: `Ranks need the readings themselves, so ${names}, known from elsewhere, ${wordFor(found.length, 'is', 'are')} not compared.`,
    });
    return [];
  }
  remarks.push({
    about: 'comparison',
    text: `${names} ${wordFor(found.length, 'was', 'were')} not read here: what is known from elsewhere was typed in. It is compared by Welch’s t, a range by its ends, and what differed between there and here is in the differences.`,
  });
  return found;
}
