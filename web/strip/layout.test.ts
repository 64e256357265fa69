import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { MARK_COUNT } from '../../core/model/words.ts';
import {
  FOOT,
  MARK_RADIUS,
  type StripLane,
  apart,
  clearHeight,
  fullDomain,
  keptDomain,
  marksSuitRatios,
  nearestMark,
  placeMarks,
  placedAlike,
  shareAlong,
  suitsRatios,
} from './layout.ts';
import { MARKS } from '../../core/model/marks.ts';

const lane = (values: number[], out: number[] = [], interval: [number, number] | null = null): StripLane => ({
  id: 'a',
  name: 'A',
  code: 'A',
  mark: 0,
  mean: null,
  interval,
  marks: [...values, ...out].map((value, i) => ({
    id: String(i),
    value,
    out: i >= values.length,
    title: '',
  })),
});

describe('the stretch of the axis', () => {
  it('follows the readings that count, not a far one that is left out', () => {
    const lanes = [lane([3, 3.4], [0.3])];
    expect(keptDomain(lanes).min).toBeGreaterThan(2.5);
    expect(fullDomain(lanes).min).toBeLessThan(0.3);
  });
  it('is not stretched by a huge interval of two readings', () => {
    const { min, max } = keptDomain([lane([3, 3.4], [], [-50, 60])]);
    expect(max - min).toBeLessThan(1);
  });
  it('has some width for one reading, for equal ones and for none', () => {
    for (const lanes of [[lane([5])], [lane([5, 5])], [lane([0])], [lane([])], []]) {
      const { min, max } = keptDomain(lanes);
      expect(max).toBeGreaterThan(min);
    }
  });
  it('holds the margin band of the leader', () => {
    const { max } = keptDomain([lane([3, 3.4])], { from: 3.2, to: 3.45, label: '' });
    expect(max).toBeGreaterThan(3.45);
  });
});

describe('a crowd of marks', () => {
  const placedOf = (count: number, out = false) =>
    Array.from({ length: count }, (_, i) => ({
      mark: { id: String(i), value: i, out, title: '' },
      ...{ lane: 0, x: (i * 0.37) % 300, y: 10 + (i % 3) },
    }));
  it('is drawn whole while it is small', () => {
    const few = placedOf(200);
    expect(apart(few)).toBe(few);
  });
  it('is drawn once for each spot, so that no spot stays empty', () => {
    for (const [count, reach] of [
      [1000, 2],
      [20000, 3],
    ] as const) {
      const all = placedOf(count);
      const drawn = apart(all);
      expect(drawn.length).toBeLessThan(all.length);
      const isNear = ({ x, y }: { x: number; y: number }) =>
        drawn.some((shown) => Math.abs(shown.x - x) <= reach && Math.abs(shown.y - y) <= reach);
      expect(all.every(isNear)).toBe(true);
    }
  });
  it('keeps what is left out apart from what counts', () => {
    const both = [...placedOf(3000), ...placedOf(3000, true)];
    const drawn = apart(both);
    expect(drawn.filter(({ mark }) => mark.out)).toHaveLength(drawn.length / 2);
  });
});

describe('an axis of equal ratios', () => {
  it('suits values above 0 that span three times and more', () => {
    expect(suitsRatios([1, 3])).toBe(true);
    expect(suitsRatios([1, 2.9])).toBe(false);
    expect(suitsRatios([0, 3])).toBe(false);
    expect(suitsRatios([-1, 3])).toBe(false);
    expect(suitsRatios([])).toBe(false);
    // Of marks those that count.
    expect(marksSuitRatios([lane([1, 2], [9])])).toBe(false);
    expect(marksSuitRatios([lane([1, 2], [9]), lane([3], [])])).toBe(true);
    expect(marksSuitRatios([lane([], [1, 9])])).toBe(false);
  });
  it('puts equal ratios at equal lengths, with as much room at both ends', () => {
    const domain = keptDomain([lane([1, 100])], undefined, true);
    expect(domain.ratios).toBe(true);
    expect(shareAlong(domain, 10)).toBeCloseTo(0.5, 12);
    expect(domain.min).toBeCloseTo(1 / domain.max / 0.01, 9);
    expect(domain.min).toBeGreaterThan(0);
  });
  it('is above 0 whatever was left out, and parks at its edge what has no logarithm', () => {
    const lanes = [lane([1, 30], [-2, 0, 4000], [-5, 12])];
    const [near, full] = [keptDomain(lanes, undefined, true), fullDomain(lanes, undefined, true)];
    expect(near.min).toBeGreaterThan(0);
    expect(full.min).toBeGreaterThan(0);
    expect(full.max).toBeGreaterThan(4000);
    const placed = placeMarks(lanes[0]?.marks ?? [], (value) => 500 * shareAlong(near, value), 0, 50, 500);
    expect(placed.filter(({ parked }) => parked === 'left').map(({ mark }) => mark.value)).toEqual([-2, 0]);
    expect(placed.filter(({ parked }) => parked === 'right').map(({ mark }) => mark.value)).toEqual([4000]);
  });
});

describe('the marks of a lane', () => {
  const marksOf = (values: number[]) => lane(values).marks;
  const heights = fc.integer({ min: 30, max: 60 });
  it('never leave their lane, however many fall on one spot', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 300 }), { maxLength: 200 }),
        heights,
        fc.integer({ min: 0, max: 5 }),
        (values, height, row) => {
          for (const { x, y } of placeMarks(marksOf(values), (value) => value, row, height, 300)) {
            expect(y - MARK_RADIUS).toBeGreaterThanOrEqual(row * height);
            expect(y + MARK_RADIUS).toBeLessThanOrEqual((row + 1) * height - FOOT + 0.001);
            expect(x).toBeGreaterThanOrEqual(0);
            expect(x).toBeLessThanOrEqual(300);
          }
        },
      ),
    );
  });
  it('do not touch while there is room', () => {
    const placed = placeMarks(marksOf([100, 102, 150]), (value) => value, 0, 60, 300);
    const [first, second] = placed;
    expect(
      Math.hypot((first?.x ?? 0) - (second?.x ?? 0), (first?.y ?? 0) - (second?.y ?? 0)),
    ).toBeGreaterThanOrEqual(9);
  });
  it('are parked at the edge when they lie beyond it', () => {
    const placed = placeMarks(marksOf([-40, 100, 900]), (value) => value, 0, 50, 300);
    expect(placed.map(({ parked }) => parked)).toEqual(['left', undefined, 'right']);
  });
  it('leave room for words, or are not covered by them', () => {
    const height = (values: number[], wanted = 70) =>
      clearHeight(
        placeMarks(marksOf(values), (value) => value, 1, 50, 300),
        { from: 20, to: 80 },
        wanted,
        { lane: 1, laneHeight: 50 },
      );
    expect(height([100, 120, 200])).toBe(70);
    // One mark on the floor of the lane: above it.
    expect(height([50], 82)).toBeLessThan(72);
    expect(height([50, 50, 50])).toBeUndefined();
    // Beside the words any number may stand.
    expect(height([10, 10, 10, 90, 90, 90], 82)).toBe(82);
  });
  it('stand where they stood while only their looks change, and are placed again where one comes, goes or moves', () => {
    const place = (marks: StripLane['marks']) => placeMarks(marks, (value) => value, 1, 50, 300);
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -20, max: 320 }), { minLength: 1, maxLength: 60 }),
        fc.array(fc.nat({ max: 59 }), { maxLength: 8 }),
        (values, turned) => {
          const marks = marksOf(values);
          const placed = place(marks);
          const changed = marks.map((mark, i) => (turned.includes(i) ? { ...mark, out: !mark.out } : mark));
          expect(placedAlike(changed, { marks, placed })).toEqual(place(changed));
          const [first, ...rest] = changed as [(typeof changed)[0], ...typeof changed];
          for (const other of [rest, [...changed, first], [{ ...first, value: first.value + 1 }, ...rest]])
            expect(placedAlike(other, { marks, placed })).toBeUndefined();
        },
      ),
    );
    const many = marksOf(Array.from({ length: 40 }, (_, i) => i));
    const all = many.map((mark) => ({ ...mark, out: true }));
    expect(placedAlike(all, { marks: many, placed: place(many) })).toBeUndefined();
  });
  it('are found by a pointer that is near, and not by one that is far', () => {
    const placed = [
      placeMarks(marksOf([100, 200]), (value) => value, 0, 50, 300),
      placeMarks(marksOf([150]), (value) => value, 1, 50, 300),
    ];
    const target = placed[0]?.[1];
    expect(nearestMark(placed, 203, (target?.y ?? 0) - 4, 50)?.mark.value).toBe(200);
    expect(nearestMark(placed, 250, 25, 50)).toBeUndefined();
    expect(nearestMark(placed, 150, 80, 50)?.mark.value).toBe(150);
    expect(nearestMark([], 10, 10, 50)).toBeUndefined();
  });
});

describe('the twelve marks', () => {
  it('each have a shape of their own', () => {
    expect(MARKS).toHaveLength(MARK_COUNT);
    expect(new Set(MARKS.map(({ outline }) => outline)).size).toBe(MARK_COUNT);
    expect(new Set(MARKS.map(({ shape }) => shape)).size).toBe(MARK_COUNT);
  });
});
