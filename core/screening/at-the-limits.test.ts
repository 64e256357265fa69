import { describe, expect, it } from 'vitest';
import { dixon } from './dixon.ts';
import { modifiedZ } from './modified-z.ts';

describe('Dixon’s ratio', () => {
  /** Readings 1, 2, … and one far off at the end. */
  const statistic = (n: number) => {
    const values = Float64Array.from({ length: n }, (_, i) => (i === n - 1 ? 1000 : i + 1));
    return dixon.screen(values, { alpha: 0.05, parameter: null }).leftOut[0]?.statistic;
  };
  // Dixon (1953): r10 of 3 to 7, r11 of 8 to 10, r21 of 11 to 13, r22 of 14 to 30.
  it.each([
    [7, (1000 - 6) / (1000 - 1)],
    [8, (1000 - 7) / (1000 - 2)],
    [10, (1000 - 9) / (1000 - 2)],
    [11, (1000 - 9) / (1000 - 2)],
    [13, (1000 - 11) / (1000 - 2)],
    [14, (1000 - 12) / (1000 - 3)],
    [30, (1000 - 28) / (1000 - 3)],
  ])('of %d readings is that of its kind', (n, expected) => {
    expect(statistic(n)).toBeCloseTo(expected, 12);
  });
  it('is not looked up for fewer than 3 or more than 30', () => {
    for (const n of [2, 31])
      expect(dixon.screen(new Float64Array(n), { alpha: 0.05, parameter: null }).notAvailable).toContain(
        `there are ${String(n)}`,
      );
  });
});

describe('the modified z-score', () => {
  const screened = (values: number[], parameter: number | null = 3) =>
    modifiedZ.screen(Float64Array.from(values), { alpha: 0.05, parameter });
  it('leaves out what is beyond its limit, and not what is at it', () => {
    // Median 3, median absolute deviation 1: z is the distance times 0.6745, as Iglewicz and Hoaglin (1993) print it.
    const at = 3 + 3 / 0.6744897501960817;
    expect(screened([1, 2, 3, 4, 5, 3, at - 1e-6, 1.5]).leftOut).toHaveLength(0);
    expect(screened([2, 2, 3, 4, 4, 3, 2, 4, 9]).leftOut).toMatchObject([{ index: 8, limit: 3 }]);
  });
  it('has nothing to say of two, nor of readings that are all the same', () => {
    expect(screened([1, 2]).notAvailable).toBe('needs 3 readings, there are 2');
    expect(screened([1, 2, 3])).toEqual({ leftOut: [] });
    expect(screened([4, 4, 4, 4])).toEqual({ leftOut: [] });
  });
});
