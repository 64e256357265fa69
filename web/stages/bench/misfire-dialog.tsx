import { useState } from 'react';
import styled from 'styled-components';
import { Button } from '../../ui/button.tsx';
import { Dialog, DialogActions } from '../../ui/dialog.tsx';
import { Key } from '../../ui/key.tsx';
import { TextField } from '../../ui/text-field.tsx';

const REASONS = [
  'Disturbed (door, wind, bump)',
  'Instrument slipped or was not ready',
  'Wrong item or setting',
  'Started too late or too early',
];

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
  onClose: () => void;
  onReason: (reason: string) => void;
}

/** Asks why a run misfired; one key a reason. */
export function MisfireDialog({ isOpen, itemName, onClose, onReason }: MisfireDialogProps) {
  const [own, setOwn] = useState('');
  const [problem, setProblem] = useState<string>();
  const finish = (reason: string) => {
    if (reason.trim() === '') {
      setProblem('Say in a word what went wrong, or choose a reason above.');
      return;
    }
    setOwn('');
    setProblem(undefined);
    onReason(reason.trim());
  };
  return (
    <Dialog title={`Misfire of ${itemName}`} isOpen={isOpen} onClose={onClose}>
      <p>It stays in the record and does not count. The run comes again.</p>
      {/* Number keys choose a reason; the field below takes its own keys. */}
      {/* eslint-disable-next-line jsx-a11y/no-static-element-interactions -- the keys repeat what the buttons do */}
      <div
        onKeyDown={(event) => {
          const reason = REASONS[Number(event.key) - 1];
          if (reason === undefined || event.target instanceof HTMLInputElement) return;
          // The digit must not be typed into the entry, which has the focus again at once.
          event.preventDefault();
          finish(reason);
        }}
      >
        <List>
          {REASONS.map((reason, i) => (
            <Button
              key={reason}
              autoFocus={i === 0}
              onPress={() => {
                finish(reason);
              }}
            >
              {reason} <Key>{i + 1}</Key>
            </Button>
          ))}
        </List>
      </div>
      <TextField
        label="Another reason"
        value={own}
        onChange={(text) => {
          setOwn(text);
          setProblem(undefined);
        }}
        problem={problem}
        maxLength={300}
        onEnter={() => {
          finish(own);
        }}
      />
      <DialogActions>
        <Button tone="quiet" onPress={onClose}>
          It was none
        </Button>
        <Button
          tone="go"
          onPress={() => {
            finish(own);
          }}
        >
          Note it
        </Button>
      </DialogActions>
    </Dialog>
  );
}
