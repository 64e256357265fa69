import { describe, expect, it } from 'vitest';
import quantiles from '../reference/quantiles.json' with { type: 'json' };
import { CLOSE, expectRelative } from '../testing.ts';
import {
  chiSquaredUpper,
  digamma,
  fUpper,
  studentizedRangeQuantileUpper,
  studentizedRangeUpper,
  tQuantileUpper,
  tTwoSided,
  tUpper,
  trigamma,
  trigammaInverse,
} from './index.ts';
import { normalQuantileUpper, normalUpper } from './normal.ts';

// Source of quantiles.json: R, qtukey and qt.
describe('distributions against R', () => {
  it.each(quantiles.studentT)('t of $df df is exceeded with 1 − $probability', ({ probability, df, t }) => {
    expectRelative(tQuantileUpper(1 - probability, df), t, CLOSE);
    expectRelative(tUpper(t, df), 1 - probability, CLOSE);
  });

  it.each(quantiles.studentizedRange)(
    'studentized range of $groups items, $df df, $probability',
    ({ probability, groups, df, q }) => {
      expectRelative(studentizedRangeQuantileUpper(1 - probability, groups, df), q, CLOSE);
      expectRelative(studentizedRangeUpper(q, groups, df), 1 - probability, 1e-5);
    },
  );

  it('keeps the digits of a small upper tail', () => {
    // Standard normal beyond 8: 6.220960574271785e-16 (R, pnorm(8, lower.tail = FALSE); value from memory).
    expectRelative(normalUpper(8), 6.220960574271785e-16, CLOSE);
    expect(tTwoSided(40, 12)).toBeLessThan(1e-13);
    expect(tTwoSided(40, 12)).toBeGreaterThan(0);
  });

  it('agrees with itself where distributions meet', () => {
    // F with one df is the square of t; χ² with one df the square of the normal.
    expectRelative(fUpper(2.5 ** 2, 1, 9), tTwoSided(2.5, 9), CLOSE);
    expectRelative(chiSquaredUpper(1.3 ** 2, 1), 2 * normalUpper(1.3), CLOSE);
    // The range of two items is √2 times |t|.
    expectRelative(studentizedRangeUpper(2.1 * Math.SQRT2, 2, 15), tTwoSided(2.1, 15), CLOSE);
    expectRelative(tQuantileUpper(0.025, Number.POSITIVE_INFINITY), normalQuantileUpper(0.025), 1e-12);
  });

  it('stays sane outside the range that is used', () => {
    expect(studentizedRangeUpper(-1, 3, 10)).toBe(1);
    expect(studentizedRangeUpper(0, 3, 10)).toBe(1);
    expect(studentizedRangeUpper(500, 3, 10)).toBeLessThan(1e-10);
    expect(studentizedRangeQuantileUpper(0.05, 3, 1e9)).toBeCloseTo(3.3145, 3);
    expect(tTwoSided(0, 5)).toBe(1);
  });
});

describe('the upper tail of F', () => {
  // R: pf(f, df1, df2, lower.tail = FALSE).
  it.each([
    [3.2, 4, 24, 3.06323419795863e-2],
    [6.25, 1, 9, 3.38618276829857e-2],
    [100, 5, 30, 8.9058972829648e-18],
    [1e-5, 3, 7, 0.999999951802105],
    [2, 5, 1e6, 7.5236237855306e-2],
    [1.001, 1e6, 1e6, 0.308625549571],
  ])('of %d with %d and %d df meets R', (f, df1, df2, expected) => {
    expectRelative(fUpper(f, df1, df2), expected, 1e-10);
  });
  it('is one at zero and below', () => {
    expect(fUpper(0, 3, 5)).toBe(1);
    expect(fUpper(-1, 3, 5)).toBe(1);
  });
  it('turns over with its degrees of freedom', () => {
    for (const [f, a, b] of [
      [0.3, 5, 6],
      [2.2, 6, 11],
      [1, 40, 3],
    ] as const) {
      expectRelative(fUpper(f, a, b), 1 - fUpper(1 / f, b, a), 1e-10);
    }
  });
});

describe('digamma and trigamma', () => {
  it('have their known values', () => {
    // DLMF 5.4: ψ(1) = −γ, ψ′(1) = π²/6, ψ′(1/2) = π²/2.
    expectRelative(-digamma(1), 0.5772156649015329, 1e-12);
    expectRelative(trigamma(1), Math.PI ** 2 / 6, 1e-12);
    expectRelative(trigamma(0.5), Math.PI ** 2 / 2, 1e-12);
  });
  it.each([1e-3, 0.1, 0.5, 1, 2.5, 20, 400, 1e5])('trigamma of %d is turned back', (x) => {
    expectRelative(trigammaInverse(trigamma(x)), x, 1e-8);
  });
});
