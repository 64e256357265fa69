import { conditionKind } from '../core/conditions/index.ts';
import { readingForm } from '../core/forms/index.ts';
import { byText } from '../core/model/in-order.ts';
import type { Calibration, Decision, FilePart, Reading, Session } from '../core/model/parts.ts';
import type { StudyDocument } from '../core/model/study-document.ts';
import { newSession } from '../core/plan/new-parts.ts';
import { type PlanPattern, studyFromPattern } from '../core/plan/pattern.ts';
import type { Run } from '../core/bench/queue.ts';

/** What a demo study says of its plan. */
export interface DemoPlan extends PlanPattern {
  title: string;
  /** When the first reading was or would be taken. */
  start: string;
  seed: number;
  /** Last twelve figures of all its ids. */
  tail: string;
}

/** Builds a demo study's plan, and records readings of it as the bench would. */
export function buildDemo({ title, start: startText, seed, tail, ...pattern }: DemoPlan) {
  const start = Date.parse(startText);
  let made = 0;
  /** Ids in the form of UUID version 7 that are the same each time: time, counter, and a fixed tail. */
  const demoId = (moment: number): string => {
    made += 1;
    const time = moment.toString(16).padStart(12, '0');
    const counter = made.toString(16).padStart(3, '0');
    return `${time.slice(0, 8)}-${time.slice(8)}-7${counter}-8b0d-${tail}`;
  };
  const planned = start - 3600000;
  const document: StudyDocument = studyFromPattern(pattern, {
    title,
    seed,
    newId: () => demoId(planned),
    now: new Date(planned).toISOString(),
  });
  // Their readings were planted in the order that format 10 gave them.
  document.study.draws = 'by-stream';
  const stamp = (moment: number) => {
    const instant = new Date(moment).toISOString();
    return {
      id: demoId(moment),
      studyId: document.study.id,
      version: 1,
      createdAt: instant,
      updatedAt: instant,
    };
  };

  /** Starts a session with what was read of its conditions: quantity and text. */
  const startSession = (
    moment: number,
    about: Partial<Session>,
    conditions: Record<string, string>,
  ): Session => {
    const session: Session = {
      ...stamp(moment),
      ...newSession(new Date(moment).toISOString()),
      checked: document.study.procedure.beforeSession,
      acknowledged: document.study.hazards,
      ...about,
    };
    document.sessions.push(session);
    readConditions(session, 'start', moment, conditions);
    return session;
  };
  const readConditions = (
    session: Session,
    when: Session['conditions'][number]['at'],
    moment: number,
    texts: Record<string, string>,
  ) => {
    for (const [quantity, text] of Object.entries(texts)) {
      const condition = document.conditions.find((candidate) => candidate.quantity === quantity);
      if (!condition) throw new Error(`no condition “${quantity}”`);
      const takenAt = new Date(moment).toISOString();
      const seen = conditionKind(condition).read(text, condition);
      if ('problem' in seen) throw new Error(seen.problem);
      session.conditions.push({ conditionId: condition.id, at: when, takenAt, ...seen });
    }
  };
  const endSession = (session: Session, moment: number, conditions: Record<string, string>) => {
    readConditions(session, 'end', moment, conditions);
    session.endedAt = new Date(moment).toISOString();
    session.updatedAt = session.endedAt;
  };

  /** Records a reading of a run, read by its form from what would have been typed. */
  const record = (
    run: Run,
    moment: number,
    texts: Record<string, string>,
    session: Session,
    source: Reading['source'] = 'typed',
  ): Reading => {
    const form = readingForm(run.measurand.form);
    const read = form?.read(texts, run.measurand);
    if (!read || 'problem' in read) throw new Error(read?.problem ?? 'no form');
    const reading: Reading = {
      ...stamp(moment),
      itemId: run.itemId,
      measurandId: run.measurandId,
      sessionId: session.id,
      round: run.round,
      place: run.place,
      levels: run.setting.map(({ id, factorId }) => ({ factorId, levelId: id })),
      parts: read.parts,
      source,
      takenAt: new Date(moment).toISOString(),
    };
    document.readings.push(reading);
    return reading;
  };
  const decide = (moment: number, action: Decision['action'], about: Partial<Decision>) => {
    document.decisions.push({
      ...stamp(moment),
      ...{ action, readingId: null, sessionId: null, run: null, reason: '' },
      decidedAt: new Date(moment).toISOString(),
      ...about,
    });
  };
  /** Adds a file that readings are worked out from. */
  const keepFile = (name: string, file: string, bytes: number, moment: number): FilePart => {
    const added = { ...stamp(moment), name, file, bytes, note: '', addedAt: new Date(moment).toISOString() };
    document.files.push(added);
    return added;
  };
  /** Adds what full scale of a recorder is, by a calibrator's tone. */
  const calibrate = (
    of: Pick<Calibration, 'instrument' | 'fullScale'>,
    tone: Pick<Calibration, 'fileId' | 'channel' | 'toneFrom' | 'toneTo' | 'toneLevel'>,
    moment: number,
  ): Calibration => {
    const made = { ...stamp(moment), ...of, ...tone, calibratedAt: new Date(moment).toISOString(), note: '' };
    document.calibrations.push(made);
    return made;
  };
  /** Notes a misfire. */
  const misfire = (reading: Reading, moment: number, reason: string) => {
    decide(moment, 'misfire', { readingId: reading.id, reason });
  };
  const skip = ({ round, itemId, measurandId, levelIds }: Run, moment: number) => {
    decide(moment, 'skip', { run: { round, itemId, measurandId, levelIds } });
  };
  const unskip = ({ round, itemId, measurandId, levelIds }: Run, moment: number) => {
    decide(moment, 'unskip', { run: { round, itemId, measurandId, levelIds } });
  };
  const note = (
    text: string,
    moment: number,
    about: { readingId?: string; sessionId?: string; itemId?: string },
  ) => {
    document.notes.push({
      ...stamp(moment),
      ...{ readingId: null, itemId: null, sessionId: null, run: null, photo: null, removed: false },
      ...about,
      text,
      notedAt: new Date(moment).toISOString(),
    });
  };
  /** Puts the readings into the order of their time, where some were taken later than their place in the queue. */
  const inOrder = () => {
    document.readings.sort((a, b) => byText(a.id, b.id));
    document.decisions.sort((a, b) => byText(a.id, b.id));
  };
  return {
    document,
    start,
    startSession,
    readConditions,
    endSession,
    record,
    keepFile,
    calibrate,
    misfire,
    skip,
    unskip,
    note,
    inOrder,
  };
}
