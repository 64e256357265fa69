import type { Decision, NotePart, Reading, RunRef } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { runKey } from './queue.ts';

/** What taking back the last step means, and what a sentence calls it. */
export interface UndoStep {
  what: 'reading' | 'misfire' | 'skip' | 'decision' | 'added run' | 'import' | 'note';
  /** The decision to record; none for a note, which is taken out by an edit. */
  action?: Decision['action'];
  readingId: string | null;
  /** The imported session that the step was about. */
  sessionId: string | null;
  run: RunRef | null;
  /** The reading that the step was about, if any. */
  reading?: Reading;
  note?: NotePart;
}

const NOTHING = { readingId: null, sessionId: null, run: null };

/**
 * The steps at the bench that can still be undone, oldest first, told from the record itself: each undo is recorded
 * too, so that nothing vanishes and an undo works after a restart.
 */
export function undoSteps(
  document: Pick<StudyDocument, 'readings' | 'decisions' | 'sessions' | 'notes'>,
): UndoStep[] {
  const readings = new Map(document.readings.map((reading) => [reading.id, reading]));
  const imports = document.sessions.filter(({ kind }) => kind === 'import');
  const imported = new Set(imports.map(({ id }) => id));
  // Steps by key; a map keeps the order in which they were put in.
  const steps = new Map<string, UndoStep>();
  const push = (key: string, step: Pick<UndoStep, 'what'> & Partial<UndoStep>) => {
    steps.delete(key);
    steps.set(key, { ...NOTHING, ...step });
  };

  const decided = ({ action, readingId, sessionId, run, decidedAt }: Decision) => {
    const reading = readingId === null ? undefined : readings.get(readingId);
    if (run) {
      const key = runKey(run);
      if (action === 'skip') push(`skip ${key}`, { what: 'skip', action: 'unskip', run });
      else if (action === 'unskip') steps.delete(`skip ${key}`);
      else if (action === 'add-run') push(`run ${key}`, { what: 'added run', action: 'remove-run', run });
      else if (action === 'remove-run') steps.delete(`run ${key}`);
    } else if (sessionId !== null) {
      if (action === 'withdraw') steps.delete(`import ${sessionId}`);
    } else if (readingId !== null) {
      if (action === 'withdraw') steps.delete(`reading ${readingId}`);
      else if (action === 'take-back') steps.delete(`out ${readingId}`);
      else if (action === 'misfire' && reading?.takenAt === decidedAt) {
        // A misfire that was recorded as one is one step: its reading.
        const step = steps.get(`reading ${readingId}`);
        if (step) step.what = 'misfire';
      } else if (action === 'misfire' || action === 'leave-out') {
        push(`out ${readingId}`, {
          what: action === 'misfire' ? 'misfire' : 'decision',
          action: 'take-back',
          readingId,
          ...(reading ? { reading } : {}),
        });
      }
    }
  };

  // Ids carry their time, so that everything falls into the order in which it was made.
  const events = [
    ...document.readings.map((reading) => ({ id: reading.id, reading })),
    ...document.decisions.map((decision) => ({ id: decision.id, decision })),
    ...imports.map((session) => ({ id: session.id, session })),
    ...document.notes.filter(({ removed }) => !removed).map((note) => ({ id: note.id, note })),
  ].sort((a, b) => (a.id < b.id ? -1 : 1));
  for (const event of events) {
    if ('reading' in event) {
      const { reading } = event;
      // What came with an import is taken back with it.
      if (reading.sessionId !== null && imported.has(reading.sessionId)) continue;
      push(`reading ${reading.id}`, { what: 'reading', action: 'withdraw', readingId: reading.id, reading });
    } else if ('session' in event) {
      push(`import ${event.session.id}`, { what: 'import', action: 'withdraw', sessionId: event.session.id });
    } else if ('note' in event) {
      push(`note ${event.note.id}`, { what: 'note', note: event.note });
    } else decided(event.decision);
  }
  return [...steps.values()];
}
