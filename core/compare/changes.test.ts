import { describe, expect, it } from 'vitest';
import { seededRandom } from '../random/seeded.ts';
import { summarise } from '../summary/summary.ts';
import { type LevelSample, changesShown, levelChanges } from './changes.ts';

function sample(values: readonly number[], { step = 0, shared = true } = {}): LevelSample {
  const kept = Float64Array.from(values);
  return {
    sample: { item: 'Ama', kept, step, summary: summarise(kept, 0.05, { step }) },
    rounds: shared ? kept.map((_, round) => round) : undefined,
  };
}

/** Hours of sleep gained under two drugs by ten patients: Student (1908); R’s data set sleep. */
const SLEEP = [
  [0.7, -1.6, -0.2, -1.2, -0.1, 3.4, 3.7, 0.8, 0, 2],
  [1.9, 0.8, 1.1, 0.1, -0.1, 4.4, 5.5, 1.6, 4.6, 3.4],
];

describe('the changes that a page shows', () => {
  it('are those from the baseline and from level to level, each once', () => {
    expect(changesShown(3, 0)).toEqual([
      [0, 1],
      [0, 2],
      [1, 2],
    ]);
    // From the baseline back to the level before it is a step already.
    expect(changesShown(3, 2)).toEqual([
      [2, 0],
      [2, 1],
      [0, 1],
    ]);
    expect(changesShown(1, 0)).toEqual([]);
  });
});

describe('changes from level to level', () => {
  it('of one item at two levels in rounds are the paired t-test', () => {
    // R: t.test(extra ~ group, data = sleep, paired = TRUE).
    const [[change] = []] = levelChanges([SLEEP.map((values) => sample(values))], {
      pairs: [[0, 1]],
      alpha: 0.05,
      withinRounds: true,
    });
    expect(change?.difference).toBeCloseTo(1.58, 12);
    expect(change?.p).toBeCloseTo(0.00283289, 7);
    expect(change?.low).toBeCloseTo(0.7001142, 6);
    expect(change?.high).toBeCloseTo(2.4598858, 6);
  });
  it('outside rounds are Welch’s t-test', () => {
    // R: t.test(extra ~ group, data = sleep).
    const [[change] = []] = levelChanges([SLEEP.map((values) => sample(values))], {
      pairs: [[0, 1]],
      alpha: 0.05,
      withinRounds: false,
    });
    expect(change?.p).toBeCloseTo(0.0793941, 6);
    expect(change?.low).toBeCloseTo(-0.2054832, 6);
  });
  it('have an interval from two readings of each level on', () => {
    // R: t.test(c(3, 5), c(1, 2)).
    const [[change] = []] = levelChanges([[sample([1, 2]), sample([3, 5])]], {
      pairs: [[0, 1]],
      alpha: 0.05,
      withinRounds: false,
    });
    expect(change?.p).toBeCloseTo(0.198727388935, 7);
    expect(change?.low).toBeCloseTo(-4.41852283007, 6);
    const [[single] = []] = levelChanges([[sample([1]), sample([3, 5])]], {
      pairs: [[0, 1]],
      alpha: 0.05,
      withinRounds: false,
    });
    expect(single).toMatchObject({ difference: 3, low: null, p: null });
  });
  it('say nothing of a level that was not read, and only the difference of single readings', () => {
    const [changes] = levelChanges([[sample([1]), undefined, sample([4])]], {
      pairs: changesShown(3, 0),
      alpha: 0.05,
      withinRounds: true,
    });
    expect(changes?.[0]).toBeUndefined();
    expect(changes?.[1]).toMatchObject({ difference: 3, low: null, p: null });
    expect(changes?.[2]).toBeUndefined();
  });
  it('are never surer than the step of the readings allows', () => {
    const [[change] = []] = levelChanges(
      [[sample([0.5, 0.5, 0.5], { step: 0.1 }), sample([0.6, 0.6, 0.6], { step: 0.1 })]],
      { pairs: [[0, 1]], alpha: 0.05, withinRounds: true },
    );
    expect(change?.low).toBeLessThan(0);
  });
  it('grow wider with the number of items, since all hold at once', () => {
    const random = seededRandom(4);
    const rows = Array.from({ length: 8 }, () => [
      sample(Array.from({ length: 6 }, () => random.normal())),
      sample(Array.from({ length: 6 }, () => random.normal())),
    ]);
    const options = { pairs: [[0, 1]], alpha: 0.05, withinRounds: false } as const;
    const width = (items: typeof rows) => {
      const change = levelChanges(items, options)[0]?.[0];
      return (change?.high as number) - (change?.low as number);
    };
    expect(width(rows)).toBeGreaterThan(1.3 * width(rows.slice(0, 1)));
  });
  it('do not depend on the unit', () => {
    const random = seededRandom(11);
    const values = Array.from({ length: 3 }, () =>
      Array.from({ length: 3 }, () => Array.from({ length: 5 }, () => 20 + random.normal())),
    );
    const changes = (factor: number) =>
      levelChanges(
        values.map((levels) => levels.map((level) => sample(level.map((value) => value * factor)))),
        { pairs: changesShown(3, 0), alpha: 0.05, withinRounds: true },
      ).flat();
    changes(1024).forEach((change, i) => {
      expect(change?.p).toBeCloseTo(changes(1)[i]?.p as number, 9);
      expect((change?.low as number) / 1024).toBeCloseTo(changes(1)[i]?.low as number, 9);
    });
  });
});
