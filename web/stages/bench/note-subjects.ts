import type { NotePart } from '../../../core/model/parts.ts';
import type { Run } from '../../../core/bench/queue.ts';

/** What a note is about: one of these is named. */
export type NoteAbout = Pick<NotePart, 'readingId' | 'itemId' | 'sessionId' | 'run'>;

export interface NoteSubject {
  value: string;
  label: string;
  about: NoteAbout;
}

/** What a note can be about at the bench, the likeliest first. */
export function noteSubjects(
  run: Run | undefined,
  lastId: string | undefined,
  sessionId: string | undefined,
): NoteSubject[] {
  const nothing = { readingId: null, itemId: null, sessionId: null, run: null };
  const subjects: NoteSubject[] = [];
  const readingId = run?.reading?.reading.id;
  if (run && readingId !== undefined) {
    subjects.push({ value: 'reading', label: 'This reading', about: { ...nothing, readingId } });
  }
  if (run) {
    const { round, itemId, measurandId, levelIds } = run;
    subjects.push({
      value: 'run',
      label: 'This run',
      about: { ...nothing, run: { round, itemId, measurandId, levelIds } },
    });
  }
  if (lastId !== undefined && lastId !== readingId) {
    subjects.push({ value: 'last', label: 'The last reading', about: { ...nothing, readingId: lastId } });
  }
  if (run) subjects.push({ value: 'item', label: run.item.name, about: { ...nothing, itemId: run.itemId } });
  if (sessionId !== undefined) {
    subjects.push({ value: 'session', label: 'The session', about: { ...nothing, sessionId } });
  }
  return subjects;
}
