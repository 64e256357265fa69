import { type ReactNode, useState } from 'react';
import { isText, useKept } from '../../app/kept.ts';
import { DialogAnswers } from '../../ui/dialog.tsx';
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
  /** What is typed stays with this study until it is used. */
  studyId: string;
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
  studyId,
  onClose,
  onLeaveOut,
}: LeaveOutDialogProps) {
  const [reason, change, forget] = useKept(`reason/${studyId}`, () => '', isText);
  const [problem, setProblem] = useState<string>();
  const finish = () => {
    if (reason.trim() === '') {
      setProblem('Give a reason: the report will show it.');
      return;
    }
    onLeaveOut(reason.trim());
    forget();
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
          change(() => text);
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
      <DialogAnswers onNo={onClose} go={<>Leave {readings} out</>} onGo={finish} />
    </Question>
  );
}
