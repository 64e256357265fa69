import styled from 'styled-components';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { benchLog } from '../../../core/bench/log.ts';
import { Button } from '../../ui/button.tsx';
import { Dialog, DialogActions } from '../../ui/dialog.tsx';
import { dayAndTime } from '../../ui/when.ts';

/** More lines than this are counted and not drawn. */
const MOST_LINES = 200;

const Lines = styled.ol`
  display: grid;
  gap: 6px;
  max-height: 56vh;
  overflow-y: auto;
  li {
    display: grid;
    grid-template-columns: 112px minmax(0, 1fr);
    gap: 12px;
    align-items: baseline;
  }
  time {
    color: var(--quiet);
    font-size: var(--size-15);
  }
  s {
    color: var(--quiet);
  }
`;

export interface LogDialogProps {
  document: StudyDocument;
  isOpen: boolean;
  canUndo: boolean;
  onUndo: () => void;
  onClose: () => void;
}

/** What was done at the bench, the latest first; what was taken back is struck through. */
export function LogDialog({ document, isOpen, canUndo, onUndo, onClose }: LogDialogProps) {
  const lines = isOpen ? benchLog(document) : [];
  return (
    <Dialog title="What was done" isOpen={isOpen} onClose={onClose}>
      {lines.length === 0 && <p>Nothing yet. Every reading, misfire, skip and note will stand here.</p>}
      <Lines>
        {lines.slice(0, MOST_LINES).map(({ id, moment, text, undone }) => (
          <li key={id}>
            <time dateTime={moment}>{dayAndTime(moment)}</time>
            {undone ? <s>{text}</s> : <span>{text}</span>}
          </li>
        ))}
      </Lines>
      {lines.length > MOST_LINES && <p>And {lines.length - MOST_LINES} more before these.</p>}
      <DialogActions>
        <Button isDisabled={!canUndo} onPress={onUndo}>
          Undo the last
        </Button>
        <Button tone="go" onPress={onClose} autoFocus>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}
