import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type AnalysisOptions, analyse } from '../analysis/analyse.ts';
import { answer } from './answer.ts';
import { NORMAL_FROM, chanceFirst } from './chance-first.ts';
import { places } from './place.ts';
import { readingsToSettle } from './readings-to-settle.ts';
import { seededRandom } from '../random/seeded.ts';

const options: AnalysisOptions = {
  better: { kind: 'higher' },
  rule: { name: 'none' },
  alpha: 0.05,
  margin: { kind: 'absolute', value: 0 },
  resamples: 0,
  seed: 1,
};
const study = (readings: Record<string, number[]>, change: Partial<AnalysisOptions> = {}) => {
  const items = Object.entries(readings).map(([item, values]) => ({ item, values }));
  const analysis = analyse(items, { ...options, ...change });
  return { analysis, ...answer(Object.keys(readings), analysis, 'g', 0.1) };
};

describe('places', () => {
  it('widen with every pair that is not settled', () => {
    const found = places(
      [9, 7, 6, 2],
      [
        { a: 0, b: 1, verdict: 'a ahead' },
        { a: 0, b: 2, verdict: 'a ahead' },
        { a: 0, b: 3, verdict: 'a ahead' },
        { a: 1, b: 2, verdict: 'not settled' },
        { a: 1, b: 3, verdict: 'a ahead' },
        { a: 2, b: 3, verdict: 'same' },
      ],
    );
    expect(found.map(({ placeLow, placeHigh }) => [placeLow, placeHigh])).toEqual([
      [1, 1],
      [2, 3],
      [2, 4],
      [3, 4],
    ]);
  });
  it('are shared by equal means', () => {
    expect(places([5, 5, 1], []).map(({ place }) => place)).toEqual([1, 1, 3]);
  });
  it('always hold the item’s own place when the verdicts follow the means', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 20 }), { minLength: 2, maxLength: 8 }),
        fc.integer({ min: 1, max: 6 }),
        (merits, gap) => {
          const verdicts = merits.flatMap((own, a) =>
            merits.slice(a + 1).map((other, j) => ({
              a,
              b: a + 1 + j,
              verdict:
                Math.abs(own - other) < gap
                  ? ('not settled' as const)
                  : own > other
                    ? ('a ahead' as const)
                    : ('b ahead' as const),
            })),
          );
          for (const { place, placeLow, placeHigh } of places(merits, verdicts)) {
            expect(placeLow).toBeLessThanOrEqual(place);
            expect(placeHigh).toBeGreaterThanOrEqual(place);
          }
        },
      ),
    );
  });
});

describe('the answer in a sentence', () => {
  it('names a clear winner and a clear last', () => {
    expect(study({ Ama: [9, 9.1, 8.9, 9], Bel: [7, 7.1, 6.9, 7], Cor: [3, 3.1, 2.9, 3] }).sentence).toBe(
      'Ama is first. Cor is last.',
    );
  });
  it('does not call half a unit a win', () => {
    // Common practice, no source: 338.3 against 338.8 is a tie at any margin from 0.2 % up.
    const { sentence } = study(
      { Ama: [338.3, 338.4, 338.2, 338.3, 338.3], Bel: [338.8, 338.9, 338.7, 338.8, 338.8] },
      { margin: { kind: 'percent', value: 0.2 } },
    );
    expect(sentence).toBe('Bel and Ama are practically the same.');
  });
  it('says so when a lead may be too small to matter', () => {
    const { sentence } = study(
      { Ama: [10, 10.1, 9.9, 10, 10], Bel: [9.8, 9.7, 9.9, 9.8, 9.8] },
      { margin: { kind: 'absolute', value: 0.15 } },
    );
    expect(sentence).toBe('Ama is first, though perhaps by less than the 0.15\u202fg that matters.');
  });
  it('does not settle what the readings do not', () => {
    const { sentence, notes } = study({ Ama: [10, 12, 9], Bel: [9, 11, 10], Cor: [2, 2.2, 1.9] });
    expect(sentence).toBe('First place is not settled between Ama and Bel. Cor is last.');
    expect(notes.find(({ title }) => title.includes('not settled'))?.text).toMatch(/more readings? of each/);
  });
  it('calls nobody ahead on single readings', () => {
    expect(study({ Ama: [10], Bel: [3] }).sentence).toBe(
      'Too few readings for an order: one reading shows no spread.',
    );
  });
  it('has something to say for one item and for none', () => {
    expect(study({ Ama: [10, 11] }).sentence).toBe('Ama is the only item with readings.');
    expect(study({ Ama: [], Bel: [] }).sentence).toBe('No reading counts yet, so there is no order.');
  });
  it('turns with the direction', () => {
    expect(study({ Ama: [9, 9.1, 8.9], Bel: [7, 7.1, 6.9] }, { better: { kind: 'lower' } }).sentence).toBe(
      'Bel is first.',
    );
    expect(
      study({ Ama: [9, 9.1, 8.9], Bel: [7, 7.1, 6.9] }, { better: { kind: 'nearest', target: 8.9 } })
        .sentence,
    ).toBe('Ama is first.');
  });
});

describe('readings to settle a pair', () => {
  const input = {
    difference: 1,
    margin: 0,
    varianceSum: 2,
    items: 2,
    method: 'tamhane-t2' as const,
    alpha: 0.05,
    readings: 3,
  };
  it('come near the published sample size for the same power', () => {
    // Cochran and Cox; R: power.t.test(delta = 1, sd = 1, power = 0.8)$n = 16.71, rounded up 17.
    expect(readingsToSettle(input)).toBeGreaterThanOrEqual(17);
    expect(readingsToSettle(input)).toBeLessThanOrEqual(18);
  });
  it('fall with a wider difference and rise with the spread', () => {
    expect(readingsToSettle({ ...input, difference: 2 })).toBeLessThan(readingsToSettle(input) as number);
    expect(readingsToSettle({ ...input, varianceSum: 4 })).toBeGreaterThan(readingsToSettle(input) as number);
  });
  it('count a tie as settled once it lies within the margin', () => {
    expect(readingsToSettle({ ...input, difference: 0, margin: 1 })).toBeLessThan(30);
  });
  it('are not named where no number would do', () => {
    expect(readingsToSettle({ ...input, difference: 0 })).toBeUndefined();
    expect(readingsToSettle({ ...input, difference: 0.001 })).toBeUndefined();
  });
});

describe('how often first', () => {
  const merit = (mean: number) => mean;
  it('is the same for the same seed and sums to one', () => {
    const samples = [Float64Array.of(3, 4, 5), Float64Array.of(3.5, 4.5, 4)];
    const once = chanceFirst({ samples, rounds: undefined, merit, resamples: 500, seed: 7 });
    expect(chanceFirst({ samples, rounds: undefined, merit, resamples: 500, seed: 7 })).toEqual(once);
    expect(chanceFirst({ samples, rounds: undefined, merit, resamples: 500, seed: 8 })).not.toEqual(once);
    expect(once.reduce((sum, share) => sum + share, 0)).toBeCloseTo(1, 12);
  });
  it('shares ties', () => {
    const samples = [Float64Array.of(2, 2), Float64Array.of(2, 2)];
    expect(chanceFirst({ samples, rounds: undefined, merit, resamples: 10, seed: 1 })).toEqual([0.5, 0.5]);
  });
  it('keeps what a round shares together', () => {
    // Item b is always a hair ahead within a round, though the rounds differ much.
    const rounds = [1, 5, 9, 2, 7].map((base) => Float64Array.of(base, base + 0.1));
    const samples = [0, 1].map((item) => Float64Array.from(rounds, (round) => round[item] as number));
    expect(chanceFirst({ samples, rounds, merit, resamples: 300, seed: 1 })).toEqual([0, 1]);
    const loose = chanceFirst({ samples, rounds: undefined, merit, resamples: 300, seed: 1 });
    expect(loose[0]).toBeGreaterThan(0.2);
  });
  it('is about the same drawn reading by reading and from the normal limit', () => {
    const random = seededRandom(3);
    const draw = (n: number, mean: number) => Float64Array.from({ length: n }, () => mean + random.normal());
    const few = [draw(NORMAL_FROM - 1, 0), draw(NORMAL_FROM - 1, 0)];
    const many = few.map((sample) =>
      Float64Array.of(...sample, sample.reduce((sum, x) => sum + x, 0) / sample.length),
    );
    const [a] = chanceFirst({ samples: few, rounds: undefined, merit, resamples: 2000, seed: 1 });
    const [b] = chanceFirst({ samples: many, rounds: undefined, merit, resamples: 2000, seed: 1 });
    expect(Math.abs((a as number) - (b as number))).toBeLessThan(0.05);
    const rounds = Array.from(many[0] as Float64Array, (value, i) =>
      Float64Array.of(value, (many[1] as Float64Array)[i] as number),
    );
    const [c] = chanceFirst({ samples: many, rounds, merit, resamples: 2000, seed: 1 });
    expect(Math.abs((a as number) - (c as number))).toBeLessThan(0.05);
  });
});

describe('the whole way from readings to ranking', () => {
  const sample = fc.array(fc.integer({ min: 0, max: 50 }), { minLength: 2, maxLength: 8 });
  it('does not care for the order of the readings', () => {
    fc.assert(
      fc.property(sample, sample, sample, (a, b, c) => {
        const forwards = study({ a, b, c }).analysis;
        const backwards = study({ a: [...a].reverse(), b: [...b].reverse(), c: [...c].reverse() }).analysis;
        expect(backwards.pairs.map(({ verdict }) => verdict)).toEqual(
          forwards.pairs.map(({ verdict }) => verdict),
        );
        expect(
          backwards.ranking.map(({ index, placeLow, placeHigh }) => [index, placeLow, placeHigh]),
        ).toEqual(forwards.ranking.map(({ index, placeLow, placeHigh }) => [index, placeLow, placeHigh]));
      }),
      { numRuns: 60 },
    );
  });
  it('ranks alike in another unit', () => {
    fc.assert(
      fc.property(sample, sample, (a, b) => {
        const scaled = (values: number[]) => values.map((value) => 8 * value);
        const plain = study({ a, b }).analysis.pairs[0];
        const other = study({ a: scaled(a), b: scaled(b) }).analysis.pairs[0];
        expect(other?.verdict).toBe(plain?.verdict);
        expect(other?.difference).toBeCloseTo(8 * (plain?.difference ?? 0), 9);
      }),
      { numRuns: 60 },
    );
  });
  it('compares by rounds only where every round has every item', () => {
    const values = { a: [1, 2, 3], b: [2, 3, 5] };
    const items = Object.entries(values).map(([item, own]) => ({ item, values: own, rounds: [1, 2, 3] }));
    expect(analyse(items, options).method).toBe('rounds');
    const gap = [items[0] as (typeof items)[0], { item: 'b', values: [2, 3], rounds: [1, 2] }];
    const partial = analyse(gap, options);
    expect(partial.method).toBe('tamhane-t2');
    expect(partial.notes.join(' ')).toContain('Not every round has every item once');
    expect(() => analyse(gap, { ...options, method: 'rounds' })).toThrow(/does not apply/);
  });
  it('leaves items without a reading out of the ranking and says nothing of them', () => {
    const { analysis } = study({ a: [1, 2, 3], b: [], c: [4, 5, 6] });
    expect(analysis.ranking.map(({ index }) => index)).toEqual([2, 0]);
    expect(analysis.pairs).toHaveLength(1);
    expect(analysis.pairs[0]).toMatchObject({ a: 0, b: 2 });
  });
  it('keeps its promise: equal items, three readings each, rarely a winner', () => {
    // Six equal items: somebody is called ahead in at most 5 % of studies by T2.
    const random = seededRandom(11);
    let called = 0;
    for (let run = 0; run < 600; run += 1) {
      const items = Array.from({ length: 6 }, (_, i) => ({
        item: String(i),
        values: [random.normal(), random.normal(), random.normal()],
      }));
      if (analyse(items, options).pairs.some(({ verdict }) => verdict.endsWith('ahead'))) called += 1;
    }
    expect(called / 600).toBeLessThan(0.06);
  });
  it('keeps a reading that the tester insists on', () => {
    const values = [3, 3.1, 2.9, 3, 3.05, 9];
    const judged = analyse([{ item: 'a', values }], { ...options, rule: { name: 'grubbs' } });
    expect(judged.items[0]?.leftOut.map(({ index }) => index)).toEqual([5]);
    const kept = analyse([{ item: 'a', values, insisted: new Set([5]) }], {
      ...options,
      rule: { name: 'grubbs' },
    });
    expect(kept.items[0]?.leftOut).toEqual([]);
  });
  it('notices one reading, uneven counts and a stuck instrument', () => {
    const { analysis } = study({ a: [5, 5, 5, 5, 5], b: [4] });
    expect(analysis.findings.map(({ kind }) => kind).sort()).toEqual([
      'one reading only',
      'the same value again and again',
      'unbalanced counts',
    ]);
  });
});
