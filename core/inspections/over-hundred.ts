import { readingForm } from '../forms/index.ts';
import { counted, formatReading, withUnit } from '../quantity/format.ts';
import { COMMON, type Inspection, fact } from './inspection.ts';

/** More came out than went in. */
export const overHundred: Inspection = ({ measurands, items }) =>
  measurands.flatMap(({ measurand, observations }) => {
    if (!readingForm(measurand.form)?.isYield || measurand.expression !== null) return [];
    const over = observations.filter(({ value, use }) => use.is === 'kept' && value !== null && value > 100);
    const [worst] = [...over].sort((a, b) => (b.value as number) - (a.value as number));
    if (!worst) return [];
    return [
      fact({
        id: `yield over 100/${measurand.id}`,
        kind: 'yield over 100 %',
        measurandId: measurand.id,
        message: `${counted(over.length, 'yield')} over 100\u202f% in ${measurand.name}, the highest ${withUnit(formatReading(Number((worst.value as number).toPrecision(4))), '%')} of ${items.get(worst.itemId)?.name ?? ''}.`,
        why: 'More cannot come out than was fed: something was left from the item before, or a weight was misread.',
        todo: 'Look at what was fed and recovered; clean between items, and leave out what was misread.',
        source: COMMON,
        readingIds: over.map(({ id }) => id),
      }),
    ];
  });
