import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import dixonReference from '../reference/dixon.json' with { type: 'json' };
import { dixonLimit } from './dixon-limits.ts';
import { screeningRule } from './index.ts';
import { peirceRatio } from './peirce.ts';
import type { RuleName } from './rule.ts';

const screen = (
  name: RuleName,
  values: number[],
  parameter: number | null = null,
  limits = { low: null, high: null } as { low: number | null; high: number | null },
) => screeningRule(name).screen(values, { alpha: 0.05, parameter, limits });
const left = (name: RuleName, values: number[], parameter: number | null = null) =>
  screen(name, values, parameter)
    .leftOut.map(({ index }) => values[index] as number)
    .sort((a, b) => a - b);

describe('Dixon', () => {
  it.each(dixonReference.limits)('has the simulated limits at n = $n', ({ n, oneSided }) => {
    for (const [level, limit] of Object.entries(oneSided)) {
      expect(Math.abs((dixonLimit(n, 2 * Number(level)) ?? 0) - limit)).toBeLessThan(1e-9);
    }
  });
  // Rorabacher (1991), table 1, two-sided 95 %, from memory.
  it.each([
    [3, 0.97],
    [4, 0.829],
    [5, 0.71],
    [6, 0.625],
    [7, 0.568],
  ])('agrees with Rorabacher’s limit at n = %i', (n, published) => {
    expect(Math.abs((dixonLimit(n, 0.05) ?? 0) - published)).toBeLessThan(0.003);
  });
  it('has limits that grow as the level falls, also beyond the table', () => {
    for (const n of [3, 7, 10, 13, 30]) {
      const limits = [0.2, 0.1, 0.04, 0.01, 0.004, 0.001].map((alpha) => dixonLimit(n, alpha) as number);
      limits.reduce((before, limit) => {
        expect(limit).toBeGreaterThan(before);
        return limit;
      }, 0);
      expect(limits[5]).toBeLessThan(1);
    }
    expect(dixonLimit(2, 0.05)).toBeUndefined();
    expect(dixonLimit(31, 0.05)).toBeUndefined();
  });
  it('takes the larger of both ends, by the ratio that suits the number', () => {
    // n = 5, r10: 0.5/0.8 = 0.625 is under 0.710; 1.5/1.8 = 0.833 over it.
    expect(left('dixon', [10, 10.1, 10.2, 10.3, 10.8])).toEqual([]);
    expect(left('dixon', [10, 10.1, 10.2, 10.3, 11.8])).toEqual([11.8]);
    // The ratio steps over one more reading at an end from 8, 11 and 14 readings on.
    const ratio = (n: number) => {
      const values = Array.from({ length: n }, (_, i) => (i === n - 1 ? 100 : i === 1 ? 5 : i));
      const sorted = values.toSorted((a, b) => a - b);
      const [found] = screen('dixon', values).leftOut;
      const gap = (near: number, far: number) =>
        ((sorted[n - 1] as number) - (sorted[n - 1 - near] as number)) /
        ((sorted[n - 1] as number) - (sorted[far] as number));
      return { found: found?.statistic, gap };
    };
    for (const [n, near, far] of [
      [7, 1, 0],
      [8, 1, 1],
      [10, 1, 1],
      [11, 2, 1],
      [13, 2, 1],
      [14, 2, 2],
    ] as const) {
      const { found, gap } = ratio(n);
      expect(found).toBeCloseTo(gap(near, far), 12);
    }
    expect(left('dixon', [8.5, 10, 10.1, 10.2, 10.3])).toEqual([8.5]);
    // n = 8, r11: the second largest is the end of the range.
    const [out] = screen('dixon', [1, 2, 3, 4, 5, 6, 7, 30]).leftOut;
    expect(out?.statistic).toBeCloseTo((30 - 7) / (30 - 2), 12);
  });
  it('leaves equal readings alone', () => {
    expect(left('dixon', [5, 5, 5, 5])).toEqual([]);
  });
});

describe('Peirce', () => {
  // Ross (2003), table of R, from memory; his 1.196 for three readings is not what Gould's equations give (1.216).
  it.each([
    [4, 1, 1.383],
    [5, 1, 1.509],
    [5, 2, 1.2],
    [10, 1, 1.878],
    [10, 2, 1.57],
    [10, 3, 1.38],
    [10, 4, 1.237],
    [60, 1, 2.663],
  ])('has R(%i readings, %i doubtful) = %d', (n, doubtful, published) => {
    expect(Math.abs(peirceRatio(n, doubtful) - published)).toBeLessThan(0.0011);
  });
  it('finds both bad readings of the published example', () => {
    // Ross (2003), cylinder pressures.
    expect(left('peirce', [101.2, 90, 99, 102, 103, 100.2, 89, 98.1, 101.5, 102])).toEqual([89, 90]);
  });
  it('keeps its digits for a long series', () => {
    expect(peirceRatio(100000, 1)).toBeGreaterThan(4);
    expect(peirceRatio(100000, 1)).toBeLessThan(5);
  });
});

describe('Chauvenet', () => {
  it('leaves out the period that Taylor leaves out', () => {
    // Taylor, An Introduction to Error Analysis, 6.1: 3.8, 3.5, 3.9, 3.9, 3.4, 1.8 s.
    expect(left('chauvenet', [3.8, 3.5, 3.9, 3.9, 3.4, 1.8])).toEqual([1.8]);
  });
});

describe('fences', () => {
  it('stand at 1.5 interquartile ranges of R’s quartiles', () => {
    // R: quantile(c(1:9, 20)) gives 3.25 and 7.75; the fence is at 14.5.
    expect(left('fences', [1, 2, 3, 4, 5, 6, 7, 8, 9, 20])).toEqual([20]);
    expect(left('fences', [1, 2, 3, 4, 5, 6, 7, 8, 9, 14.5])).toEqual([]);
    expect(left('fences', [1, 2, 3, 4, 5, 6, 7, 8, 9, 20], 3)).toEqual([]);
  });
});

describe('trimmed mean', () => {
  it('takes a share from each end, and says when that is nothing', () => {
    const values = Array.from({ length: 20 }, (_, i) => i);
    expect(left('trimmed', values)).toEqual([0, 1, 18, 19]);
    expect(left('trimmed', values, 0.25)).toHaveLength(10);
    expect(screen('trimmed', values).trim).toEqual({ perEnd: 2, of: 20 });
    expect(screen('trimmed', [1, 2, 3]).notAvailable).toContain('needs 10 readings');
  });
});

describe('limits of plausibility', () => {
  it('leave out what the plan calls impossible, and need limits', () => {
    const found = screen('plausibility', [1, 5, 9], null, { low: 2, high: 8 });
    expect(found.leftOut.map(({ index, limit }) => [index, limit])).toEqual([
      [0, 2],
      [2, 8],
    ]);
    expect(screen('plausibility', [1]).notAvailable).toContain('states none');
  });
});

describe('any school', () => {
  const names: RuleName[] = ['dixon', 'fences', 'chauvenet', 'peirce', 'trimmed'];
  it.each(names)('%s leaves something, and decides alike in another unit', (name) => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 80 }), { minLength: 1, maxLength: 30 }), (values) => {
        const out = left(name, values);
        expect(out.length).toBeLessThan(values.length);
        expect(
          left(
            name,
            values.map((value) => 1000 * value),
          ),
        ).toEqual(out.map((value) => 1000 * value));
      }),
    );
  });
});
