import type { Session } from '../../../../core/model/parts.ts';
import type { StudyDocument } from '../../../../core/model/study-document.ts';
import { newSession } from '../../../../core/plan/new-parts.ts';
import { asksAtStart, isPaused, openSession } from '../../../../core/bench/session.ts';
import {
  type NewBenchPart,
  type NewPart,
  changeRecorded,
  newInstant,
  newRecordId,
  recordParts,
} from '../../../app/api/studies.ts';

export type SessionStartFields = Pick<
  Session,
  'operator' | 'instrument' | 'checked' | 'acknowledged' | 'conditions'
>;

export interface SessionAtBench {
  /** The session that is on; undefined while there is none. */
  session: Session | undefined;
  /** Whether the plan asks for something before the first reading. */
  asks: boolean;
  paused: boolean;
  start: (fields: SessionStartFields) => void;
  pause: () => void;
  goOn: () => void;
  end: (conditions: Session['conditions']) => void;
  /** Conditions read in the middle. */
  addConditions: (conditions: Session['conditions']) => void;
  /** Another instrument or operator: this session ends and another one goes on from here. */
  split: (change: Pick<Session, 'operator' | 'instrument'>) => void;
  /** The session of a reading taken at an instant: the one that is on, or a new one that begins with it. */
  forReading: (takenAt: string) => { id: string; parts: NewBenchPart[] };
}

export const sessionFields = (
  studyId: string,
  about: Partial<NewPart<'sessions'>>,
): NewPart<'sessions'> & { id: string } => ({
  id: newRecordId(studyId),
  ...newSession(newInstant(studyId)),
  ...about,
});

/** The session at a study's bench, and what can be done with it. */
export function useSession(document: StudyDocument): SessionAtBench {
  const studyId = document.study.id;
  const session = openSession(document);
  const change = (changes: Partial<Session>) => {
    if (session) void changeRecorded('sessions', session, changes);
  };
  const now = () => newInstant(studyId);
  return {
    session,
    asks: asksAtStart(document),
    paused: session !== undefined && isPaused(session),
    start: (fields) => {
      void recordParts(studyId, [{ kind: 'sessions', fields: sessionFields(studyId, fields) }]);
    },
    pause: () => {
      if (session) change({ pauses: [...session.pauses, { from: now(), to: null }] });
    },
    goOn: () => {
      if (!session) return;
      change({
        pauses: session.pauses.map((pause) => (pause.to === null ? { ...pause, to: now() } : pause)),
      });
    },
    end: (conditions) => {
      if (!session) return;
      const endedAt = now();
      change({
        endedAt,
        conditions: [...session.conditions, ...conditions],
        pauses: session.pauses.map((pause) => (pause.to === null ? { ...pause, to: endedAt } : pause)),
      });
    },
    addConditions: (conditions) => {
      if (session) change({ conditions: [...session.conditions, ...conditions] });
    },
    split: ({ operator, instrument }) => {
      if (!session) return;
      change({ endedAt: now() });
      // What was checked and read at the start holds for what goes on from it.
      const { checked, acknowledged, conditions, id } = session;
      void recordParts(studyId, [
        {
          kind: 'sessions',
          fields: sessionFields(studyId, {
            ...{ operator, instrument, checked, acknowledged, conditions, continuesId: id },
          }),
        },
      ]);
    },
    forReading: (startedAt) => {
      if (session) return { id: session.id, parts: [] };
      const fields = sessionFields(studyId, { startedAt });
      return { id: fields.id, parts: [{ kind: 'sessions', fields }] };
    },
  };
}
