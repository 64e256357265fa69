import type { Measurand, ReadingPart } from '../model/parts.ts';
import { type NamedInterval, countedInterval } from '../summary/counted.ts';
import { readingForm } from './index.ts';

/**
 * An interval for some readings of an item together, by the statistics of what they counted.
 * @param alpha 1 − coverage, 0 < alpha < 1
 * @returns ends in the unit of the measurand; undefined where the readings count nothing
 */
export function intervalOfCounts(
  readings: readonly (readonly ReadingPart[])[],
  measurand: Pick<Measurand, 'form' | 'unit' | 'settings'>,
  alpha: number,
): NamedInterval | undefined {
  const counted = readingForm(measurand.form)?.counted?.(readings, measurand);
  return counted && countedInterval(counted, alpha);
}

/** The interval of one reading: that of what it counted, or the one that came with it. */
export const intervalOfReading = (
  parts: readonly ReadingPart[],
  measurand: Pick<Measurand, 'form' | 'unit' | 'settings'>,
  alpha: number,
): NamedInterval | undefined =>
  intervalOfCounts([parts], measurand, alpha) ?? readingForm(measurand.form)?.interval?.(parts);
