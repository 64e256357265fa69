import { useState } from 'react';
import { Button } from '../../ui/button.tsx';
import { Dialog, DialogActions } from '../../ui/dialog.tsx';
import { TextField } from '../../ui/text-field.tsx';

export interface LeaveOutDialogProps {
  isOpen: boolean;
  /** The reading, in words. */
  what: string;
  onClose: () => void;
  onReason: (reason: string) => void;
}

/** Leaves a reading out by hand; the reason is asked for, since the report will give it. */
export function LeaveOutDialog({ isOpen, what, onClose, onReason }: LeaveOutDialogProps) {
  const [reason, setReason] = useState('');
  const [problem, setProblem] = useState<string>();
  const finish = () => {
    if (reason.trim() === '') {
      setProblem('Give a reason: the report will show it.');
      return;
    }
    onReason(reason.trim());
    setReason('');
  };
  return (
    <Dialog title="Leave a reading out" isOpen={isOpen} onClose={onClose}>
      <p>
        <bdi>{what}</bdi>
      </p>
      <TextField
        label="Why it does not count"
        value={reason}
        onChange={(text) => {
          setReason(text);
          setProblem(undefined);
        }}
        problem={problem}
        placeholder="What went wrong with it"
        help="It stays in the record, hollow, and can be taken back."
        maxLength={300}
        autoFocus
        onEnter={finish}
      />
      <DialogActions>
        <Button tone="quiet" onPress={onClose}>
          Not now
        </Button>
        <Button tone="go" onPress={finish}>
          Leave it out
        </Button>
      </DialogActions>
    </Dialog>
  );
}
