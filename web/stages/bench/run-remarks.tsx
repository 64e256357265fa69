import styled from 'styled-components';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import type { Run } from '../../../core/bench/queue.ts';
import { remarksOn } from '../../../core/bench/remarks.ts';
import { changeRecorded } from '../../app/api/studies.ts';
import { Photo } from '../../app/photo.tsx';
import { Button } from '../../ui/button.tsx';
import { Aside } from '../../ui/page.tsx';

const List = styled.ul`
  display: grid;
  gap: 10px;
  button {
    margin-left: -12px;
  }
`;

/** The latest remarks that are shown. */
const MOST_SHOWN = 6;

/** What was noted to this run, its item and the session, with photos. */
export function RunRemarks({
  document,
  run,
  sessionId,
}: {
  document: StudyDocument;
  run: Run | undefined;
  sessionId: string | undefined;
}) {
  const remarks = remarksOn(document, {
    ...{ readingId: run?.reading?.reading.id, run: run?.key, itemId: run?.itemId },
    sessionId,
  })
    .slice(-MOST_SHOWN)
    .reverse();
  if (remarks.length === 0) return null;
  return (
    <Aside>
      <h3>Noted</h3>
      <List>
        {remarks.map((note) => (
          <li key={note.id}>
            {note.photo !== null && <Photo file={note.photo} text={note.text} />}
            {note.text !== '' && <bdi>{note.text}</bdi>}
            <Button
              size="small"
              tone="quiet"
              onPress={() => void changeRecorded('notes', note, { removed: true })}
            >
              Take it out
            </Button>
          </li>
        ))}
      </List>
    </Aside>
  );
}
