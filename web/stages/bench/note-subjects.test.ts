import { describe, expect, it } from 'vitest';
import { runQueue } from '../../../core/bench/queue.ts';
import { testId, testStudy } from '../../../core/testing-study.ts';
import { noteSubjects } from './note-subjects.ts';

const study = testStudy(['Ama', 'Bel'], { runOrder: 'fixed' });
const reading = study.read(0, 1, '3');
const [done, toCome] = runQueue(study.document);
const [sessionId, lastId] = [testId(), testId()];
const values = (...given: Parameters<typeof noteSubjects>) =>
  noteSubjects(...given).map(({ value }) => value);

describe('what a note at the bench can be about', () => {
  it('is first of all the reading of a run that is done', () => {
    expect(values(done, undefined, sessionId)).toEqual(['reading', 'run', 'item', 'session']);
    expect(noteSubjects(done, undefined, sessionId)[0]?.about.readingId).toBe(reading.id);
  });
  it('is the run that is to come, and the reading just before it', () => {
    expect(values(toCome, lastId, undefined)).toEqual(['run', 'last', 'item']);
    expect(noteSubjects(toCome, lastId, undefined)[0]?.about).toMatchObject({
      readingId: null,
      run: { itemId: toCome?.itemId, round: 1 },
    });
  });
  it('names the reading at hand once, where it is the last one too', () => {
    expect(values(done, reading.id, undefined)).toEqual(['reading', 'run', 'item']);
  });
  it('is about one thing each, and nothing where there is nothing', () => {
    for (const { about } of noteSubjects(done, lastId, sessionId)) {
      expect(Object.values(about).filter((id) => id !== null)).toHaveLength(1);
    }
    expect(noteSubjects(undefined, undefined, undefined)).toEqual([]);
  });
});
