import { type ReactNode, useState } from 'react';
import type { Observation } from '../../../core/observations/observation.ts';
import { isDerived } from '../../../core/observations/observation.ts';
import type { Item, Session } from '../../../core/model/parts.ts';
import { counted } from '../../../core/quantity/format.ts';
import { Choice } from '../../ui/choice.tsx';
import { clockTime } from '../../ui/when.ts';
import { LeaveOutDialog, type LeaveOutDialogProps } from './leave-out-dialog.tsx';
import { type SomeReadings, partsOf } from './some-readings.ts';

/** Readings that go out together. */
interface Batch {
  key: string;
  label: string;
  ids: string[];
}

/** Whether a reading counts, and can be left out by hand. */
export const canGoOut = (reading: Observation): boolean => reading.use.is === 'kept' && !isDerived(reading);

/** What can be left out in one go: a round, a session, all before or behind the chosen reading, or one item of it. */
export function batches(
  readings: readonly Observation[],
  sessions: readonly Session[],
  items: ReadonlyMap<string, Item>,
  chosen: Observation | undefined,
): Batch[] {
  const counting = readings.filter(canGoOut);
  const batchOf = ({ value, label, ids }: SomeReadings): Batch[] =>
    ids.length > 0 ? [{ key: value, label: `${label}: ${counted(ids.length, 'reading')}`, ids }] : [];
  const batch = (value: string, label: string, holds: (reading: Observation) => boolean): Batch[] =>
    batchOf({ value, label, ids: counting.filter(holds).map(({ id }) => id) });
  const parts = partsOf(counting, sessions);
  return [
    ...(chosen
      ? [
          ...batch(
            'before',
            `Everything before ${clockTime(chosen.takenAt)}, where the chosen one was taken`,
            ({ takenAt }) => takenAt < chosen.takenAt,
          ),
          ...batch(
            'behind',
            `Everything from ${clockTime(chosen.takenAt)} on`,
            ({ takenAt }) => takenAt >= chosen.takenAt,
          ),
          ...batch(
            'item',
            `${items.get(chosen.itemId)?.name ?? ''} as a whole`,
            ({ itemId }) => itemId === chosen.itemId,
          ),
        ]
      : []),
    ...parts.rounds.flatMap(batchOf),
    ...parts.sessions.flatMap(batchOf),
  ];
}

/** Leaves many readings out by hand, for one reason. */
export function SeveralOut({
  offered,
  preview,
  onLeaveOut,
  ...asking
}: Pick<LeaveOutDialogProps, 'studyId' | 'onClose'> & {
  offered: readonly Batch[];
  /** What leaving these out would change. */
  preview: (ids: readonly string[]) => ReactNode;
  onLeaveOut: (ids: readonly string[], reason: string) => void;
}) {
  const [chosen, setChosen] = useState('');
  // What was chosen may be left out by another hand meanwhile.
  const { key, ids } = offered.find((batch) => batch.key === chosen) ?? offered[0] ?? { key: '', ids: [] };
  return (
    <LeaveOutDialog
      {...asking}
      title="Leave several out"
      count={ids.length}
      readings={counted(ids.length, 'reading')}
      what={
        <>
          <Choice
            label="Which"
            value={key}
            options={offered.map(({ key: value, label }) => ({ value, label }))}
            onChange={setChosen}
          />
          {preview(ids)}
        </>
      }
      onLeaveOut={(reason) => {
        onLeaveOut(ids, reason);
      }}
    />
  );
}
