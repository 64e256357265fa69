import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { referenceRates } from './reference-rate.ts';

const MINUTE = 60_000;
const read = (minutes: readonly number[], references: readonly number[], stretch = '') =>
  minutes.map((minute, i) => ({ stretch, time: minute * MINUTE, reference: references[i] as number }));

describe('how fast a reference changed', () => {
  it('is its slope between the neighbours on both sides, and at an end to the one that is there', () => {
    expect(referenceRates(read([0, 1, 2, 4], [10, 11, 14, 14]))).toEqual([1, 2, 1, 0]);
  });
  it('is of its own stretch, in whatever order it was written down', () => {
    const both = [...read([0, 2], [10, 12], 'a'), ...read([1, 3], [90, 90], 'b')];
    expect(referenceRates(both)).toEqual([1, 1, 0, 0]);
    expect(referenceRates([...both].reverse())).toEqual([0, 0, 1, 1]);
  });
  it('is not known of a single reading, of readings at one moment, and from neighbours half an hour away', () => {
    expect(referenceRates([])).toEqual([]);
    expect(referenceRates(read([5], [20]))).toEqual([null]);
    expect(referenceRates(read([5, 5], [20, 21]))).toEqual([null, null]);
    expect(referenceRates(read([0, 31], [20, 51]))).toEqual([null, null]);
    expect(referenceRates(read([0, 30], [20, 50]))).toEqual([1, 1]);
  });
  it('skips what was read at the same moment', () => {
    expect(referenceRates(read([0, 1, 1, 2], [10, 11, 11, 12]))).toEqual([1, 1, 1, 1]);
  });
  it('of a line is its slope everywhere', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 0, max: 25 }), { minLength: 2, maxLength: 12 }),
        fc.integer({ min: -40, max: 40 }),
        (minutes, slope) => {
          const rates = referenceRates(
            read(
              minutes,
              minutes.map((minute) => 7 + slope * minute),
            ),
          );
          for (const rate of rates) expect(rate).toBeCloseTo(slope, 9);
        },
      ),
    );
  });
});
