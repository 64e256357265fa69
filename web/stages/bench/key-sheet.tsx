import styled from 'styled-components';
import { prefer, usePreferences } from '../../app/preferences.ts';
import { Button } from '../../ui/button.tsx';
import { CheckBox } from '../../ui/check-box.tsx';
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
  ['I', 'take what the instrument shows'],
  ['R', 'take a run again that is done; the earlier reading stays in the record'],
  ['A', 'add a run of this item that was not planned'],
  ['N', 'note or photo to this run, item or session'],
  ['Space', 'start or stop the stopwatch, the log of an instrument, or a recorder'],
  ['L', 'the log of what was done'],
  ['Esc', 'leave a question, or go back to the next run in the queue'],
  ['?', 'this sheet'],
];

/** All keys of the bench. */
export function KeySheet({ isOpen, onClose }: { isOpen: boolean; onClose: () => void }) {
  const { letterKeys, sounds } = usePreferences();
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
      <CheckBox
        isSelected={letterKeys}
        onChange={(on) => {
          prefer({ letterKeys: on });
        }}
      >
        Single letters are keys
      </CheckBox>
      <CheckBox
        isSelected={sounds}
        onChange={(on) => {
          prefer({ sounds: on });
        }}
      >
        Short sounds: recorded, question, wait over
      </CheckBox>
      <DialogActions>
        <Button tone="go" onPress={onClose} autoFocus>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}
