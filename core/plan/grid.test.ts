import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Factor, Level } from '../model/parts.ts';
import { testId, testStudy } from '../testing-study.ts';
import { cellKey, factorLevels, gridCells, levelIdsOf, planSize, settingsOf } from './grid.ts';
import { studyDuration } from './duration.ts';
import { firstPlaceToCome, runQueue } from '../bench/queue.ts';
import { studyOrder } from './run-order.ts';

type Planned = ReturnType<typeof testStudy>;

/** Adds a factor with levels to a study. */
function addFactor({ document }: Planned, names: readonly string[], change: Partial<Factor> = {}): Level[] {
  const { id: studyId, createdAt, updatedAt } = document.study;
  const stamp = { studyId, version: 1, createdAt, updatedAt };
  const factor: Factor = {
    id: testId(),
    ...stamp,
    name: `Factor ${String(document.factors.length + 1)}`,
    kind: 'treatment',
    unit: '',
    irreversible: false,
    position: document.factors.length + 1,
    ...change,
  };
  document.factors.push(factor);
  const levels = names.map((name, i): Level => ({
    id: testId(),
    ...stamp,
    factorId: factor.id,
    name,
    value: null,
    baseline: false,
    position: i + 1,
  }));
  document.levels.push(...levels);
  return levels;
}

const items = (count: number) => Array.from({ length: count }, (_, i) => `Item ${String(i + 1)}`);

describe('the full grid', () => {
  it('has items times levels cells, and as many runs as rounds allow', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 6 }),
        fc.array(fc.integer({ min: 1, max: 4 }), { maxLength: 3 }),
        fc.integer({ min: 1, max: 4 }),
        (count, sizes, rounds) => {
          const planned = testStudy(items(count), { rounds });
          for (const size of sizes) addFactor(planned, items(size));
          const expected = count * sizes.reduce((product, size) => product * size, 1);
          expect(planSize(planned.document)).toMatchObject({ grid: expected, runs: expected * rounds });
          const cells = gridCells(planned.document);
          expect(cells).toHaveLength(expected);
          expect(new Set(cells.map(cellKey)).size).toBe(expected);
          expect(runQueue(planned.document)).toHaveLength(expected * rounds);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('leaves out the cells that were struck', () => {
    const planned = testStudy(items(3), { rounds: 2 });
    const [low, high] = addFactor(planned, ['low', 'high']) as [Level, Level];
    const [first, second] = planned.items.map(({ id }) => id) as [string, string];
    planned.document.study.struck = [
      { itemId: first, levelIds: [high.id] },
      { itemId: second, levelIds: [high.id] },
      { itemId: second, levelIds: [high.id] },
      { itemId: testId(), levelIds: [high.id] }, // of an item that is gone
    ];
    expect(planSize(planned.document)).toMatchObject({ grid: 6, struck: 2, runs: 8 });
    const taken = runQueue(planned.document).map(({ itemId, levelIds }) => cellKey({ itemId, levelIds }));
    expect(taken).toHaveLength(8);
    expect(taken).not.toContain(`${first}/${high.id}`);
    expect(taken).toContain(`${first}/${low.id}`);
  });

  it('of 50 000 runs is refused with the count, and not made', () => {
    const planned = testStudy(items(200), { rounds: 5 });
    addFactor(planned, items(10));
    addFactor(planned, items(5));
    const { refused, runs } = planSize(planned.document);
    expect(runs).toBe(50000);
    expect(refused).toContain('50000 runs');
    expect(runQueue(planned.document)).toEqual([]);
    expect(studyDuration(planned.document).totalS).toBe(0);
  });

  it('may have 20 000 runs, and as many cells where nothing is measured yet', () => {
    const refusedOf = (levels: number, rounds: number, measured = true) => {
      const planned = testStudy(items(100), { rounds });
      addFactor(planned, items(levels));
      if (!measured) planned.document.measurands = [];
      return planSize(planned.document).refused;
    };
    expect([refusedOf(20, 10), refusedOf(200, 1, false)]).toEqual([undefined, undefined]);
    expect(refusedOf(20, 11)).toContain('22000 runs');
    expect(refusedOf(201, 1, false)).toContain('20100 runs');
  });

  it('takes no notice of a factor without levels', () => {
    const planned = testStudy(items(2), { rounds: 2 });
    addFactor(planned, []);
    expect(planSize(planned.document).runs).toBe(4);
    expect(factorLevels(planned.document)).toEqual([]);
  });

  it('takes the level that is marked for the baseline, else the first', () => {
    const planned = testStudy(items(2));
    const levels = addFactor(planned, ['1 bar', '2 bar']);
    expect(factorLevels(planned.document)[0]?.baseline.name).toBe('1 bar');
    (levels[1] as Level).baseline = true;
    expect(factorLevels(planned.document)[0]?.baseline.name).toBe('2 bar');
  });
});

describe('an order with levels', () => {
  it.each(['shuffled-rounds', 'full-shuffle', 'fixed', 'balanced-square'] as const)(
    '%s takes every cell once a round',
    (runOrder) => {
      const planned = testStudy(items(4), { rounds: 3, runOrder });
      addFactor(planned, ['a', 'b', 'c']);
      const order = studyOrder(planned.document);
      expect(order).toHaveLength(36);
      expect(new Set(order.map((run) => `${String(run.round)} ${cellKey(run)}`)).size).toBe(36);
    },
  );

  it.each(['shuffled-rounds', 'full-shuffle', 'fixed', 'balanced-square'] as const)(
    '%s never cuts a sample that is still needed whole',
    (runOrder) => {
      fc.assert(
        fc.property(fc.integer({ min: 0, max: 99999 }), (seed) => {
          const planned = testStudy(items(3), { rounds: 4, runOrder, seed });
          addFactor(planned, ['dry', 'wet']);
          const [whole, cut] = addFactor(planned, ['whole', 'cut'], { irreversible: true }) as [Level, Level];
          const order = studyOrder(planned.document);
          const lastWhole = order.findLastIndex(({ levelIds }) => levelIds.includes(whole.id));
          const firstCut = order.findIndex(({ levelIds }) => levelIds.includes(cut.id));
          expect(lastWhole).toBeLessThan(firstCut);
          expect(order).toHaveLength(48);
        }),
        { numRuns: 30 },
      );
    },
  );

  it('of a balanced square lets each item follow each other equally often within the settings', () => {
    const planned = testStudy(items(4), { rounds: 4, runOrder: 'balanced-square' });
    addFactor(planned, ['a', 'b']);
    const order = studyOrder(planned.document);
    const pairs = new Map<string, number>();
    order.forEach(({ itemId, levelIds, round }, i) => {
      const before = order[i - 1];
      if (before?.round !== round || before.levelIds.join() !== levelIds.join()) return;
      const key = `${before.itemId} ${itemId}`;
      pairs.set(key, (pairs.get(key) ?? 0) + 1);
    });
    // Two squares of four rows: each of the twelve ordered pairs twice.
    expect([...pairs.values()]).toEqual(Array(12).fill(2));
  });

  it('puts the runs to come in order again and leaves the others', () => {
    const planned = testStudy(items(4), { rounds: 5 });
    const { document } = planned;
    const before = studyOrder(document);
    before.slice(0, 6).forEach(({ itemId, round }) => {
      planned.read(
        planned.items.findIndex(({ id }) => id === itemId),
        round,
        '10',
      );
    });
    expect(firstPlaceToCome(document)).toBe(6);
    document.study.reorders = [
      { place: 6, kind: 'shuffled-rounds', seed: 77, madeAt: '2026-05-04T10:00:00Z' },
    ];
    const after = studyOrder(document);
    expect(after.slice(0, 6)).toEqual(before.slice(0, 6));
    expect(after).not.toEqual(before);
    expect(after.map((run) => run.round)).toEqual(before.map((run) => run.round));
    const named = (order: typeof after) => order.map((run) => `${String(run.round)} ${cellKey(run)}`).sort();
    expect(named(after)).toEqual(named(before));
    // The runs that were done are still known as done.
    expect(runQueue(document).filter(({ state }) => state === 'done')).toHaveLength(6);
    document.study.reorders.push({
      place: 10,
      kind: 'full-shuffle',
      seed: 3,
      madeAt: '2026-05-04T11:00:00Z',
    });
    expect(named(studyOrder(document))).toEqual(named(before));
    expect(studyOrder(document).slice(0, 10)).toEqual(after.slice(0, 10));
  });
});

describe('the queue', () => {
  it('asks for a measurand only on its items, and never for a derived one', () => {
    const planned = testStudy(items(3), { rounds: 2 });
    const { document, measurand } = planned;
    const only = planned.items[1]?.id as string;
    document.measurands.push(
      { ...measurand, id: testId(), name: 'Noise', onItems: [only], position: 2 },
      { ...measurand, id: testId(), name: 'Pull per noise', expression: 'pull / noise', position: 3 },
    );
    const queue = runQueue(document);
    expect(queue.filter(({ measurand: { name } }) => name === 'Noise').map(({ itemId }) => itemId)).toEqual([
      only,
      only,
    ]);
    expect(queue).toHaveLength(8);
    expect(planSize(document).runs).toBe(8);
  });

  it('knows a run by its levels too', () => {
    const planned = testStudy(items(2), { rounds: 1 });
    const [a, b] = addFactor(planned, ['a', 'b']) as [Level, Level];
    const reading = planned.read(0, 1, '5');
    reading.levels = [{ factorId: b.factorId, levelId: b.id }];
    const queue = runQueue(planned.document);
    const state = (level: Level) =>
      queue.find((run) => run.itemId === planned.items[0]?.id && run.levelIds.includes(level.id))?.state;
    expect(state(b)).toBe('done');
    expect(state(a)).toBe('to come');
    expect(queue[0]?.setting).toHaveLength(1);
    expect(settingsOf(factorLevels(planned.document)).map(levelIdsOf)).toEqual([[a.id], [b.id]]);
  });
});
