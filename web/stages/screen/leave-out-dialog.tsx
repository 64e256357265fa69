import { type ReactNode, type RefObject, useState } from 'react';
import { Button } from '../../ui/button.tsx';
import { DialogActions } from '../../ui/dialog.tsx';
import { Question } from '../../ui/question.tsx';
import { TextField } from '../../ui/text-field.tsx';

export interface LeaveOutDialogProps {
  /** The reading or readings, in words, or what chooses them. */
  what: ReactNode;
  title?: string;
  /** Names the readings on the button: “4 readings”. */
  readings?: string;
  /** How many they are. */
  count?: number;
  /** What was typed before and not used, and what is typed: it outlives the question. */
  typedRef: RefObject<string>;
  onClose: () => void;
  /** Takes the reason, which is not empty. */
  onLeaveOut: (reason: string) => void;
}

/** Leaves readings out by hand; the reason is asked for, since the report will give it. */
export function LeaveOutDialog({
  what,
  count = 1,
  title = count > 1 ? `Leave ${String(count)} readings out` : 'Leave a reading out',
  readings = count > 1 ? 'them' : 'it',
  typedRef,
  onClose,
  onLeaveOut,
}: LeaveOutDialogProps) {
  const [reason, setReason] = useState(() => typedRef.current);
  const [problem, setProblem] = useState<string>();
  const finish = () => {
    if (reason.trim() === '') {
      setProblem('Give a reason: the report will show it.');
      return;
    }
    onLeaveOut(reason.trim());
  };
  return (
    <Question title={title} onClose={onClose}>
      {typeof what === 'string' ? (
        <p>
          <bdi>{what}</bdi>
        </p>
      ) : (
        what
      )}
      <TextField
        label={count > 1 ? 'Why they do not count' : 'Why it does not count'}
        value={reason}
        onChange={(text) => {
          setReason(text);
          typedRef.current = text;
          setProblem(undefined);
        }}
        problem={problem}
        placeholder="What went wrong"
        help={
          count > 1
            ? 'They stay in the record, hollow, and can be taken back.'
            : 'It stays in the record, hollow, and can be taken back.'
        }
        maxLength={300}
        autoFocus
        onEnter={finish}
      />
      <DialogActions>
        <Button tone="quiet" onPress={onClose}>
          Not now
        </Button>
        <Button tone="go" onPress={finish}>
          Leave {readings} out
        </Button>
      </DialogActions>
    </Question>
  );
}
