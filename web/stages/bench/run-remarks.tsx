import styled from 'styled-components';
import type { NotePart } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import type { Run } from '../../../core/bench/queue.ts';
import { runKey } from '../../../core/bench/run-records.ts';
import { changeRecorded } from '../../app/api/studies.ts';
import { API } from '../../app/api/client.ts';
import { Button } from '../../ui/button.tsx';
import { Aside } from '../../ui/page.tsx';

const List = styled.ul`
  display: grid;
  gap: 10px;
  img {
    max-width: 100%;
    max-height: 150px;
    border-radius: 6px;
  }
  button {
    margin-left: -12px;
  }
`;

/** Notes to what is at the bench now. */
function remarksOf(
  { notes }: StudyDocument,
  run: Run | undefined,
  sessionId: string | undefined,
): NotePart[] {
  return notes.filter(
    ({ removed, readingId, itemId, sessionId: session, run: ref }) =>
      !removed &&
      ((session !== null && session === sessionId) ||
        (run !== undefined &&
          (itemId === run.itemId ||
            (readingId !== null && readingId === run.reading?.reading.id) ||
            (ref !== null && runKey(ref) === run.key)))),
  );
}

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
  const remarks = remarksOf(document, run, sessionId).slice(-6).reverse();
  if (remarks.length === 0) return null;
  return (
    <Aside>
      <h3>Noted</h3>
      <List>
        {remarks.map((note) => (
          <li key={note.id}>
            {note.photo !== null && (
              <a href={`${API}/photos/${note.photo}?original=yes`} target="_blank" rel="noreferrer">
                <img src={`${API}/photos/${note.photo}`} alt={note.text || 'A photo without words'} />
              </a>
            )}
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
