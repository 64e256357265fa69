import { idAt } from '../model/id-time.ts';
import { byText } from '../model/in-order.ts';
import { sessionsWithdrawn } from '../record/record.ts';
import type { Decision, NotePart, Reading, RunRef, Session } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { runKey } from './run-records.ts';
import { benchSessions } from './session.ts';

const WHAT_WENT_OUT = {
  misfire: 'misfire',
  'take-again': 'reading taken again',
  'leave-out': 'decision',
} as const;

/** What taking back the last step means, and what a sentence calls it. */
export interface UndoStep {
  what:
    | 'reading'
    | 'misfire'
    | 'reading taken again'
    | 'skip'
    | 'decision'
    | 'added run'
    | 'import'
    | 'note'
    | 'start of the session'
    | 'change of session'
    | 'pause'
    | 'going on'
    | 'conditions'
    | 'end of the session';
  /** The decision to record; none for a note, which is taken out by an edit. */
  action?: Decision['action'];
  readingId: string | null;
  /** The session that the step was about. */
  sessionId: string | null;
  run: RunRef | null;
  /** The reading that the step was about, if any. */
  reading?: Reading;
  note?: NotePart;
  /** A session as it was before the step, as far as the step changed it. */
  session?: { session: Session; before: Partial<Session> };
}

const NOTHING = { readingId: null, sessionId: null, run: null };

/** A session as it was before it ended. */
const reopened = ({ endedAt, pauses, conditions }: Session): Partial<Session> => ({
  endedAt: null,
  pauses: pauses.map((pause) => (pause.to === endedAt ? { ...pause, to: null } : pause)),
  conditions: conditions.filter(({ at }) => at !== 'end'),
});

type Step = Pick<UndoStep, 'what'> & Partial<UndoStep>;

/** The first and the last reading of each session. */
function endsOfSessions(readings: readonly Reading[]) {
  const first = new Map<string, Reading>();
  const last = new Map<string, Reading>();
  for (const reading of readings) {
    if (reading.sessionId === null) continue;
    if (!first.has(reading.sessionId)) first.set(reading.sessionId, reading);
    last.set(reading.sessionId, reading);
  }
  return { first, last };
}

/** What was done to the sessions at the bench, each with what it sorts by among the ids of the record. */
function sessionSteps(document: Pick<StudyDocument, 'readings' | 'decisions' | 'sessions'>) {
  const sessions = benchSessions(document);
  const byId = new Map(sessions.map((session) => [session.id, session]));
  const continued = new Set(sessions.map(({ continuesId }) => continuesId));
  const { first, last } = endsOfSessions(document.readings);
  return sessions.flatMap((session): { id: string; step: Step }[] => {
    const { id, startedAt, endedAt, pauses, conditions, continuesId } = session;
    const change = (what: Step['what'], before: Partial<Session>): Step => ({
      ...{ what, action: 'amend-session', sessionId: id, session: { session, before } },
    });
    const from = continuesId === null ? undefined : byId.get(continuesId);
    // A session that began with its first reading is no step of its own.
    const isOwnStep = first.get(id)?.takenAt !== startedAt;
    const start: Step = {
      what: from ? 'change of session' : 'start of the session',
      ...{ action: 'withdraw', sessionId: id },
      ...(from ? { session: { session: from, before: reopened(from) } } : {}),
    };
    const during = new Set(
      conditions
        .filter(({ at, takenAt }) => at === 'during' && takenAt >= startedAt)
        .map((condition) => condition.takenAt),
    );
    return [
      ...(isOwnStep ? [{ id, step: start }] : []),
      ...pauses.flatMap((pause, i) => [
        { id: idAt(pause.from), step: change('pause', { pauses: pauses.slice(0, i) }) },
        ...(pause.to === null || pause.to === endedAt
          ? []
          : [
              {
                id: idAt(pause.to),
                step: change('going on', { pauses: [...pauses.slice(0, i), { ...pause, to: null }] }),
              },
            ]),
      ]),
      ...[...during].map((takenAt) => ({
        id: idAt(takenAt),
        step: change('conditions', {
          conditions: conditions.filter(
            (condition) => condition.at !== 'during' || condition.takenAt !== takenAt,
          ),
        }),
      })),
      // Behind its last reading even where the clock was set back in between.
      ...(endedAt === null || continued.has(id)
        ? []
        : [
            {
              id: `${[idAt(endedAt), last.get(id)?.id ?? ''].sort().at(-1) ?? ''}~`,
              step: change('end of the session', reopened(session)),
            },
          ]),
    ];
  });
}

/** Whether there is a step to undo; sooner told than which, since the last reading mostly stands. */
export function canUndo(document: Parameters<typeof undoSteps>[0]): boolean {
  const last = document.readings.at(-1);
  const session = last && document.sessions.find(({ id }) => id === last.sessionId);
  const stands =
    last !== undefined &&
    session?.kind !== 'import' &&
    !document.decisions.some(
      ({ action, readingId, sessionId }) =>
        action === 'withdraw' &&
        (readingId === last.id || (sessionId !== null && sessionId === last.sessionId)),
    );
  return stands || undoSteps(document).length > 0;
}

/** Steps that can be undone, while they are gathered. */
interface Steps {
  readings: ReadonlyMap<string, Reading>;
  /** By key, in the order in which they were put in. */
  steps: Map<string, UndoStep>;
  push: (key: string, step: Step) => void;
}

/** What a decision adds to the steps, or takes from them. */
function decided({ action, readingId, run, decidedAt }: Decision, { readings, steps, push }: Steps): void {
  const reading = readingId === null ? undefined : readings.get(readingId);
  if (run) {
    const key = runKey(run);
    if (action === 'skip') push(`skip ${key}`, { what: 'skip', action: 'unskip', run });
    else if (action === 'unskip') steps.delete(`skip ${key}`);
    else if (action === 'add-run') push(`run ${key}`, { what: 'added run', action: 'remove-run', run });
    else if (action === 'remove-run') steps.delete(`run ${key}`);
  } else if (readingId !== null) {
    if (action === 'withdraw') steps.delete(`reading ${readingId}`);
    else if (action === 'take-back') steps.delete(`out ${readingId}`);
    else if (action === 'misfire' && reading?.takenAt === decidedAt) {
      // A misfire that was recorded as one is one step: its reading.
      const step = steps.get(`reading ${readingId}`);
      if (step) step.what = 'misfire';
    } else if (action === 'misfire' || action === 'take-again' || action === 'leave-out') {
      push(`out ${readingId}`, {
        what: WHAT_WENT_OUT[action],
        action: 'take-back',
        readingId,
        ...(reading ? { reading } : {}),
      });
    }
  }
}

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
  const withdrawn = sessionsWithdrawn(document.decisions);
  // Steps by key; a map keeps the order in which they were put in.
  const steps = new Map<string, UndoStep>();
  const push = (key: string, step: Step) => {
    steps.delete(key);
    steps.set(key, { ...NOTHING, ...step });
  };

  // Ids carry their time, so that everything falls into the order in which it was made.
  const events = [
    ...document.readings.map((reading) => ({ id: reading.id, reading })),
    ...document.decisions.map((decision) => ({ id: decision.id, decision })),
    ...document.notes.filter(({ removed }) => !removed).map((note) => ({ id: note.id, note })),
    ...imports
      .filter(({ id }) => !withdrawn.has(id))
      .map(({ id }) => ({ id, step: { what: 'import', action: 'withdraw', sessionId: id } satisfies Step })),
    ...sessionSteps(document),
  ].sort((a, b) => byText(a.id, b.id));
  for (const event of events) {
    if ('reading' in event) {
      const { reading } = event;
      // What came with an import, or with a session that was taken back, is taken back with it.
      if (reading.sessionId !== null && (imported.has(reading.sessionId) || withdrawn.has(reading.sessionId)))
        continue;
      push(`reading ${reading.id}`, { what: 'reading', action: 'withdraw', readingId: reading.id, reading });
    } else if ('note' in event) {
      // What the bench noted with a reading goes with it.
      const { readingId, notedAt } = event.note;
      if (readingId !== null && readings.get(readingId)?.takenAt === notedAt) continue;
      push(`note ${event.note.id}`, { what: 'note', note: event.note });
    } else if ('step' in event) {
      push(`session ${event.id}`, event.step);
    } else decided(event.decision, { readings, steps, push });
  }
  return [...steps.values()];
}
