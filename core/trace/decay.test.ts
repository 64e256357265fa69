import { describe, expect, it } from 'vitest';
import { fitDecay, multipleOf } from './decay.ts';

/** An exponential decay to `rest`, a row each second. */
function decaying(rows: number, tau: number, rest = 0) {
  const times = Float64Array.from({ length: rows }, (_, i) => i);
  return { times, values: times.map((t) => rest + 4 * Math.exp(-t / tau)) };
}
const tauOf = (found: ReturnType<typeof fitDecay>) => ('problem' in found ? found.problem : found.tau);

describe('how far an interval reaches', () => {
  const alternating = (length: number) => Float64Array.from({ length }, (_, i) => (i % 2 === 0 ? 1 : -1));
  it('is that of t where residuals do not hang together', () => {
    // qt(.975, 10), qt(.975, 6)
    expect(multipleOf(alternating(12), 2, 0.05)).toBeCloseTo(2.2281388519863, 6);
    expect(multipleOf(alternating(8), 2, 0.05)).toBeCloseTo(2.446911851145, 6);
    expect(multipleOf(alternating(7), 2, 0.05)).toBeUndefined();
    expect(multipleOf(new Float64Array(12), 2, 0.05)).toBeCloseTo(2.2281388519863, 6);
  });
  it('grows where they are like their neighbours', () => {
    const inThrees = Float64Array.from({ length: 36 }, (_, i) => (Math.floor(i / 3) % 2 === 0 ? 1 : -1));
    // r <- 13 / 36; w <- 36 * (1 - r) / (1 + r); sqrt((1 + r) / (1 - r)) * qt(.975, w - 2)
    expect(multipleOf(inThrees, 2, 0.05)).toBeCloseTo(3.1129226217775, 6);
    expect(multipleOf(inThrees.slice(0, 12), 2, 0.05)).toBeUndefined();
  });
});

describe('a time constant', () => {
  it('needs three rows more than it has unknowns', () => {
    expect(tauOf(fitDecay(decaying(6, 4, 1), false, 0.05))).toBeCloseTo(4, 6);
    expect(tauOf(fitDecay(decaying(5, 4, 1), false, 0.05))).toBe(
      'A time constant needs 6 rows in the window at least.',
    );
    expect(tauOf(fitDecay(decaying(5, 4), true, 0.05))).toBeCloseTo(4, 6);
    expect(tauOf(fitDecay(decaying(4, 4), true, 0.05))).toMatch(/needs 5 rows/);
  });
  it('of ten windows is a straight line, but for what is known to come to rest at zero', () => {
    expect(tauOf(fitDecay(decaying(101, 980, 1), false, 0.05))).toBeCloseTo(980, 1);
    expect(tauOf(fitDecay(decaying(101, 1020, 1), false, 0.05))).toMatch(/^The window is too straight/);
    expect(tauOf(fitDecay(decaying(101, 1020), true, 0.05))).toBeCloseTo(1020, 2);
  });
  it('is over before the second row, or is not', () => {
    expect(tauOf(fitDecay(decaying(12, 1.2), true, 0.05))).toBeCloseTo(1.2, 6);
    expect(tauOf(fitDecay(decaying(12, 0.05), true, 0.05))).toBe(
      'It is over before the second row: log faster.',
    );
  });
  it('has its curve, and no interval where too few rows are left to say one', () => {
    const found = fitDecay(decaying(7, 4, 1), false, 0.05);
    expect(found).toMatchObject({ interval: undefined });
    expect('height' in found && [found.height(0), found.height(4)]).toEqual([
      expect.closeTo(5, 6),
      expect.closeTo(1 + 4 / Math.E, 6),
    ]);
  });
  it('does not change where nothing does', () => {
    const { times } = decaying(9, 1);
    expect(tauOf(fitDecay({ times, values: times.map(() => 3) }, false, 0.05))).toMatch(
      /^It does not change/,
    );
  });
});
