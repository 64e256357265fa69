import { describe, expect, it } from 'vitest';
import { type Series, cutTo, firstAtOrAfter, less, seriesOf, valueAt, within } from './series.ts';
import { thinned } from './thin.ts';

const series = (times: number[], values: number[]): Series => ({
  times: Float64Array.from(times),
  values: Float64Array.from(values),
});
const plain = ({ times, values }: Series) => [[...times], [...values]];
const TENT = series([0, 2, 4], [1, 5, 3]);

describe('rows of a trace', () => {
  it.each([
    [0, 0],
    [1, 0],
    [2, 1],
    [5, 2],
    [6, 3],
  ])('not before %d s begin at place %d', (time, place) => {
    expect(firstAtOrAfter(Float64Array.of(1, 3, 5), time)).toBe(place);
  });
  it('have a value each, or are left out', () => {
    expect(seriesOf(TENT.times, TENT.values).values).toBe(TENT.values);
    expect(plain(seriesOf(TENT.times, Float64Array.of(Number.NaN, 5, Number.NaN)))).toEqual([[2], [5]]);
  });
  it('are joined by straight lines, and nothing is said of before and after', () => {
    expect([0, 1, 2, 3, 4].map((time) => valueAt(TENT, time))).toEqual([1, 3, 5, 4, 3]);
    expect([-1, 5].map((time) => valueAt(TENT, time))).toEqual([Number.NaN, Number.NaN]);
  });
  it('lie within a window from its first moment to its last', () => {
    const of = (from: number, to: number) => [...within(TENT, { from, to }).times];
    expect([of(0, 4), of(2, 2), of(1, 3), of(2.5, 3), of(3, 9)]).toEqual([[0, 2, 4], [2], [2], [], [4]]);
  });
  it('of a window have its ends, worked out where there are none', () => {
    const of = (from: number, to: number) => plain(cutTo(TENT, { from, to }));
    expect(of(0, 2)).toEqual([
      [0, 2],
      [1, 5],
    ]);
    expect(of(1, 4)).toEqual([
      [1, 2, 4],
      [3, 5, 3],
    ]);
    expect(of(0, 3)).toEqual([
      [0, 2, 3],
      [1, 5, 4],
    ]);
    expect(of(2.5, 3)).toEqual([
      [2.5, 3],
      [4.5, 4],
    ]);
  });
  it('less those of another trace are left where that has none', () => {
    expect(plain(less(TENT, series([1, 5], [1, 5])))).toEqual([
      [2, 4],
      [3, -1],
    ]);
  });
});

describe('a picture of few rows, or of many', () => {
  const ramp = (length: number) =>
    series(
      Array.from({ length }, (_, i) => i),
      Array.from({ length }, (_, i) => i),
    );
  const xs = (length: number, columns: number, window = { from: 0, to: length - 1 }) =>
    thinned(ramp(length), window, columns).map(({ x }) => x);
  it('has all of them, up to four a column', () => {
    expect(xs(8, 2)).toEqual([0, 1, 2, 3, 4, 5, 6, 7]);
    expect(xs(9, 2)).toEqual([0, 4, 5, 8]);
    expect(xs(12, 2)).toEqual([0, 5, 6, 11]);
  });
  it('has one row beyond either end', () => {
    expect(xs(10, 5, { from: 2, to: 6.5 })).toEqual([1, 2, 3, 4, 5, 6, 7]);
    expect(xs(10, 5, { from: 20, to: 30 })).toEqual([9]);
  });
  it('has the lowest and the highest of a column, the first of equal ones', () => {
    const rows = series([0, 1, 2, 3, 4, 5], [3, 9, 9, 1, 1, 2]);
    expect(thinned(rows, { from: 0, to: 5 }, 1)).toEqual([
      { x: 0, y: 3 },
      { x: 1, y: 9 },
      { x: 3, y: 1 },
      { x: 5, y: 2 },
    ]);
  });
});
