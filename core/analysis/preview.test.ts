import { describe, expect, it } from 'vitest';
import { testStudy } from '../testing-study.ts';
import { studyPreview } from './preview.ts';

describe('what the list of studies shows', () => {
  it('counts what is done and planned, and marks each reading with its item', () => {
    const { document, items, read } = testStudy(['Ama', 'Bel']);
    read(0, 1, '3');
    read(1, 1, '5');
    read(1, 2, '6');
    const preview = studyPreview(document);
    expect(preview.runs).toEqual({ done: 3, of: 2 * document.study.rounds });
    expect(preview.marks).toEqual([
      { item: 0, value: 3, out: false },
      { item: 1, value: 5, out: false },
      { item: 1, value: 6, out: false },
    ]);
    expect(preview.items.map(({ id }) => id)).toEqual(items.map(({ id }) => id));
    expect(preview.means).toEqual([3, 5.5]);
  });
  it('shows what is left out, and keeps it out of the mean', () => {
    const { document, read, decide } = testStudy(['Ama']);
    read(0, 1, '3');
    decide('leave-out', { readingId: read(0, 2, '30').id, reason: 'a draught' });
    const { marks, means, runs } = studyPreview(document);
    expect(marks.map(({ out }) => out)).toEqual([false, true]);
    expect(means).toEqual([3]);
    expect(runs.done).toBe(2);
  });
  it('counts a run that was added at the bench', () => {
    const { document, items, measurand, read, decide } = testStudy(['Ama']);
    read(0, 1, '3');
    const { rounds } = document.study;
    const run = { round: rounds + 1, itemId: items[0]?.id ?? '', measurandId: measurand.id, levelIds: [] };
    decide('add-run', { run });
    expect(studyPreview(document).runs).toEqual({ done: 1, of: rounds + 1 });
  });
  it('shows a study without items or readings as empty', () => {
    const { document } = testStudy([]);
    expect(studyPreview(document)).toMatchObject({
      ...{ items: [], marks: [], means: [], runs: { done: 0, of: 0 }, lastReadingAt: null },
    });
    const { document: unread } = testStudy(['Ama']);
    expect(studyPreview(unread)).toMatchObject({ means: [null], lastReadingAt: null });
  });
  it('thins out the marks of a study with very many readings, and keeps its means', () => {
    const { document, read } = testStudy(['Ama']);
    for (let round = 1; round <= 1000; round += 1) read(0, round, String(round % 2));
    const { marks, means } = studyPreview(document);
    expect(marks.length).toBeLessThanOrEqual(400);
    expect(marks.length).toBeGreaterThan(200);
    expect(means[0]).toBeCloseTo(0.5, 12);
  });
  it('tells when the last reading was taken, also where readings came in out of order', () => {
    const { document, read } = testStudy(['Ama']);
    document.readings = [
      { ...read(0, 1, '3'), takenAt: '2026-05-04T12:00:00Z' },
      { ...read(0, 2, '3'), takenAt: '2026-05-04T11:00:00Z' },
    ];
    expect(studyPreview(document).lastReadingAt).toBe('2026-05-04T12:00:00Z');
  });
});
