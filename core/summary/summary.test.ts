import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import newcomb from '../reference/newcomb.json' with { type: 'json' };
import plantGrowth from '../reference/plant-growth.json' with { type: 'json' };
import { CLOSE, EXACT, expectRelative } from '../testing.ts';
import { instrumentUncertainty } from './instrument-uncertainty.ts';
import { moments } from './moments.ts';
import { medianAbsoluteDeviation, quantile, sorted } from './quantile.ts';
import { summarise } from './summary.ts';

// Steps of 1/1024 are exact in binary, so that a factor of eight is exact too.
const readings = fc.array(
  fc.integer({ min: -1024000, max: 1024000 }).map((steps) => steps / 1024),
  { minLength: 2, maxLength: 40 },
);

describe('summary against R', () => {
  // Newcomb (1882), 66 timings of light; R package MASS.
  it('gives Newcomb’s mean, SD, median, MAD and interval', () => {
    const { expected, values } = newcomb;
    const summary = summarise(values, 0.05);
    expectRelative(summary.mean, expected.mean, EXACT);
    expectRelative(summary.sd, expected.sd, EXACT);
    expect(summary.median).toBe(expected.median);
    expect(summary.mad).toBe(expected.mad);
    expectRelative(summary.interval?.[0], expected.ci95[0] as number, CLOSE);
    expectRelative(summary.interval?.[1], expected.ci95[1] as number, CLOSE);
    const without = summarise(
      values.filter((value) => value > 0),
      0.05,
    );
    expectRelative(without.mean, expected.meanWithoutThem, EXACT);
    expectRelative(without.sd, expected.sdWithoutThem, EXACT);
  });

  // Dobson (1983); R data set PlantGrowth.
  it.each(plantGrowth.expected.summary)('summarizes $item of PlantGrowth', (expected) => {
    const weights = plantGrowth.values.filter((_, i) => plantGrowth.items[i] === expected.item);
    const summary = summarise(weights, 0.05);
    expect(summary.n).toBe(expected.n);
    for (const name of ['mean', 'sd', 'se', 'median', 'mad', 'min', 'max', 'q1', 'q3'] as const) {
      expectRelative(summary[name], expected[name], EXACT);
    }
    expectRelative(summary.interval?.[0], expected.ci95[0] as number, CLOSE);
    expectRelative(summary.interval?.[1], expected.ci95[1] as number, CLOSE);
  });
});

describe('summary of few readings', () => {
  it('says nothing about the spread of one reading', () => {
    expect(summarise([3.4], 0.05)).toMatchObject({
      n: 1,
      mean: 3.4,
      sd: null,
      se: null,
      interval: null,
      cv: null,
    });
  });

  it('gives null and not NaN where there is no reading', () => {
    const summary = summarise([], 0.05);
    expect(Object.values(summary).some((value) => Number.isNaN(value))).toBe(false);
    expect(summary.mean).toBeNull();
  });

  it('has no coefficient of variation at a mean of zero', () => {
    expect(summarise([-1, 1], 0.05).cv).toBeNull();
  });
});

describe('moments', () => {
  it('keeps the digits of readings that share many', () => {
    // The idea of NIST StRD SmLs07: spread in the last digits of large numbers.
    const offset = 1e9;
    const small = [0.1, 0.4, 0.2, 0.3, 0.5, 0.25];
    const large = small.map((value) => offset + value * 1024); // exact in binary
    const shifted = moments(large);
    const plain = moments(small.map((value) => value * 1024));
    expectRelative(shifted.sumOfSquares, plain.sumOfSquares, 1e-7);
  });

  it('shifts with a constant and scales with a factor', () => {
    fc.assert(
      fc.property(readings, fc.double({ min: -100, max: 100, noNaN: true }), (values, shift) => {
        const plain = moments(values);
        const shifted = moments(values.map((value) => value + shift));
        const scaled = moments(values.map((value) => value * 8));
        expect(shifted.mean).toBeCloseTo(plain.mean + shift, 8);
        expect(shifted.sumOfSquares).toBeCloseTo(plain.sumOfSquares, 5);
        expect(scaled.mean).toBe(plain.mean * 8);
        expect(scaled.sumOfSquares).toBeCloseTo(plain.sumOfSquares * 64, 4);
      }),
    );
  });

  it('never gives a mean outside its readings', () => {
    fc.assert(
      fc.property(readings, (values) => {
        const { mean } = moments(values);
        const slack = 1e-12 * Math.max(1, ...values.map(Math.abs));
        expect(mean).toBeGreaterThanOrEqual(Math.min(...values) - slack);
        expect(mean).toBeLessThanOrEqual(Math.max(...values) + slack);
      }),
    );
  });
});

describe('quantiles', () => {
  it('interpolates as R’s type 7 does', () => {
    // R: quantile(c(1, 2, 3, 4), .25) is 1.75.
    expect(quantile([1, 2, 3, 4], 0.25)).toBe(1.75);
    expect(quantile([7], 0.9)).toBe(7);
    expect(quantile([], 0.5)).toBeNaN();
  });

  it('finds no deviation where more than half are equal', () => {
    expect(medianAbsoluteDeviation(sorted([2, 2, 2, 9]))).toBe(0);
  });
});

describe('winsorized standard error', () => {
  it('is that of Tukey and McLaughlin for a mean trimmed by one at each end', () => {
    // By hand: of 1 2 4 6 9 without 1 and 9, winsorized 2 2 4 6 6: mean 4, s² = 16/4 = 4; 2·√5/3.
    const { se, mean } = summarise([2, 4, 6], 0.05, { trim: { perEnd: 1, of: 5 } });
    expect(mean).toBe(4);
    expect(se).toBeCloseTo((2 * Math.sqrt(5)) / 3, 12);
  });
});

describe('instrument uncertainty', () => {
  const silent = { resolution: null, accuracyPercent: null, accuracyConstant: null };
  it('is a rectangle of half a step, doubled', () => {
    // GUM F.2.2.1: a step of 0.1 gives 0.1/√12 = 0.0289.
    expect(instrumentUncertainty({ ...silent, resolution: 0.1 }, 5)).toBeCloseTo(0.0577, 4);
  });
  it('adds the stated accuracy in squares', () => {
    const both = instrumentUncertainty({ resolution: 0.1, accuracyPercent: 2, accuracyConstant: 0.1 }, 10);
    expect(both).toBeCloseTo(2 * Math.hypot(0.1 / Math.sqrt(12), 0.3 / Math.sqrt(3)), 12);
  });
  it('is unknown where the instrument states nothing', () => {
    expect(instrumentUncertainty(silent, 5)).toBeUndefined();
  });
});
