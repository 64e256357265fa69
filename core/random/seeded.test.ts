import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { chiSquaredUpper } from '../distributions/index.ts';
import { moments } from '../summary/moments.ts';
import { mixedRandom, seededRandom, shuffled } from './seeded.ts';

describe('a seeded source', () => {
  it('gives the same draws for the same seed and stream, others for another', () => {
    const draws = (seed: number, stream = 0) => {
      const random = seededRandom(seed, stream);
      return Array.from({ length: 20 }, () => random.below(1000));
    };
    expect(draws(7)).toEqual(draws(7));
    expect(draws(8)).not.toEqual(draws(7));
    expect(draws(7, 1)).not.toEqual(draws(7));
    expect(draws(4294967295)).toEqual(draws(4294967295));
  });
  it('has streams that begin unlike each other, however near', () => {
    const firsts = (lag: number) =>
      Array.from({ length: 4000 }, (_, seed) => [
        mixedRandom(seed, 1).unit(),
        mixedRandom(seed, 1 + lag).unit(),
      ]);
    for (const lag of [1, 2, 3, 5, 8, 13]) {
      const product = firsts(lag).reduce((sum, [a = 0, b = 0]) => sum + (a - 0.5) * (b - 0.5), 0);
      // The correlation of 4,000 independent pairs has a standard error of 1/√4000; five of them.
      expect(Math.abs((12 * product) / 4000)).toBeLessThan(5 / Math.sqrt(4000));
    }
  });
  it('takes each number about equally often', () => {
    const random = seededRandom(1);
    const counts = new Float64Array(10);
    for (let draw = 0; draw < 20000; draw += 1) {
      const place = random.below(10);
      counts[place] = (counts[place] as number) + 1;
    }
    const statistic = counts.reduce((sum, count) => sum + (count - 2000) ** 2 / 2000, 0);
    // Pearson's χ² with 9 degrees of freedom.
    expect(chiSquaredUpper(statistic, 9)).toBeGreaterThan(0.001);
  });
  it('draws a standard normal', () => {
    const random = seededRandom(2);
    const draws = Float64Array.from({ length: 20000 }, () => random.normal());
    const { mean, sumOfSquares } = moments(draws);
    // Five standard errors: 5/√20000 and 5·√(2/20000).
    expect(Math.abs(mean)).toBeLessThan(0.036);
    expect(Math.abs(sumOfSquares / 19999 - 1)).toBeLessThan(0.05);
    const beyond = draws.filter((x) => Math.abs(x) > 1.959964).length / 20000;
    expect(Math.abs(beyond - 0.05)).toBeLessThan(0.008);
  });
  it('stays within its bounds', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 4294967295 }), fc.integer({ min: 1, max: 50 }), (seed, n) => {
        const random = seededRandom(seed);
        for (let draw = 0; draw < 20; draw += 1) {
          expect(random.below(n)).toBeLessThan(n);
          const unit = random.unit();
          expect(unit > 0 && unit < 1).toBe(true);
        }
      }),
    );
  });
});

describe('a shuffle', () => {
  it('keeps what it is given, each once, and leaves the list alone', () => {
    fc.assert(
      fc.property(fc.array(fc.integer()), fc.integer({ min: 0, max: 1000 }), (values, seed) => {
        const before = [...values];
        const after = shuffled(values, seededRandom(seed));
        expect(values).toEqual(before);
        expect([...after].sort((a, b) => a - b)).toEqual([...values].sort((a, b) => a - b));
      }),
    );
  });
});
