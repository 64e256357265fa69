import { describe, expect, it } from 'vitest';
import { testStudy } from '../testing-study.ts';
import { openingEarly, openingEarlyWords, queueGroups } from './irreversible.ts';
import { runQueue } from './queue.ts';

/** Two items in two rounds, read whole and then cut, which cannot be undone. */
function cutStudy() {
  const made = testStudy(['Ama', 'Bel'], { rounds: 2 });
  const { document } = made;
  const stamp = {
    studyId: document.study.id,
    version: 1,
    createdAt: '2026-01-01T00:00:00.000Z',
    updatedAt: '2026-01-01T00:00:00.000Z',
  };
  document.factors.push({
    ...{ id: '00000000-0000-4000-8000-00000000000f', ...stamp, name: 'State', kind: 'treatment', unit: '' },
    ...{ irreversible: true, position: 1 },
  });
  const [whole, cut] = ['Whole', 'Cut'].map((name, i) => ({
    ...{ id: `00000000-0000-4000-8000-00000000000${String(i)}`, ...stamp, name, value: null },
    ...{ factorId: '00000000-0000-4000-8000-00000000000f', baseline: false, position: i + 1 },
  }));
  document.levels.push(whole as never, cut as never);
  return { ...made, whole: whole as { id: string }, cut: cut as { id: string } };
}

describe('a level from which there is no way back', () => {
  it('stands behind the earlier one in the queue, round by round', () => {
    const { document } = cutStudy();
    const titles = queueGroups(document, runQueue(document)).map(({ title, runs }) => [title, runs.length]);
    expect(titles).toEqual([
      ['Whole: round 1 of 2', 2],
      ['Whole: round 2 of 2', 2],
      ['Cut: round 1 of 2', 2],
      ['Cut: round 2 of 2', 2],
    ]);
  });
  it('is not opened while an earlier one is unread, and what would be lost is said', () => {
    const { document, cut } = cutStudy();
    const queue = runQueue(document);
    const run = queue.find(({ levelIds }) => levelIds.includes(cut.id));
    if (!run) throw new Error('no run of it');
    const early = openingEarly(document, queue, run);
    expect(early?.lost).toHaveLength(2);
    expect(early && openingEarlyWords(early)).toBe(
      `2 readings of ${run.item.name} at Whole are not taken. At Cut there is no way back to them.`,
    );
    const skipped = queue.map((other) =>
      other === early?.lost[0] ? { ...other, state: 'skipped' as const } : other,
    );
    expect(openingEarlyWords(openingEarly(document, skipped, run) as never)).toContain('1 of them skipped');
    const oneLeft = queue.map((other) =>
      other === early?.lost[0] ? { ...other, state: 'done' as const } : other,
    );
    expect(openingEarlyWords(openingEarly(document, oneLeft, run) as never)).toBe(
      `1 reading of ${run.item.name} at Whole is not taken. At Cut there is no way back to it.`,
    );
  });
  it('opens once all before it is read, and stays open once the item is there', () => {
    const { document, whole, cut } = cutStudy();
    const queue = runQueue(document);
    const isAt = (levelIds: readonly string[], { id }: { id: string }) => levelIds.includes(id);
    const allRead = queue.map((run) =>
      isAt(run.levelIds, whole) ? { ...run, state: 'done' as const } : run,
    );
    const [first, second] = allRead.filter(({ levelIds }) => isAt(levelIds, cut));
    expect(first && openingEarly(document, allRead, first)).toBeUndefined();
    const there = queue.map((run) => (run.key === first?.key ? { ...run, state: 'done' as const } : run));
    const later = there.find(
      ({ itemId, state, levelIds }) => itemId === first?.itemId && state !== 'done' && isAt(levelIds, cut),
    );
    expect(later && openingEarly(document, there, later)).toBeUndefined();
    const other = there.find(({ itemId, levelIds }) => itemId !== first?.itemId && isAt(levelIds, cut));
    expect(other && openingEarly(document, there, other)?.lost).toHaveLength(2);
    expect(second).toBeDefined();
  });
  it('heads a queue that is shuffled as a whole once', () => {
    const { document } = testStudy(['Ama', 'Bel'], { rounds: 3, runOrder: 'full-shuffle' });
    expect(queueGroups(document, runQueue(document)).map(({ title }) => title)).toEqual(['In this order']);
  });
});
