import { changeWords, isLate } from '../record/change-words.ts';
import { COMMON, type Inspection, fact } from './inspection.ts';

/** The rule, the margin or the direction was changed once there were readings. */
export const changedLate: Inspection = ({ document }) =>
  document.changes
    .filter((change) => isLate(change) && ['rule', 'margin', 'direction', 'spec'].includes(change.field))
    .map((change) =>
      fact({
        id: `changed late/${change.id}`,
        kind: 'changed after the readings',
        measurandId: change.measurandId,
        message: `After the first reading: ${changeWords(change, document)}${change.reason === '' ? '' : ` (${change.reason})`}.`,
        why: 'What is chosen with the readings in view can be chosen for what it makes of them.',
        todo: 'Give the reason, and say in the report what the first choice would have shown.',
        source: COMMON,
        readingIds: [],
      }),
    );
