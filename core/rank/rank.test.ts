import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type AnalysisOptions, analyse } from '../analysis/analyse.ts';
import { answer, marginThatTies } from '../report/answer.ts';
import { criticalOfPairs } from '../compare/methods/tamhane-t2.ts';
import { type Known, drawPlaces } from './draws.ts';
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
  return { analysis, ...answer(Object.keys(readings), analysis, 'g') };
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
          const verdicts = merits.flatMap((merit, a) =>
            merits.slice(a + 1).map((other, j) => ({
              a,
              b: a + 1 + j,
              verdict:
                Math.abs(merit - other) < gap
                  ? ('not settled' as const)
                  : merit > other
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
  it('says what leads the readings allow, whichever of the pair was entered first', () => {
    const [ama, bel] = [
      [9, 9.1, 8.9, 9],
      [7, 7.1, 6.9, 7],
    ] as const;
    const leads = (readings: Record<string, number[]>) =>
      study(readings).notes.find(({ tone }) => tone === 'good');
    const [first, last] = [leads({ Ama: [...ama], Bel: [...bel] }), leads({ Bel: [...bel], Ama: [...ama] })];
    expect(last).toEqual(first);
    expect(last?.title).toBe('Ama leads by 2.00\u202fg');
    // Welch's t of two SDs of 0.0816 with 6 degrees of freedom: 2 ± 2.447 · 0.0577.
    expect(last?.text).toContain('allow a lead from 1.86\u202fg to 2.14\u202fg');
  });
  it('does not settle what the readings do not', () => {
    const { sentence, notes } = study({ Ama: [10, 12, 9], Bel: [9, 11, 10], Cor: [2, 2.2, 1.9] });
    expect(sentence).toBe('First place is not settled between Ama and Bel. Cor is last.');
    expect(notes.find(({ title }) => title.includes('not settled'))?.text).toMatch(/more readings? of each/);
  });
  /** Items that lie within their spread, the later ones a little higher. */
  const close = (count: number): Record<string, number[]> =>
    Object.fromEntries(
      Array.from({ length: count }, (_, i) => [
        `Item ${String(i)}`,
        [10, 10.4, 9.6, 10.2, 9.8].map((value, k) => value + i / 50 + ((i * k) % 3) / 100),
      ]),
    );
  it('names up to five between whom first place is open, and counts more', () => {
    const far = { Last: [0, 0.1, 0.2, 0.1, 0.1] };
    expect(study({ ...close(5), ...far }).sentence).toMatch(
      /^First place is not settled between Item \d, Item \d, Item \d, Item \d and Item \d\. Last is last\.$/,
    );
    expect(study({ ...close(6), ...far }).sentence).toMatch(
      /^First place is not settled among 6 items; Item 5 has the best mean\. Last is last\.$/,
    );
  });
  it('says of all of a few that they are open, and of more that there is no order', () => {
    expect(study(close(3)).sentence).toMatch(
      /^First place is not settled between Item 2, Item \d and Item \d\.$/,
    );
    expect(study(close(4)).sentence).toMatch(
      /^The readings do not settle an order; Item 3 has the best mean\.$/,
    );
    expect(study(close(4), { resamples: 500 }).sentence).toMatch(
      /^The readings do not settle an order; Item \d comes first in \d+.% of the draws\.$/,
    );
  });
  it('says who share first place, beside those who do not', () => {
    const alike = { Ama: [9, 9.1, 8.9, 9], Bel: [9, 9.1, 8.9, 9.01], Cor: [3, 3.1, 2.9, 3] };
    const { sentence, notes } = study(alike, { margin: { kind: 'absolute', value: 2 } });
    expect(sentence).toBe('Bel and Ama share first place: they are practically the same. Cor is last.');
    const note = notes.find(({ title }) => title === 'Bel and Ama are practically the same');
    expect(note?.text).toMatch(/, and by less than your margin of 2.g at the most\.$/);
    expect(notes).toHaveLength(1);
  });
  it('says that steps hide the spread, where a finer instrument would tell more than readings', () => {
    const coarse = { Ama: [10, 10, 10], Bel: [11, 11, 11] };
    const note = study(coarse, { resolution: 1 }).notes.find(({ title }) => title.includes('not settled'));
    expect(note?.text).toMatch(
      /^They differ by 1\.?\d*.g\. The readings come in steps of 1.g, which hide their spread; a finer instrument would tell more\. /,
    );
    const fine = study({ Ama: [10, 12, 9], Bel: [9, 11, 10] }).notes[0];
    expect(fine?.text).not.toContain('steps');
  });
  it('lets the meter’s accuracy decide between single readings, and says so', () => {
    const decided = study({ Ama: [10], Bel: [3], Cor: [3.5] }, { accuracy: () => 1 });
    expect(decided.notes.at(-1)).toMatchObject({
      title: 'One reading of Ama, Bel and Cor',
      text: expect.stringMatching(
        /^The meter’s accuracy decides: 1 pair within it is no appreciable difference\. /,
      ) as string,
    });
    const apart = study({ Ama: [10], Bel: [3] }, { accuracy: () => 1 });
    expect(apart.sentence).toBe('Ama is first.');
    expect(apart.notes.at(-1)?.text).toMatch(/decides: differences beyond it count\. /);
    expect(study({ Ama: [3], Bel: [3.5] }, { accuracy: () => 1 }).sentence).toMatch(
      /^No appreciable difference: /,
    );
    expect(study({ Ama: [10], Bel: [3, 3.1, 2.9] }).notes.at(-1)).toMatchObject({
      title: 'One reading is too few for Ama',
    });
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
    variance: 2,
    fixed: 0,
    rounding: 0,
    criticalAt: criticalOfPairs(2, 0.05),
    readings: 3,
  };
  it('come near the published sample size for the same power', () => {
    // Cochran and Cox; R: power.t.test(delta = 1, sd = 1, power = 0.8)$n = 16.71, rounded up 17.
    expect(readingsToSettle(input)).toBeGreaterThanOrEqual(14);
    expect(readingsToSettle(input)).toBeLessThanOrEqual(15);
  });
  it('fall with a wider difference and rise with the spread', () => {
    expect(readingsToSettle({ ...input, difference: 2 })).toBeLessThan(readingsToSettle(input) as number);
    expect(readingsToSettle({ ...input, variance: 4 })).toBeGreaterThan(readingsToSettle(input) as number);
  });
  it('count a tie as settled once it lies within the margin', () => {
    expect(readingsToSettle({ ...input, difference: 0, margin: 1 })).toBeLessThan(30);
    // Both ends must hold, so it takes more than to see a difference of the same size.
    expect(readingsToSettle({ ...input, difference: 0, margin: 1 })).toBeGreaterThan(
      readingsToSettle(input) as number,
    );
  });
  it('are more than one for a difference far inside the margin and a wide spread', () => {
    expect(readingsToSettle({ ...input, difference: 0.05, margin: 1, variance: 4 })).toBeGreaterThan(20);
  });
  it('do not help against the rounding of the means', () => {
    expect(readingsToSettle({ ...input, difference: 0, margin: 1, rounding: 1 })).toBeUndefined();
  });
  it('are not named where no number would do', () => {
    expect(readingsToSettle({ ...input, difference: 0 })).toBeUndefined();
    expect(readingsToSettle({ ...input, difference: 0.001 })).toBeUndefined();
  });
});

describe('what keeps a pair open', () => {
  it('is said where the step hides the spread, and no number of readings is promised', () => {
    const { notes } = study({ Ama: [0.5, 0.5, 0.5], Bel: [0.6, 0.6, 0.6] });
    expect(notes[0]?.title).toBe('Bel and Ama are not settled');
    expect(notes[0]?.text).toContain('come in steps of 0.1\u202fg, which hide their spread');
    expect(notes[0]?.text).toContain('more than is worth taking');
  });
});

describe('how often each place', () => {
  const placeShares = (known: Known[], draws: number, seed: number): number[][] =>
    drawPlaces({
      known: [known],
      worthOf: ([means], worth) => {
        worth.set(means as Float64Array);
      },
      ...{ draws, seed },
    }).places;
  const items = [
    { mean: 4, se: 0.5, df: 4 },
    { mean: 4.5, se: 0.3, df: 4 },
    { mean: 3, se: 1, df: 4 },
  ];
  it('is the same for the same seed, and every place is taken once', () => {
    const shares = placeShares(items, 500, 7);
    expect(placeShares(items, 500, 7)).toEqual(shares);
    expect(placeShares(items, 500, 8)).not.toEqual(shares);
    for (const row of shares) expect(row.reduce((sum, share) => sum + share, 0)).toBeCloseTo(1, 12);
    for (const place of [0, 1, 2]) {
      expect(shares.reduce((sum, row) => sum + (row[place] as number), 0)).toBeCloseTo(1, 12);
    }
  });
  it('is shared by ties', () => {
    const tied = [0, 1].map(() => ({ mean: 2, se: 0, df: 3 }));
    expect(placeShares(tied, 10, 1)).toEqual([
      [0.5, 0.5],
      [0.5, 0.5],
    ]);
  });
  it('of two items is the chance of the t distribution', () => {
    // One mean is known: then the other one is above it as often as t exceeds (mean₁ − mean₂)/se.
    const shares = placeShares(
      [
        { mean: 0, se: 0, df: 1 },
        { mean: 0.8, se: 0.5, df: 3 },
      ],
      40000,
      3,
    );
    // R: pt(1.6, 3) = 0.8960; pnorm(1.6) = 0.9452.
    expect(shares[1]?.[0]).toBeGreaterThan(0.89);
    expect(shares[1]?.[0]).toBeLessThan(0.902);
  });
  it('is said of nobody where one item has a single reading', () => {
    const { analysis } = study({ a: [1, 2, 3], b: [4] }, { resamples: 100 });
    expect(analysis.ranking.map(({ chanceFirst }) => chanceFirst)).toEqual([null, null]);
    expect(analysis.remarks.map(({ text }) => text).join(' ')).toContain('b has a single reading');
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
        const plain = study({ a, b }, { resolution: 1 }).analysis.pairs[0];
        const other = study({ a: scaled(a), b: scaled(b) }, { resolution: 8 }).analysis.pairs[0];
        expect(other?.verdict).toBe(plain?.verdict);
        expect(other?.difference).toBeCloseTo(8 * (plain?.difference ?? 0), 9);
      }),
      { numRuns: 60 },
    );
  });
  it('compares within rounds wherever two items share two of them', () => {
    const values = { a: [1, 2, 3], b: [2, 3, 5] };
    const items = Object.entries(values).map(([item, read]) => ({ item, values: read, rounds: [1, 2, 3] }));
    expect(analyse(items, options).method).toBe('within-rounds');
    const gap = [items[0] as (typeof items)[0], { item: 'b', values: [2, 3], rounds: [1, 2] }];
    const partial = analyse(gap, options);
    expect(partial.method).toBe('within-rounds');
    expect(partial.pairs[0]?.df).toBe(1);
    // b is placed as if it had been read in round 3 as well: 2.5 and half a unit for the round.
    expect(partial.items.map(({ placedBy }) => placedBy)).toEqual([2, expect.closeTo(3, 9)]);
    expect(partial.remarks.map(({ text }) => text).join(' ')).toContain('with every item in every round');
    const apart = [items[0] as (typeof items)[0], { item: 'b', values: [2, 3], rounds: [7, 8] }];
    expect(analyse(apart, options).method).toBe('tamhane-t2');
    expect(() => analyse(apart, { ...options, method: 'rounds' })).toThrow(/does not apply/);
  });
  it('lets a reading without a round count in the summary only', () => {
    const items = [
      { item: 'a', values: [1, 2, 3, 9], rounds: [1, 2, 3, Number.NaN] },
      { item: 'b', values: [2, 3.1, 4], rounds: [1, 2, 3] },
    ];
    const { pairs, items: found } = analyse(items, options);
    expect(found[0]?.summary.n).toBe(4);
    expect(found[0]?.placedBy).toBe(2);
    expect(pairs[0]?.difference).toBeCloseTo(3.1 / 3, 9);
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
  it('notices one reading and uneven counts', () => {
    const { analysis } = study({ a: [5, 5, 5, 5, 5], b: [4] });
    expect(analysis.findings.map(({ kind }) => kind).sort()).toEqual([
      'one reading only',
      'unbalanced counts',
    ]);
  });
});

describe('a lead that is clear, but for the steps of the readings', () => {
  it('matters where there is no margin, and may be less than one that there is', () => {
    const readings = { Ama: [9.2, 9.2, 9.2, 9.1, 9.2], Bel: [9.1, 9.1, 9.1, 9.1, 9.0] };
    const matters = (value: number) =>
      study(readings, { margin: { kind: 'absolute', value }, resolution: 0.1 }).analysis.pairs[0];
    expect(matters(0)).toMatchObject({ verdict: 'a ahead', matters: 'yes' });
    expect(matters(0.01)).toMatchObject({ verdict: 'a ahead', matters: 'unsure' });
  });
});

describe('the margin from which two are the same', () => {
  const names = ['Ama', 'Bel'];
  const ties = (readings: Record<string, number[]>, change: Partial<AnalysisOptions> = {}) =>
    marginThatTies(names, study(readings, change).analysis, 'g')?.replaceAll('\u202f', ' ');
  it('is the far end of the lead, rounded up, and no less', () => {
    const [ama, bel] = [
      [9, 9.1, 8.9, 9],
      [7, 7.1, 6.9, 7],
    ];
    // By Welch’s t with 6 degrees of freedom, with the rounding of both means to tenths: 2 + 2.447 · √(0.0577² + 0.1²/6).
    expect(ties({ Ama: ama, Bel: bel })).toBe('From 2.18 g on, Ama and Bel are practically the same.');
    const verdictAt = (value: number) =>
      study({ Ama: ama, Bel: bel }, { margin: { kind: 'absolute', value } }).analysis.pairs[0]?.verdict;
    expect([verdictAt(2.18), verdictAt(2.17)]).toEqual(['same', 'a ahead']);
  });
  it('is one from which the verdict is that they are the same, in any study', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 0, max: 40 })), {
          minLength: 3,
          maxLength: 8,
        }),
        fc.constantFrom<AnalysisOptions['better']>(
          { kind: 'higher' },
          { kind: 'lower' },
          { kind: 'nearest', target: 1.5 },
        ),
        (rows, better) => {
          const readings = { Ama: rows.map(([a]) => a / 10), Bel: rows.map(([, b]) => b / 10) };
          const said = ties(readings, { better });
          const margin = Number(/From ([\d.]+)/u.exec(said ?? '')?.[1] ?? Number.NaN);
          if (Number.isNaN(margin)) return;
          const verdictAt = (value: number) =>
            study(readings, { better, margin: { kind: 'absolute', value } }).analysis.pairs[0]?.verdict;
          expect(verdictAt(margin)).toBe('same');
          expect(verdictAt(0.9 * margin - 0.1)).not.toBe('same');
        },
      ),
      { seed: 12, numRuns: 150 },
    );
  });
  it('is none where they are the same already, are too few, or are one', () => {
    const close = { Ama: [9, 9.1, 8.9, 9], Bel: [9, 9.1, 8.9, 9.01] };
    expect(ties(close, { margin: { kind: 'absolute', value: 5 } })).toBeUndefined();
    expect(ties({ Ama: [9], Bel: [7] })).toBeUndefined();
    expect(ties({ Ama: [9, 9.1, 8.9, 9] })).toBeUndefined();
  });
});
