import { useState } from 'react';
import type { Observation } from '../../../core/observations/observation.ts';
import { isDerived } from '../../../core/observations/observation.ts';
import type { Item, Session } from '../../../core/model/parts.ts';
import { counted } from '../../../core/quantity/format.ts';
import { Button } from '../../ui/button.tsx';
import { Choice } from '../../ui/choice.tsx';
import { Dialog, DialogActions } from '../../ui/dialog.tsx';
import { TextField } from '../../ui/text-field.tsx';
import { clockTime, dayAndTime } from '../../ui/when.ts';

/** Readings that go out together. */
interface Batch {
  key: string;
  label: string;
  ids: string[];
}

/** What can be left out in one go: a round, a session, all before or behind the chosen reading, or one item of it. */
export function batches(
  readings: readonly Observation[],
  sessions: readonly Session[],
  items: ReadonlyMap<string, Item>,
  chosen: Observation | undefined,
): Batch[] {
  const counting = readings.filter((reading) => reading.use.is === 'kept' && !isDerived(reading));
  const batch = (key: string, label: string, holds: (reading: Observation) => boolean): Batch[] => {
    const ids = counting.filter(holds).map(({ id }) => id);
    return ids.length > 0 ? [{ key, label: `${label}: ${counted(ids.length, 'reading')}`, ids }] : [];
  };
  const rounds = [...new Set(counting.map(({ round }) => round))].sort((a, b) => a - b);
  const seen = new Set(counting.map(({ sessionId }) => sessionId));
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
    ...rounds.flatMap((round) =>
      batch(`round ${String(round)}`, `Round ${String(round)}`, (reading) => reading.round === round),
    ),
    ...sessions
      .filter(({ id }) => seen.has(id))
      .flatMap(({ id, startedAt }) =>
        batch(
          `session ${id}`,
          `The session of ${dayAndTime(startedAt)}`,
          ({ sessionId }) => sessionId === id,
        ),
      ),
  ];
}

/** Leaves many readings out by hand, for one reason. */
export function SeveralOut({
  offered,
  onClose,
  onReason,
}: {
  offered: readonly Batch[];
  onClose: () => void;
  onReason: (ids: readonly string[], reason: string) => void;
}) {
  const [key, setKey] = useState(offered[0]?.key ?? '');
  const [reason, setReason] = useState('');
  const [problem, setProblem] = useState<string>();
  const batch = offered.find((one) => one.key === key);
  const finish = () => {
    if (reason.trim() === '') setProblem('Give a reason: the report will show it.');
    else if (batch) onReason(batch.ids, reason.trim());
  };
  return (
    <Dialog title="Leave several out" isOpen onClose={onClose}>
      <Choice
        label="Which"
        value={key}
        options={offered.map((one) => ({ value: one.key, label: one.label }))}
        onChange={setKey}
      />
      <TextField
        label="Why they do not count"
        value={reason}
        onChange={(text) => {
          setReason(text);
          setProblem(undefined);
        }}
        problem={problem}
        placeholder="What went wrong"
        help="They stay in the record, hollow, and can be taken back together."
        maxLength={300}
        onEnter={finish}
      />
      <DialogActions>
        <Button tone="quiet" onPress={onClose}>
          Not now
        </Button>
        <Button tone="go" onPress={finish}>
          Leave {counted(batch?.ids.length ?? 0, 'reading')} out
        </Button>
      </DialogActions>
    </Dialog>
  );
}
