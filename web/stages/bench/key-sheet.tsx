import styled from 'styled-components';
import { Button } from '../../ui/button.tsx';
import { Dialog, DialogActions } from '../../ui/dialog.tsx';
import { Key } from '../../ui/key.tsx';

const Keys = styled.dl`
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 10px 18px;
  dt {
    text-align: right;
  }
`;

const KEYS: readonly (readonly [string, string])[] = [
  ['Enter', 'record what is typed; keep a value that was questioned'],
  ['M', 'the run misfired: note why, take it again'],
  ['U', 'undo the last step, as often as you like'],
  ['S', 'skip this run; it can be opened again from the queue'],
  ['T', 'take the value that is suggested'],
  ['Esc', 'leave a question, or go back to the next run in the queue'],
  ['?', 'this sheet'],
];

/** All keys of the bench. */
export function KeySheet({ isOpen, onClose }: { isOpen: boolean; onClose: () => void }) {
  return (
    <Dialog title="Keys at the bench" isOpen={isOpen} onClose={onClose}>
      <Keys>
        {KEYS.map(([key, does]) => (
          <div key={key} style={{ display: 'contents' }}>
            <dt>
              <Key>{key}</Key>
            </dt>
            <dd>{does}</dd>
          </div>
        ))}
      </Keys>
      <p>Letters are keys while the entry is empty or the focus is outside of it.</p>
      <DialogActions>
        <Button tone="go" onPress={onClose} autoFocus>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}
