import type { Static } from 'typebox';
import type { Instrument } from '../model/parts.ts';

type Stated = Pick<Static<typeof Instrument>, 'resolution' | 'accuracyPercent' | 'accuracyConstant'>;

/**
 * Expanded uncertainty (k = 2) of one reading, from the instrument's resolution a (a/√12) and its stated accuracy
 * ±(p % + k) taken as a rectangle (/√3).
 * @param reading in the measurand's unit
 * @returns in the same unit; undefined when the instrument states neither
 * @source GUM, JCGM 100:2008, 4.3.7 and F.2.2.1
 * @example resolution 0.1 and nothing else: 2 · 0.1/√12 = 0.0577
 */
export function instrumentUncertainty(instrument: Stated, reading: number): number | undefined {
  const { resolution, accuracyPercent, accuracyConstant } = instrument;
  if (resolution === null && accuracyPercent === null && accuracyConstant === null) return undefined;
  const byResolution = (resolution ?? 0) / Math.sqrt(12);
  const halfWidth = ((accuracyPercent ?? 0) / 100) * Math.abs(reading) + (accuracyConstant ?? 0);
  return 2 * Math.hypot(byResolution, halfWidth / Math.sqrt(3));
}

/**
 * The same where the instrument states an accuracy. Its step alone says nothing of how well a reading repeats, so it
 * decides nothing between single readings.
 */
export const statedAccuracy = (instrument: Stated, reading: number): number | undefined =>
  instrument.accuracyPercent === null && instrument.accuracyConstant === null
    ? undefined
    : instrumentUncertainty(instrument, reading);
