import type { Observation } from '../observations/observation.ts';
import { gaveWay } from '../record/record.ts';
import { meanOf } from '../summary/energy.ts';

/** What of the readings at a setting does not count. */
export interface LeftOut {
  /** In the order recorded. */
  readings: Observation[];
  /**
   * By the id of each item of which screening leaves something out: its mean if that counted too. What gave way at the
   * bench, or cannot be set right, is in no mean.
   */
  meansWith: ReadonlyMap<string, number>;
}

const isUncorrected = (use: Observation['use']) => use.is === 'left out' && use.by === 'correction';

/** @param readings all but the withdrawn ones, in the order recorded */
export function leftOutOf(readings: readonly Observation[], average: 'energy' | undefined): LeftOut {
  const out = readings.filter(({ use }) => use.is === 'left out');
  const valuesOf = new Map<string, number[]>(
    out.flatMap(({ itemId, use }) => (gaveWay(use) ? [] : [[itemId, []]])),
  );
  if (valuesOf.size > 0)
    for (const { itemId, value, use } of readings)
      if (value !== null && !gaveWay(use) && !isUncorrected(use)) valuesOf.get(itemId)?.push(value);
  const means = [...valuesOf].flatMap(([itemId, values]): [string, number][] =>
    values.length > 0 ? [[itemId, meanOf(values, average)]] : [],
  );
  return { readings: out, meansWith: new Map(means) };
}
