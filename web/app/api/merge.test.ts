import { describe, expect, it } from 'vitest';
import { testStudy } from '../../../core/testing-study.ts';
import { withOutgoing } from './merge.ts';

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
