import { useState } from 'react';
import styled from 'styled-components';
import { Button } from '../../ui/button.tsx';
import { CheckBox } from '../../ui/check-box.tsx';
import { Dialog, DialogAnswers } from '../../ui/dialog.tsx';
import { Key } from '../../ui/key.tsx';
import { TextField } from '../../ui/text-field.tsx';

const MOST_REASONS = 9;

const List = styled.div`
  display: grid;
  gap: 8px;
  button {
    justify-content: space-between;
  }
`;

export interface MisfireDialogProps {
  isOpen: boolean;
  itemName: string;
  /** The tester’s own short list. */
  reasons: readonly string[];
  onClose: () => void;
  onReason: (reason: string) => void;
  /** Another list, for this study. */
  onReasons: (reasons: string[]) => void;
}

/** The reasons, each with its figure key; a field takes its own keys. */
function Reasons({ reasons, onReason }: Pick<MisfireDialogProps, 'reasons' | 'onReason'>) {
  return (
    // oxlint-disable-next-line jsx-a11y/no-static-element-interactions -- the keys repeat what the buttons do
    <div
      onKeyDown={(event) => {
        const reason = reasons[Number(event.key) - 1];
        if (reason === undefined || event.target instanceof HTMLInputElement) return;
        // The digit must not be typed into the entry, which has the focus again at once.
        event.preventDefault();
        onReason(reason);
      }}
    >
      <List>
        {reasons.map((reason, i) => (
          <Button
            key={reason}
            autoFocus={i === 0}
            onPress={() => {
              onReason(reason);
            }}
          >
            {reason} <Key>{i + 1}</Key>
          </Button>
        ))}
      </List>
    </div>
  );
}

/** Asks why a run misfired; one key a reason. */
export function MisfireDialog({
  isOpen,
  itemName,
  reasons,
  onClose,
  onReason,
  onReasons,
}: MisfireDialogProps) {
  const [typed, setTyped] = useState('');
  const [problem, setProblem] = useState<string>();
  const [keeping, setKeeping] = useState(false);
  const finish = (reason: string) => {
    if (reason.trim() === '') {
      setProblem('Say in a word what went wrong, or choose a reason above.');
      return;
    }
    const text = reason.trim();
    if (keeping && text === typed.trim()) {
      // The list holds nine at most, one for each figure key; the newest takes the place of the last.
      onReasons([...reasons.filter((known) => known !== text).slice(0, MOST_REASONS - 1), text]);
    }
    setTyped('');
    setKeeping(false);
    setProblem(undefined);
    onReason(text);
  };
  return (
    <Dialog title={`Misfire of ${itemName}`} isOpen={isOpen} onClose={onClose}>
      <p>It stays in the record and does not count. The run comes again.</p>
      <Reasons reasons={reasons} onReason={finish} />
      <TextField
        label="Another reason"
        value={typed}
        onChange={(text) => {
          setTyped(text);
          setProblem(undefined);
        }}
        problem={problem}
        maxLength={300}
        onEnter={() => {
          finish(typed);
        }}
      />
      {typed.trim() !== '' && (
        <CheckBox isSelected={keeping} onChange={setKeeping}>
          Keep it in the list of this study
        </CheckBox>
      )}
      <DialogAnswers
        no="It was none"
        onNo={onClose}
        go="Note it"
        onGo={() => {
          finish(typed);
        }}
      />
    </Dialog>
  );
}
