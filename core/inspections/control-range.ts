import type { ExpectedRange } from '../model/parts.ts';
import { counted, formatPlain, withUnit } from '../quantity/format.ts';
import { moments } from '../summary/moments.ts';
import { type Inspection, fact } from './inspection.ts';

/** What is expected of a control, which has at least one end. */
const rangeWords = ({ low, high }: ExpectedRange, figure: (value: number) => string): string =>
  high === null
    ? `at least ${figure(low as number)}`
    : low === null
      ? `at most ${figure(high)}`
      : `${figure(low)} to ${figure(high)}`;

/** A control item read something else in a session than the plan expects of it. */
export const controlOutOfRange: Inspection = ({ document, measurands, items }) =>
  measurands.flatMap(({ measurand, cells }) =>
    measurand.controls.flatMap((expected) => {
      const { itemId, low, high } = expected;
      const item = items.get(itemId);
      if (item?.role !== 'control') return [];
      const read = cells.filter((cell) => cell.itemId === itemId).flatMap(({ kept }) => kept);
      const sessions = [...new Set(read.map(({ sessionId }) => sessionId))];
      const { name, unit, id } = measurand;
      const figure = (value: number) => withUnit(formatPlain(Number(value.toPrecision(4))), unit);
      return sessions.flatMap((sessionId) => {
        const kept = read.filter((observation) => observation.sessionId === sessionId);
        const { mean } = moments(kept.map(({ value }) => value as number));
        if ((low === null || mean >= low) && (high === null || mean <= high)) return [];
        const startedAt = document.sessions.find((session) => session.id === sessionId)?.startedAt;
        return [
          fact({
            id: `control out of range/${id}/${itemId}/${sessionId ?? ''}`,
            kind: 'control out of its range',
            measurandId: id,
            message: `${item.name} read ${figure(mean)} of ${name.toLowerCase()}${startedAt === undefined ? '' : ` in the session of ${startedAt.slice(0, 10)}`}, the mean of ${counted(kept.length, 'reading')}; ${rangeWords(expected, figure)} is expected.`,
            why: 'A control does not change. Where it reads something else, whatever was read in that session is in doubt: the instrument, the surroundings, or how it was read.',
            todo: 'Check the instrument and read the control again; leave the session out if it cannot be explained.',
            source: 'what the plan expects of the control',
            readingIds: kept.map((observation) => observation.id),
          }),
        ];
      });
    }),
  );
