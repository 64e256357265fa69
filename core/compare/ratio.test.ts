import { describe, expect, it } from 'vitest';
import { tQuantileUpper } from '../distributions/index.ts';
import { seededRandom } from '../random/seeded.ts';
import { percentOf } from './ratio.ts';

describe('a difference in per cent', () => {
  const exact = { of: 2, mean: 3, varianceOf: 0, variance: 0.01, varianceOfDifference: 0.01 };
  it('is that of the ratio, and of a known mean just its interval', () => {
    const { percent, interval } = percentOf(exact, 2);
    expect(percent).toBeCloseTo(50, 12);
    expect(interval?.[0]).toBeCloseTo(40, 12);
    expect(interval?.[1]).toBeCloseTo(60, 12);
  });
  it('has the limits at which the test of the ratio just fails', () => {
    const pair = { of: 5, mean: 6, varianceOf: 0.04, variance: 0.09, varianceOfDifference: 0.1 };
    const critical = 2.3;
    const covariance = (0.04 + 0.09 - 0.1) / 2;
    for (const limit of percentOf(pair, critical).interval ?? []) {
      const ratio = 1 + limit / 100;
      const t = (6 - ratio * 5) / Math.sqrt(0.09 - 2 * ratio * covariance + ratio * ratio * 0.04);
      expect(Math.abs(t)).toBeCloseTo(critical, 9);
    }
  });
  it('has no interval where what it is compared with may be 0', () => {
    expect(percentOf({ ...exact, varianceOf: 4, varianceOfDifference: 4.01 }, 2).interval).toBeNull();
  });
  it('covers the true one in 95 of a hundred cases, also where rounds drift', () => {
    const random = seededRandom(4);
    const [rounds, studies] = [6, 2000];
    const critical = tQuantileUpper(0.025, rounds - 1);
    let covered = 0;
    for (let study = 0; study < studies; study += 1) {
      const drift = Array.from({ length: rounds }, () => 0.3 * random.normal());
      const [a, b] = [10, 12].map((mean) => drift.map((shift) => mean + shift + 0.4 * random.normal())) as [
        number[],
        number[],
      ];
      const mean = (values: number[]) => values.reduce((sum, value) => sum + value, 0) / rounds;
      const variance = (values: number[]) =>
        values.reduce((sum, value) => sum + (value - mean(values)) ** 2, 0) / (rounds - 1) / rounds;
      const { interval } = percentOf(
        {
          ...{ of: mean(a), mean: mean(b), varianceOf: variance(a), variance: variance(b) },
          varianceOfDifference: variance(b.map((value, i) => value - (a[i] as number))),
        },
        critical,
      );
      if (interval && interval[0] < 20 && interval[1] > 20) covered += 1;
    }
    // Three standard errors of the simulation are left to chance.
    expect(covered / studies).toBeGreaterThan(0.95 - 0.015);
  });
});
