import { readingForm } from '../core/forms/index.ts';
import type { Reading } from '../core/model/parts.ts';
import type { StudyDocument } from '../core/model/study-document.ts';
import { type PlanPattern, studyFromPattern } from '../core/plan/pattern.ts';
import type { Run } from '../core/plan/queue.ts';

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
  const demoId = (at: number): string => {
    made += 1;
    const time = at.toString(16).padStart(12, '0');
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
  const stamp = (at: number) => {
    const instant = new Date(at).toISOString();
    return { id: demoId(at), studyId: document.study.id, version: 1, createdAt: instant, updatedAt: instant };
  };

  /** Records a reading of a run, read by its form from what would have been typed. */
  const record = (run: Run, at: number, texts: Record<string, string>): Reading => {
    const form = readingForm(run.measurand.form);
    const read = form?.read(texts, run.measurand);
    if (!read || 'problem' in read) throw new Error(read?.problem ?? 'no form');
    const reading: Reading = {
      ...stamp(at),
      itemId: run.itemId,
      measurandId: run.measurandId,
      sessionId: null,
      round: run.round,
      place: run.place,
      levels: run.setting.map(({ id, factorId }) => ({ factorId, levelId: id })),
      parts: read.parts,
      source: 'typed',
      takenAt: new Date(at).toISOString(),
      note: '',
      photo: null,
    };
    document.readings.push(reading);
    return reading;
  };
  /** Notes a misfire. */
  const misfire = (reading: Reading, at: number, reason: string) => {
    document.decisions.push({
      ...stamp(at),
      action: 'misfire',
      readingId: reading.id,
      run: null,
      reason,
      decidedAt: new Date(at).toISOString(),
    });
  };
  return { document, start, record, misfire };
}
