import { AS_SD, FAR, slipQuestion } from '../bench/slip.ts';
import type { Observation } from '../observations/observation.ts';
import { formatReading, withUnit } from '../quantity/format.ts';
import { quantile, sorted } from '../summary/quantile.ts';
import { COMMON, type Inspection, fact } from './inspection.ts';

/** Fewer readings beside one say too little to call it a slip. */
const FEWEST = 3;

/** With fewer readings of an item each is held against the others, and nothing is saved by asking less. */
const MANY = 50;

/**
 * Whether a reading can lie far from all others of its cell, so that it is worth holding it against them. Without it the
 * median moves by less than the gap g of the three in the middle, and more than half of the others lie farther from that
 * than q − g, q the 0.4 quantile of all distances; what is nearer than that allows is far from nothing.
 */
export function mayBeFar(values: readonly number[]): (value: number) => boolean {
  if (values.length < MANY) return () => true;
  const ascending = sorted(values);
  const middle = Math.floor((values.length - 1) / 2);
  const centre = quantile(ascending, 0.5);
  const gap = (ascending[middle + 2] as number) - (ascending[middle - 1] as number);
  const distances = sorted(values.map((value) => Math.abs(value - centre)));
  const least = FAR * AS_SD * Math.max(0, quantile(distances, 0.4) - gap) - gap;
  return (value) => Math.abs(value - centre) > least;
}

/** A reading that counts and would fit well with its point moved or two of its digits swapped. */
export const digitSlip: Inspection = ({ measurands, items }) =>
  measurands.flatMap(({ measurand, cells, step, derived, untested }) => {
    if (derived || untested) return [];
    const all = cells.flatMap(({ kept }) => kept.map(({ value }) => value as number));
    return cells.flatMap(({ itemId, kept }) => {
      if (kept.length <= FEWEST) return [];
      const values = kept.map(({ value }) => value as number);
      const itemName = items.get(itemId)?.name ?? '';
      const far = mayBeFar(values);
      // Equal readings stand among the same others.
      const asked = new Map<number, ReturnType<typeof slipQuestion>>();
      const slipOf = (value: number, place: number) => {
        if (!far(value)) return undefined;
        if (!asked.has(value)) {
          const slip = slipQuestion(value, {
            unit: measurand.unit,
            limits: { low: null, high: null },
            resolution: step > 0 ? step : null,
            ofItem: values.filter((_, other) => other !== place),
            all,
            itemName,
          });
          asked.set(value, slip);
        }
        return asked.get(value);
      };
      return kept.flatMap((observation: Observation, place) => {
        const { use, id, round } = observation;
        if (use.is === 'kept' && use.insisted !== undefined) return [];
        const value = values[place] as number;
        const slip = slipOf(value, place);
        if (slip?.kind !== 'decimal point' && slip?.kind !== 'digits swapped') return [];
        return [
          fact({
            id: `digit slip/${id}`,
            kind: 'digit slip',
            measurandId: measurand.id,
            message: `${itemName}, round ${String(round)}: ${withUnit(formatReading(value), measurand.unit)} may have ${slip.kind === 'decimal point' ? 'its decimal point moved' : 'two digits swapped'}${slip.suggestion === undefined ? '' : `; ${withUnit(formatReading(slip.suggestion), measurand.unit)} would fit`}.`,
            why: 'It lies far from the item’s other readings and counts all the same.',
            todo: 'Look it up in your notes; leave it out with a reason, or keep it with one.',
            source: COMMON,
            method: 'digit-slip',
            readingIds: [id],
          }),
        ];
      });
    });
  });
