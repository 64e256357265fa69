import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { testStudy } from '../../core/testing-study.ts';
import type { StudyDocument } from '../../core/model/study-document.ts';
import { changedStudy, studyChange } from './held.ts';

const copied = <T>(value: T): T => structuredClone(value);

describe('the study that the worker holds', () => {
  it('is sent whole once, and then what has changed', () => {
    const { document, read } = testStudy(['Ama', 'Bel']);
    read(0, 1, '3');
    const first = { ...document, readings: [...document.readings] };
    const whole = studyChange(first, undefined);
    const held = changedStudy(undefined, copied(whole));
    expect(held).toEqual(first);

    read(1, 1, '4');
    const second: StudyDocument = { ...first, readings: [...first.readings, document.readings[1] as never] };
    const change = studyChange(second, { number: 1, document: first });
    expect(Object.keys(change.fields)).toEqual(['readings']);
    expect(change.fields.readings).toMatchObject({ from: 1 });
    expect(changedStudy(held, copied(change))).toEqual(second);
  });
  it('is the same after any edits of its lists', () => {
    const list = fc.array(fc.integer({ min: 0, max: 5 }), { maxLength: 12 });
    fc.assert(
      fc.property(list, list, (before, after) => {
        const base = { readings: before } as unknown as StudyDocument;
        const next = { readings: after } as unknown as StudyDocument;
        const change = studyChange(next, { number: 1, document: base });
        expect(changedStudy(base, copied(change)).readings).toEqual(after);
      }),
    );
  });
});
