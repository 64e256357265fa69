import { describe, expect, it } from 'vitest';
import { seededRandom } from '../random/seeded.ts';
import type { Series } from './series.ts';
import { usualStep, watchWindow } from './watch.ts';

/** A flask that cools for 12 h, read each minute to a tenth of a degree. */
function cooling(change: (t: number, value: number) => number): Series {
  const random = seededRandom(3);
  const times = Float64Array.from({ length: 721 }, (_, i) => 60 * i);
  const values = times.map((t) => {
    const value = change(t, 20 + 70 * Math.exp(-t / 18000)) + 0.1 * random.normal();
    return Math.round(10 * value) / 10;
  });
  return { times, values };
}
const NIGHT = { from: 0, to: 43200 };
const curve = (t: number) => 20 + 70 * Math.exp(-t / 18000);
const watch = (series: Series, window = NIGHT) =>
  watchWindow(series, window, usualStep(series.times), { curve }, '°C');

describe('the usual step', () => {
  it('is that of two rows, and there is none of one', () => {
    expect(usualStep(Float64Array.of(3, 8))).toBe(5);
    expect(usualStep(Float64Array.of(3, 8, 10, 12, 14))).toBe(2);
    expect(usualStep(Float64Array.of(3))).toBeNaN();
  });
});

describe('what to look at in a window', () => {
  it('is nothing where all is well', () => {
    expect(watch(cooling((_t, value) => value))).toEqual([]);
  });
  it('is a probe that slipped: the jump and its moment', () => {
    const [jump] = watch(cooling((t, value) => (t >= 14400 ? value - 6 : value)));
    expect(jump).toMatch(/^It jumps by −6(\.\d)?\u202f°C at 4:00:00\. Did a probe slip\?$/);
  });
  it('is a jump upwards too', () => {
    const [jump] = watch(cooling((t, value) => (t >= 14400 ? value + 6 : value)));
    expect(jump).toMatch(/^It jumps by \+6(\.\d)?\u202f°C at 4:00:00\./);
  });
  it('is a jump of what moves little, far from zero', () => {
    const [jump] = watch(cooling((t, value) => 5000 + (t >= 14400 ? value - 6 : value)));
    expect(jump).toMatch(/^It jumps by −6(\.\d)?\u202f°C at 4:00:00\./);
  });
  it('is a lid left loose: the curve does not hold', () => {
    const found = watch(
      cooling((t, value) => (t < 10800 ? value : 20 + (value - 20) * Math.exp(-(t - 10800) / 20000))),
    );
    expect(found).toHaveLength(1);
    expect(found[0]).toMatch(/^It does not follow the fitted curve: it is off by up to \d/);
  });
  it('is a gap, and few rows', () => {
    const { times, values } = cooling((_t, value) => value);
    const there = (_: number, i: number) => i < 100 || i > 160;
    const gappy = { times: times.filter(there), values: values.filter(there) };
    expect(watch(gappy)).toEqual(['A gap of 1:02:00, from 1:39:00: a straight line stands in.']);
    expect(watch(gappy, { from: 0, to: 300 })).toEqual(['Only 6 rows in the window.']);
  });
});
