import { slipQuestion } from '../bench/slip.ts';
import { formatReading, withUnit } from '../quantity/format.ts';
import { COMMON, type Inspection, fact } from './inspection.ts';

/** Fewer readings beside one say too little to call it a slip. */
const FEWEST = 3;

/** A reading that counts and would fit well with its point moved or two of its digits swapped. */
export const digitSlip: Inspection = ({ measurands, items }) =>
  measurands.flatMap(({ measurand, cells, step, derived, untested }) => {
    if (derived || untested) return [];
    const all = cells.flatMap(({ kept }) => kept.map(({ value }) => value as number));
    return cells.flatMap(({ itemId, kept }) =>
      kept.flatMap((observation, i) => {
        if (
          kept.length <= FEWEST ||
          (observation.use.is === 'kept' && observation.use.insisted !== undefined)
        )
          return [];
        const slip = slipQuestion(observation.value as number, {
          unit: measurand.unit,
          limits: { low: null, high: null },
          resolution: step > 0 ? step : null,
          own: kept.filter((_, other) => other !== i).map(({ value }) => value as number),
          all,
          itemName: items.get(itemId)?.name ?? '',
        });
        if (slip?.kind !== 'decimal point' && slip?.kind !== 'digits swapped') return [];
        return [
          fact({
            id: `digit slip/${observation.id}`,
            kind: 'digit slip',
            measurandId: measurand.id,
            message: `${items.get(itemId)?.name ?? ''}, round ${String(observation.round)}: ${withUnit(formatReading(observation.value as number), measurand.unit)} may have ${slip.kind === 'decimal point' ? 'its decimal point moved' : 'two digits swapped'}${slip.suggestion === undefined ? '' : `; ${withUnit(formatReading(slip.suggestion), measurand.unit)} would fit`}.`,
            why: 'It lies far from the item’s other readings and counts all the same.',
            todo: 'Look it up in your notes; leave it out with a reason, or keep it with one.',
            source: COMMON,
            readingIds: [observation.id],
          }),
        ];
      }),
    );
  });
