import type { Observation, Use } from '../observations/observation.ts';
import { gaveWay } from '../record/record.ts';
import { meanOf } from '../summary/energy.ts';

type LeftOutUse = Extract<Use, { is: 'left out' }>;

/** What of the readings at a setting does not count. */
export interface LeftOut {
  /** In the order recorded. */
  readings: (Observation & { use: LeftOutUse })[];
  /**
   * By the id of each item of which screening leaves something out: its mean if that counted too. What gave way at the
   * bench, or cannot be set right, is in no mean.
   */
  meansWith: ReadonlyMap<string, number>;
}

const isLeftOut = (observation: Observation): observation is LeftOut['readings'][number] =>
  observation.use.is === 'left out';

/** Whether it is in no mean, with or without screening: it gave way at the bench, or cannot be set right. */
const isOutside = (use: Use): boolean => gaveWay(use) || (use.is === 'left out' && use.by === 'correction');

/** @param readings all but the withdrawn ones, in the order recorded */
export function leftOutOf(readings: readonly Observation[], average: 'energy' | undefined): LeftOut {
  const out = readings.filter(isLeftOut);
  const valuesOf = new Map<string, number[]>(
    out.flatMap(({ itemId, use }) => (gaveWay(use) ? [] : [[itemId, []]])),
  );
  if (valuesOf.size > 0)
    for (const { itemId, value, use } of readings)
      if (value !== null && !isOutside(use)) valuesOf.get(itemId)?.push(value);
  const means = [...valuesOf].flatMap(([itemId, values]): [string, number][] =>
    values.length > 0 ? [[itemId, meanOf(values, average)]] : [],
  );
  return { readings: out, meansWith: new Map(means) };
}
