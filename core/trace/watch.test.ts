import { describe, expect, it } from 'vitest';
import { seededRandom } from '../random/seeded.ts';
import type { Series } from './series.ts';
import { gapsOf, usualStep, watchWindow } from './watch.ts';

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

describe('where the limits lie', () => {
  /** Rows a second apart, or where `times` says, each moved on from the last one. */
  function moved(moves: readonly number[], times?: readonly number[], first = 0): string[] {
    const values = [first];
    for (const move of moves) values.push((values.at(-1) as number) + move);
    const series = {
      times: Float64Array.from(times ?? values.map((_, i) => i)),
      values: Float64Array.from(values),
    };
    return watchWindow(series, { from: 0, to: Infinity }, 1, {}, 'm').map((sentence) =>
      sentence.replaceAll('\u202f', ' '),
    );
  }
  const ramp = (length: number, at: number, move: number) => Array<number>(length).fill(1).with(at, move);

  it('a gap is more than two and a half usual steps', () => {
    expect(gapsOf(Float64Array.of(0, 1, 2, 4.5, 5, 8, 9), 1)).toEqual([{ from: 5, lengthS: 3 }]);
    expect(moved(ramp(12, 0, 1), [0, 1, 5, 6, 7, 11, 12, 13, 14, 15, 18, 19, 23])).toEqual([
      '4 gaps of 0:00:15 in all, from 0:00:01, 0:00:07 and 0:00:15 and later: a straight line stands in.',
    ]);
    expect(moved(ramp(11, 0, 1), [0, 1, 5, 6, 7, 11, 12, 13, 14, 15, 18, 19])[0]).toMatch(
      /^3 gaps of 0:00:11 in all, from 0:00:01, 0:00:07 and 0:00:15: a/,
    );
  });
  it('a jump is more than ten times the usual change of the steps', () => {
    expect(moved(ramp(20, 4, 11))).toEqual([]);
    expect(moved(ramp(20, 4, 11.1))).toEqual(['It jumps by +10 m at 0:00:05. Did a probe slip?']);
    // Steps of 0.5 and 1.5 lie 0.5 from the one in the middle: 10 · 1.4826 · 0.5.
    const uneven = (move: number) =>
      Array.from({ length: 21 }, (_, i) => 0.5 + (i % 2))
        .with(10, 1)
        .with(5, move);
    expect(moved(uneven(8.4))).toEqual([]);
    expect(moved(uneven(8.5))).toHaveLength(1);
  });
  it('a jump is more than a fiftieth of all that changes, wherever zero lies', () => {
    expect(moved(ramp(1000, 400, 21.3))).toEqual([]);
    expect(moved(ramp(1000, 400, 21.5))).toEqual(['It jumps by +21 m at 0:06:41. Did a probe slip?']);
    expect(moved(ramp(1000, 400, 21.5), undefined, 5000)).toHaveLength(1);
    expect(moved(ramp(1000, 400, 21.3), undefined, -1010)).toEqual([]);
  });
  it('a jump is none over a gap, and the first of two that are as large', () => {
    const times = (length: number) => Array.from({ length: 21 }, (_, i) => (i > 4 ? i - 1 + length : i));
    expect(moved(ramp(20, 4, 30), times(2.5))).toHaveLength(1);
    expect(moved(ramp(20, 4, 30), times(2.6))).toEqual([
      expect.stringMatching(/^A gap of .*, from 0:00:04: a straight line stands in\.$/),
    ]);
    expect(moved(ramp(20, 4, 30).with(9, 30))).toEqual(['It jumps by +29 m at 0:00:05. Did a probe slip?']);
  });
  it('ten rows are enough to see a jump', () => {
    expect(moved(ramp(9, 4, 30))).toEqual(['It jumps by +29 m at 0:00:05. Did a probe slip?']);
    expect(moved(ramp(8, 4, 30))).toEqual(['Only 9 rows in the window.']);
  });
  it('a curve does not hold where it is off by more than three times the noise', () => {
    // Values ± 0.1: the changes of their changes are 0.4, and 0.4/√6 is the noise.
    const off = (by: number, rows = 20) => {
      const values = Float64Array.from({ length: rows }, (_, i) => by + (i % 2 === 0 ? 0.1 : -0.1));
      const times = values.map((_, i) => i);
      return watchWindow({ times, values }, { from: 0, to: 99 }, 1, { curve: () => 0 }, 'm');
    };
    expect(off(0.478)).toEqual([]);
    expect(off(0.482)).toEqual([
      'It does not follow the fitted curve: it is off by up to 0.58\u202fm, more than its noise.',
    ]);
    expect(off(0.482, 10)).toHaveLength(1);
    expect(off(0.482, 9)).toEqual(['Only 9 rows in the window.']);
  });
  it('the step of an instrument that moves seldom is noise too', () => {
    // One step of 1 in twenty rows: its noise is 1/√12, more than that of so few changes.
    const values = Float64Array.from({ length: 40 }, (_, i) => (i < 20 ? 0 : 1));
    const off = (by: number) =>
      watchWindow(
        { times: values.map((_, i) => i), values },
        { from: 0, to: 99 },
        1,
        { curve: () => by },
        'm',
      ).length;
    // Off by b and b − 1, as often the one as the other: √(b² − b + 1/2) against 3/√12.
    expect([off(0.5), off(-0.2), off(-0.22)]).toEqual([0, 0, 1]);
  });
});
