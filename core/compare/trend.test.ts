import { describe, expect, it } from 'vitest';
import intervals from '../reference/intervals.json' with { type: 'json' };
import { CLOSE, expectRelative } from '../testing.ts';
import { lineInterval } from './line-interval.ts';
import { kendallTauB, leastSquares, pearson, spearman } from './trend.ts';

const { cars } = intervals;

// Ezekiel (1930), stopping distance against speed; expected values by R's cor.test and lm.
describe('a trend', () => {
  it('of stopping distances is that of R', () => {
    const found = pearson(cars.x, cars.y, 0.05);
    expectRelative(found?.r, cars.pearson, CLOSE);
    expectRelative(found?.interval?.[0], cars.pearsonCi95[0] as number, CLOSE);
    expectRelative(found?.interval?.[1], cars.pearsonCi95[1] as number, CLOSE);
    expectRelative(found?.p, cars.p, 1e-4); // below 1e-6 an absolute 1e-10 is asked
    expectRelative(spearman(cars.x, cars.y), cars.spearman, CLOSE);
    expectRelative(kendallTauB(cars.x, cars.y), cars.kendallTauB, CLOSE);
  });
  it('has the line of R', () => {
    const line = leastSquares(cars.x, cars.y, 0.05);
    expectRelative(line?.slope, cars.slope, CLOSE);
    expectRelative(line?.slopeSe, cars.slopeSe, CLOSE);
    expectRelative(line?.intercept, cars.intercept, CLOSE);
    expect(line?.df).toBe(48);
  });
  it('has a band about its line, as R’s predict has', () => {
    // R 4.2: predict(lm(dist ~ speed, cars), data.frame(speed = c(4, 15, 25)), interval = "confidence")
    const line = leastSquares(cars.x, cars.y, 0.05);
    for (const [speed, low, high] of [
      [4, -12.3295433285, 8.63062362052],
      [15, 37.0211521535, 45.79292083916],
      [25, 71.5960826527, 89.86616552245],
    ] as const) {
      const band = line?.spread && lineInterval(line, line.spread, speed);
      expectRelative(band?.[0], low, CLOSE);
      expectRelative(band?.[1], high, CLOSE);
    }
    expect(leastSquares([1, 2], [1, 2], 0.05)?.spread).toBeNull();
  });
  it('without spread, or of too few points, is not told', () => {
    expect(pearson([1, 1, 1], [1, 2, 3], 0.05)).toBeUndefined();
    expect(pearson([1, 2], [1, 2], 0.05)).toBeUndefined();
    expect(spearman([1, 1], [1, 2])).toBeUndefined();
    expect(kendallTauB([1, 1], [1, 2])).toBeUndefined();
    expect(leastSquares([2, 2], [1, 2], 0.05)).toBeUndefined();
    expect(leastSquares([1, 2], [1, 2], 0.05)).toMatchObject({ slope: 1, slopeInterval: null });
  });
  it('of a perfect order is 1, of its reverse −1', () => {
    expect(spearman([1, 2, 3], [10, 20, 30])).toBeCloseTo(1, 12);
    expect(kendallTauB([1, 2, 3], [3, 2, 1])).toBe(-1);
    expect(pearson([1, 2, 3, 4], [2, 4, 6, 8], 0.05)).toEqual({ r: 1, interval: null, p: 0 });
  });
});
