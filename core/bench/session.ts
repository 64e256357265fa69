import { byText, inOrder } from '../model/in-order.ts';
import type { Condition, ConditionReading, Session } from '../model/parts.ts';
import { sessionsWithdrawn } from '../record/record.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { conditionKind } from '../conditions/index.ts';
import { type Run } from './queue.ts';

/** Silent for longer than this, a session is asked about before it goes on. */
export const SILENT_S = 4 * 3600;

/** Sessions at the bench, without those that were started by mistake and undone. */
export function benchSessions({
  sessions,
  decisions,
}: Pick<StudyDocument, 'sessions' | 'decisions'>): Session[] {
  const withdrawn = sessionsWithdrawn(decisions);
  return sessions.filter(({ kind, id }) => kind === 'bench' && !withdrawn.has(id));
}

/** The session at the bench that is not ended yet; the last one where several are open. */
export const openSession = (document: Pick<StudyDocument, 'sessions' | 'decisions'>): Session | undefined =>
  benchSessions(document).findLast(({ endedAt }) => endedAt === null);

/** Whether the plan has something to ask before the first reading of a session. */
export const asksAtStart = ({ study, conditions }: Pick<StudyDocument, 'study' | 'conditions'>): boolean =>
  study.hazards.length > 0 || study.procedure.beforeSession.length > 0 || conditions.length > 0;

/** Conditions in the order of the plan. */
export const conditionsInOrder = ({ conditions }: Pick<StudyDocument, 'conditions'>): Condition[] =>
  inOrder(conditions);

export const isPaused = ({ pauses }: Session): boolean => pauses.at(-1)?.to === null;

/** Seconds at the bench from the start of a session, pauses not counted. */
export function elapsedS({ startedAt, endedAt, pauses }: Session, now: number): number {
  const end = endedAt === null ? now : Date.parse(endedAt);
  const paused = pauses.reduce(
    (sum, { from, to }) => sum + Math.max(0, (to === null ? end : Date.parse(to)) - Date.parse(from)),
    0,
  );
  return Math.max(0, (end - Date.parse(startedAt) - paused) / 1000);
}

/** When something last happened in a session, in ms. */
export function lastActive(session: Session, { readings }: Pick<StudyDocument, 'readings'>): number {
  const latest = readings.findLast(({ sessionId }) => sessionId === session.id);
  const times = [session.startedAt, latest?.takenAt, ...session.conditions.map(({ takenAt }) => takenAt)];
  return Math.max(...times.flatMap((time) => (time === undefined ? [] : [Date.parse(time)])));
}

/** What was typed for each condition, by its id. */
export type ConditionTexts = Readonly<Record<string, string>>;

/** What was typed for the conditions, as it is recorded; a problem where a text means nothing. */
export function readConditions(
  conditions: readonly Condition[],
  texts: ConditionTexts,
  when: ConditionReading['at'],
  takenAt: string,
): { readings: ConditionReading[] } | { problem: string } {
  const readings: ConditionReading[] = [];
  for (const condition of conditions) {
    const text = (texts[condition.id] ?? '').trim();
    if (text === '') continue;
    const seen = conditionKind(condition).read(text, condition);
    if ('problem' in seen) return { problem: seen.problem };
    readings.push({ conditionId: condition.id, at: when, takenAt, ...seen });
  }
  return { readings };
}

/** What a condition was when the session began. */
export const startOf = ({ conditions }: Pick<Session, 'conditions'>, conditionId: string) =>
  conditions.find((condition) => condition.conditionId === conditionId && condition.at === 'start');

/** Required conditions that were not read at the start or at the end of a session. */
export const missingConditions = (
  document: Pick<StudyDocument, 'conditions'>,
  read: readonly Pick<ConditionReading, 'conditionId' | 'at'>[],
  when: 'start' | 'end',
): Condition[] =>
  conditionsInOrder(document).filter(
    ({ id, required }) =>
      required && !read.some((condition) => condition.conditionId === id && condition.at === when),
  );

/** A wait of the procedure, with the time that is left of it. */
export interface WaitLeft {
  what: string;
  leftS: number;
}

/**
 * The wait that is on before a run's reading, one after the other: those of the session from its start, those of the
 * item where the item or its levels changed, those of each reading.
 * @param now in ms
 * @returns undefined where nothing is to be waited for
 */
export function waitBefore(
  document: Pick<StudyDocument, 'study' | 'readings'>,
  run: Run,
  session: Session | undefined,
  now: number,
): WaitLeft | undefined {
  const { waits } = document.study.procedure;
  if (waits.length === 0 || session === undefined) return undefined;
  const before = document.readings.findLast(({ sessionId }) => sessionId === session.id);
  const changed =
    before?.itemId !== run.itemId ||
    run.levelIds.some((id) => !before.levels.some(({ levelId }) => levelId === id));
  // The same item read again by another measurand has settled already.
  const sameRun = before !== undefined && !changed && before.measurandId !== run.measurandId;
  const due = waits.filter(
    ({ when }) =>
      (when === 'session' && before === undefined) ||
      (when === 'item' && changed) ||
      (when === 'reading' && !sameRun),
  );
  let passedS = (now - Date.parse(before?.takenAt ?? session.startedAt)) / 1000;
  for (const { what, durationS } of due) {
    if (passedS < durationS) return { what, leftS: durationS - Math.max(0, passedS) };
    passedS -= durationS;
  }
  return undefined;
}

/** A quantity during a session: the mean of what was read of it. */
export function conditionValue(
  document: StudyDocument,
  sessionId: string | null,
  conditionId: string,
): number | undefined {
  const session = document.sessions.find(({ id }) => id === sessionId);
  const read = (session?.conditions ?? []).flatMap((entry) =>
    entry.conditionId === conditionId && entry.number !== null ? [entry.number] : [],
  );
  return read.length === 0 ? undefined : read.reduce((sum, number) => sum + number, 0) / read.length;
}

/** The sessions of a study in which something was read, the first one first. */
export function sessionsRead(document: StudyDocument): { id: string; startedAt: string }[] {
  const used = new Set(document.readings.map(({ sessionId }) => sessionId));
  return document.sessions
    .filter(({ id }) => used.has(id))
    .map(({ id, startedAt }) => ({ id, startedAt }))
    .sort((a, b) => byText(a.startedAt, b.startedAt));
}
