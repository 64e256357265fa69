import { describe, expect, it } from 'vitest';
import { halved, turningPoint } from './halving.ts';

describe('the stretch in which something turns', () => {
  it('is halved until no number lies between its ends', () => {
    const [before, after] = halved(0, 8, (x) => x * x < 2);
    expect(before * before < 2 && after * after >= 2).toBe(true);
    expect(after - before).toBeLessThanOrEqual(Number.EPSILON);
    expect(turningPoint(0, 8, (x) => x * x < 2)).toBeCloseTo(Math.SQRT2, 15);
  });
  it('may be gone through downwards', () => {
    const [before, after] = halved(1, 0, (share) => share > 0.3);
    expect(before).toBeGreaterThan(after);
    expect(after).toBe(0.3);
  });
  it('is no nearer than is asked', () => {
    expect(halved(0, 8, (x) => x < 3, 1)).toEqual([2, 3]);
    expect(halved(0, 8, (x) => x < 3, 8)).toEqual([0, 8]);
  });
  it('ends where it never turns, turns at once, or is no stretch', () => {
    expect(turningPoint(0, 1, () => true)).toBeCloseTo(1, 15);
    expect(turningPoint(0, 1, () => false)).toBeLessThan(1e-300);
    expect(halved(5, 5, () => true)).toEqual([5, 5]);
    expect(halved(0, Number.NaN, () => true)).toEqual([0, Number.NaN]);
  });
});
