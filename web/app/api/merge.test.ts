import { describe, expect, it } from 'vitest';
import { testStudy } from '../../../core/testing-study.ts';
import { steadyDocument, withOutgoing } from './merge.ts';

describe('a study with readings on their way', () => {
  const { document, read, decide } = testStudy(['Ama']);
  const stored = read(0, 1, '3');
  const waiting = { ...stored, id: 'waiting' };
  const decision = decide('leave-out', { readingId: stored.id, reason: 'x' });
  document.decisions.length = 0;

  it('shows them behind those that are stored, once each', () => {
    const merged = withOutgoing(document, [
      { key: 'a', kind: 'readings', part: stored },
      { key: 'b', kind: 'readings', part: waiting },
      { key: 'c', kind: 'decisions', part: decision },
    ]);
    expect(merged.readings.map(({ id }) => id)).toEqual([stored.id, 'waiting']);
    expect(merged.decisions).toEqual([decision]);
  });
  it('does not show what was refused, nor what is another study’s', () => {
    const merged = withOutgoing(document, [
      { key: 'a', kind: 'readings', part: waiting, refused: 'no such item' },
      { key: 'b', kind: 'readings', part: { ...waiting, studyId: 'other' } },
    ]);
    expect(merged.readings).toEqual([stored]);
  });
  it('is the very document when nothing is on its way', () => {
    expect(withOutgoing(document, [])).toBe(document);
  });
});

describe('what the server has acknowledged', () => {
  const { document, read } = testStudy(['Ama']);
  read(0, 1, '3');
  const last = document.readings.at(-1) as (typeof document.readings)[number];
  const changed = (change: Partial<typeof last>) => ({
    ...document,
    readings: [...document.readings.slice(0, -1), { ...last, ...change }],
  });
  it('is the state before, where it differs by its stamps alone', () => {
    const acknowledged = changed({
      createdAt: '2026-05-05T10:00:00.000Z',
      updatedAt: '2026-05-05T10:00:00.000Z',
    });
    expect(steadyDocument(document, acknowledged)).toBe(document);
    expect(steadyDocument(undefined, acknowledged)).toBe(acknowledged);
  });
  it('shares its parts with a state that goes on from it', () => {
    const more = changed({ createdAt: '2026-05-05T10:00:00.000Z' });
    more.readings.push({ ...last, id: 'more' });
    const steady = steadyDocument(document, more);
    expect(steady).toEqual({ ...document, readings: [...document.readings, { ...last, id: 'more' }] });
    expect(steady.readings[0]).toBe(document.readings[0]);
    expect(steady.decisions).toBe(document.decisions);
  });
  it.each([
    ['a part of another version', changed({ version: 2 })],
    ['another value inside a part', changed({ parts: { value: '4' } as never })],
    ['a part more', { ...document, readings: [...document.readings, { ...last, id: 'more' }] }],
    ['a part less', { ...document, readings: [] }],
    ['another study field', { ...document, study: { ...document.study, rounds: 9 } }],
  ])('is a new state with %s', (_what, after) => {
    expect(steadyDocument(document, after)).toEqual(after);
    expect(steadyDocument(document, after)).not.toBe(document);
  });
});
