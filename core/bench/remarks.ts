import type { NotePart } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { runKey } from './run-records.ts';

/** What may have been remarked on: a reading, its run, its item, its session. */
export interface RemarkedOn {
  readingId?: string | undefined;
  /** Key of the run. */
  run?: string | undefined;
  itemId?: string | undefined;
  sessionId?: string | null | undefined;
}

/** Notes and photos to any of these, in the order in which they were made; those that were taken out are not in them. */
export const remarksOn = (
  { notes }: Pick<StudyDocument, 'notes'>,
  { readingId, run, itemId, sessionId }: RemarkedOn,
): NotePart[] =>
  notes.filter(
    (note) =>
      !note.removed &&
      ((note.sessionId !== null && note.sessionId === sessionId) ||
        (note.itemId !== null && note.itemId === itemId) ||
        (note.readingId !== null && note.readingId === readingId) ||
        (note.run !== null && runKey(note.run) === run)),
  );
