import { readingForm } from '../forms/index.ts';
import { waitsToBeWorkedOut } from '../forms/worked-out.ts';
import { recordOf } from '../record/record.ts';
import { counted, wordFor } from '../quantity/format.ts';
import { COMMON, type Inspection, fact } from './inspection.ts';

/** Readings from files that were worked out before their measurand was asked otherwise: they count as nothing. */
export const workedOutOtherwise: Inspection = ({ document, measurands }) =>
  measurands.flatMap(({ measurand }) => {
    const form = readingForm(measurand.form);
    if (!form?.how) return [];
    const waiting = recordOf(document).readings.flatMap(({ reading, standing }) => {
      const mine = reading.measurandId === measurand.id && standing.is === 'kept';
      return mine && waitsToBeWorkedOut(form, measurand, reading) ? [reading.id] : [];
    });
    if (waiting.length === 0) return [];
    return [
      fact({
        id: `worked out otherwise/${measurand.id}`,
        kind: 'worked out otherwise',
        measurandId: measurand.id,
        message: `${counted(waiting.length, 'reading')} of ${measurand.name} ${wordFor(waiting.length, 'was', 'were')} worked out from ${wordFor(waiting.length, 'its file', 'files')} before the plan asked for another value, and ${wordFor(waiting.length, 'counts', 'count')} as nothing now.`,
        why: 'Values of two kinds cannot be compared with each other.',
        todo: 'Work them out again at the bench, under the readings from files: files and windows are still there.',
        source: COMMON,
        readingIds: waiting,
      }),
    ];
  });
