import isEqual from 'lodash/isEqual.js';
import type { Measurand } from '../model/parts.ts';
import {
  type Analysis,
  type CompareOptions,
  type ScreenedReadings,
  compareScreened,
} from './compare-screened.ts';

/** What was compared last, how, and what came of it. */
interface Compared {
  readings: readonly ScreenedReadings[];
  options: CompareOptions;
  analysis: Analysis;
}

/** Of each measurand, by what was compared and by which rule. */
const comparedLast = new WeakMap<Measurand, Map<string, Compared>>();

/** The same lists of values, as the same rule left them: of what has not changed they are the same objects. */
const isSameSample = (a: ScreenedReadings, b: ScreenedReadings | undefined): boolean =>
  a.item === b?.item &&
  a.values === b.values &&
  a.rounds === b.rounds &&
  a.screening === b.screening &&
  isEqual(a.doubts, b.doubts) &&
  isEqual(a.typed, b.typed);

/** What the instrument is accurate to follows from the measurand. */
const isAskedAlike = (a: CompareOptions, b: CompareOptions): boolean =>
  isEqual({ ...a, accuracy: undefined }, { ...b, accuracy: undefined });

/**
 * Compares readings of a measurand as compareScreened does, and what was compared last is not compared again: what a
 * tester is shown of a decision before it is made is the same as afterwards.
 * @param name of what is compared: of one name and rule the last is kept
 * @throws RangeError when a method is asked for that the readings do not allow
 */
export function comparedOnce(
  measurand: Measurand,
  name: string,
  readings: readonly ScreenedReadings[],
  options: CompareOptions,
): Analysis {
  const ofMeasurand = comparedLast.get(measurand) ?? new Map<string, Compared>();
  comparedLast.set(measurand, ofMeasurand);
  const key = `${options.rule.name}/${name}`;
  const last = ofMeasurand.get(key);
  if (
    last?.readings.length === readings.length &&
    readings.every((sample, i) => isSameSample(sample, last.readings[i])) &&
    isAskedAlike(options, last.options)
  )
    return last.analysis;
  const analysis = compareScreened(readings, options);
  ofMeasurand.set(key, { readings, options, analysis });
  return analysis;
}
