import { describe, expect, it } from 'vitest';
import { fedRecovered } from '../forms/fed-recovered.ts';
import { seededRandom } from '../random/seeded.ts';
import { bootstrapInterval } from '../summary/bootstrap.ts';
import { countedInterval } from '../summary/counted.ts';
import { median } from '../summary/quantile.ts';
import { trimmedMean } from '../summary/trimmed-mean.ts';
import { testStudy } from '../testing-study.ts';
import { moreFigures } from './more-figures.ts';

describe('more figures of an item', () => {
  it('are a trimmed mean where a tenth is a reading, and intervals by drawing again', () => {
    const { document, measurand, read } = testStudy(['Ama', 'Bel']);
    [1, 2, 3, 4, 5, 6, 7, 8, 9, 100].forEach((value, i) => read(0, i + 1, String(value)));
    [4, 5, 6].forEach((value, i) => read(1, i + 1, String(value)));
    const [ama, bel] = moreFigures(document, measurand.id, '');
    expect(ama?.trimmed?.mean).toBe(5.5);
    const [low, high] = ama?.medianInterval ?? [];
    expect(low).toBeGreaterThanOrEqual(2);
    expect(high).toBeLessThanOrEqual(9);
    expect(bel).toMatchObject({ medianInterval: undefined, trimmed: undefined, counted: undefined });
    expect(moreFigures(document, measurand.id, '')).toEqual([ama, bel]);
    expect(() => moreFigures(document, 'none', '')).toThrow('no such measurand');
  });
  it('leave out what the screening leaves out', () => {
    const { document, measurand, read, decide } = testStudy(['Ama']);
    const readings = [3, 1, 4, 1, 5, 9, 2, 6, 5, 3, 58].map((value, i) => read(0, i + 1, String(value)));
    decide('leave-out', { readingId: readings.at(-1)?.id ?? '', reason: 'a slip' });
    expect(moreFigures(document, measurand.id, '')[0]?.trimmed?.mean).toBeCloseTo(29 / 8, 12);
  });
  it('of counts are the exact interval of all of them, for one reading', () => {
    const { document, measurand, read } = testStudy(['Ama']);
    Object.assign(measurand, { form: 'count', unit: '' });
    for (const count of [7, 12, 9]) {
      const reading = read(0, document.readings.length + 1, String(count));
      reading.parts = [{ name: 'count', text: String(count), number: count }];
    }
    // R: poisson.test(28)$conf.int / 3
    const counted = moreFigures(document, measurand.id, '')[0]?.counted;
    expect(counted?.low).toBeCloseTo(18.605797 / 3, 4);
    expect(counted?.high).toBeCloseTo(40.467796 / 3, 4);
  });
  it('of pieces recovered are Wilson’s of all of them, where pieces are counted', () => {
    const parts = (fed: number, recovered: number) => [
      { name: 'fed', text: '', number: fed },
      { name: 'recovered', text: '', number: recovered },
    ];
    const context = { unit: '%', settings: { counted: true } };
    const counted = fedRecovered.counted?.([parts(4, 3), parts(6, 5)], context);
    expect(counted).toEqual({ events: 8, of: 10, worth: 100 });
    const found = counted && countedInterval(counted, 0.05);
    expect([found?.low, found?.high].map((x) => Math.round(x ?? 0))).toEqual([49, 94]);
    expect(found?.method).toBe('Wilson interval');
    expect(fedRecovered.counted?.([parts(4, 3)], { unit: '%', settings: {} })).toBeUndefined();
    expect(fedRecovered.counted?.([parts(4, 5)], context)).toBeUndefined();
    expect(fedRecovered.counted?.([[]], context)).toBeUndefined();
    expect(fedRecovered.counted?.([], context)).toBeUndefined();
  });
});

describe('an interval by drawing again', () => {
  it('covers the median of normal readings about as often as it says', () => {
    const random = seededRandom(5);
    let covered = 0;
    for (let study = 0; study < 300; study += 1) {
      const values = Float64Array.from({ length: 12 }, () => random.normal());
      const [low, high] = bootstrapInterval(values, median, { alpha: 0.05, seed: random.below(2 ** 31) }) ?? [
        0, 0,
      ];
      if (low <= 0 && high >= 0) covered += 1;
    }
    expect(covered / 300).toBeGreaterThan(0.9);
    expect(covered / 300).toBeLessThan(0.985);
  });
  it('needs some readings, and is a point where all are equal', () => {
    expect(bootstrapInterval([1, 2, 3, 4, 5], median, { alpha: 0.05, seed: 1 })).toBeUndefined();
    expect(bootstrapInterval(new Float64Array(8).fill(3), trimmedMean, { alpha: 0.05, seed: 1 })).toEqual([
      3, 3,
    ]);
  });
});
