import { describe, expect, it } from 'vitest';
import { type AnalysisOptions, type ItemReadings, analyse } from '../analysis/analyse.ts';
import { seededRandom } from '../random/seeded.ts';
import { DEFAULT_RULE } from '../screening/rule.ts';
import { type Typed, rangeWords } from '../summary/typed.ts';
import { typedSummary } from '../summary/typed-summary.ts';
import { summarise } from '../summary/summary.ts';

const random = seededRandom(8);
const readings = (mean: number, n = 6) => Array.from({ length: n }, () => mean + 0.1 * random.normal());
const READ = [readings(10), readings(11), readings(12)];
type Better = AnalysisOptions['better'];
const higher: Better = { kind: 'higher' };

const judged = (items: readonly (number[] | Typed)[], better: Better = higher, margin = 0) =>
  analyse(
    items.map((known, i): ItemReadings => ({
      item: 'ABCDEF'.charAt(i),
      ...(Array.isArray(known) ? { values: known } : { values: [], typed: known }),
    })),
    {
      ...{ better, rule: { ...DEFAULT_RULE, name: 'none' }, alpha: 0.05, seed: 1, resamples: 500 },
      ...{ margin: { kind: 'absolute', value: margin }, resolution: 0, method: 'tamhane-t2' },
    },
  );
const verdictOf = (analysis: ReturnType<typeof judged>, a: number, b: number) =>
  analysis.pairs.find((pair) => pair.a === a && pair.b === b)?.verdict;
const range = (low: number | null, high: number | null): Typed => ({ kind: 'range', low, high });
const summaryOf = (values: readonly number[]): Typed => {
  const { n, mean, sd, min, max } = summarise(values, 0.05);
  return { kind: 'summary', n, mean: mean as number, sd, low: min, high: max };
};

describe('a summary that was typed in', () => {
  it('says of the mean what its readings say', () => {
    const values = READ[0] as number[];
    const { median: _m, mad: _d, q1: _q1, q3: _q3, ...typed } = typedSummary(summaryOf(values), 0.05);
    const { median, mad, q1, q3, ...read } = summarise(values, 0.05);
    expect([median, mad, q1, q3]).not.toContain(null);
    for (const [name, value] of Object.entries(read)) {
      const known = typed[name as keyof typeof typed];
      if (typeof value === 'number') expect(known).toBeCloseTo(value, 10);
      else if (Array.isArray(value))
        value.forEach((end, i) => expect((known as readonly number[])[i]).toBeCloseTo(end as number, 10));
      else expect(known).toBe(value);
    }
  });
  it('gives the intervals that its readings give, where all pairs are compared by Welch’s t', () => {
    const read = judged(READ);
    const typed = judged(READ.map((values) => summaryOf(values)));
    typed.pairs.forEach((pair, i) => {
      expect(pair.low).toBeCloseTo(read.pairs[i]?.low as number, 9);
      expect(pair.high).toBeCloseTo(read.pairs[i]?.high as number, 9);
      expect(pair.verdict).toBe(read.pairs[i]?.verdict);
    });
    expect(typed.ranking.map(({ index }) => index)).toEqual(read.ranking.map(({ index }) => index));
    expect(typed.ranking[0]?.chanceFirst).toBeCloseTo(read.ranking[0]?.chanceFirst as number, 1);
  });
  it('takes its share of the level from the others, and no more', () => {
    const [a, b, c] = READ as [number[], number[], number[]];
    const all = judged([a, b, c]);
    const mixed = judged([a, b, summaryOf(c)]);
    mixed.pairs.forEach((pair, i) => {
      const width = ({ low, high }: typeof pair) => (high as number) - (low as number);
      const other = all.pairs[i] as typeof pair;
      // Bonferroni between the two kinds, Šidák within: hardly wider than all at once.
      expect(width(pair)).toBeGreaterThan(0.99 * width(other));
      expect(width(pair)).toBeLessThan(1.02 * width(other));
    });
  });
  it('of one reading settles nothing', () => {
    const analysis = judged([
      READ[0] as number[],
      { kind: 'summary', n: 1, mean: 20, sd: null, low: null, high: null },
    ]);
    expect(verdictOf(analysis, 0, 1)).toBe('too few');
  });
  it('gives way to readings, and is not compared by rank', () => {
    const both = analyse(
      [
        { item: 'A', values: READ[0] as number[], typed: range(50, null) },
        { item: 'B', values: READ[1] as number[] },
      ],
      {
        ...{ better: higher, rule: { ...DEFAULT_RULE, name: 'none' }, alpha: 0.05, seed: 1, resamples: 0 },
        ...{ margin: { kind: 'absolute', value: 0 }, resolution: 0 },
      },
    );
    expect(both.items[0]?.typed).toBeUndefined();
    expect(both.ranking[0]?.index).toBe(1);
    const byRank = analyse(
      [
        ...READ.map((values, i) => ({ item: 'ABC'.charAt(i), values })),
        { item: 'D', values: [], typed: range(50, null) },
      ],
      {
        ...{ better: higher, rule: { ...DEFAULT_RULE, name: 'none' }, alpha: 0.05, seed: 1, resamples: 0 },
        ...{ margin: { kind: 'absolute', value: 0 }, resolution: 0, method: 'dunn' },
      },
    );
    expect(byRank.ranking.map(({ index }) => index)).not.toContain(3);
    expect(byRank.remarks.map(({ text }) => text).join(' ')).toContain(
      'D, known from elsewhere, is not compared',
    );
  });
});

describe('a range', () => {
  const a = READ[0] as number[];
  it.each([
    ['more than what the mean may be is ahead', range(11, null), 'b ahead'],
    ['up to less than it is behind', range(null, 9), 'a ahead'],
    ['that holds it settles nothing', range(9.5, 10.5), 'not settled'],
    ['open over it settles nothing', range(9, null), 'not settled'],
    ['of one figure far off is ahead', range(12, 12), 'b ahead'],
  ])('%s', (_what, known, verdict) => {
    expect(verdictOf(judged([a, known]), 0, 1)).toBe(verdict);
  });
  it('is compared with another by its ends alone', () => {
    const analysis = judged([range(1, 1.6), range(1.6, 2), range(1.7, null), range(null, 0.5)]);
    expect(verdictOf(analysis, 0, 1)).toBe('not settled');
    expect(verdictOf(analysis, 0, 2)).toBe('b ahead');
    expect(verdictOf(analysis, 1, 2)).toBe('not settled');
    expect(verdictOf(analysis, 2, 3)).toBe('a ahead');
    expect(analysis.ranking.map(({ index, placeLow, placeHigh }) => [index, placeLow, placeHigh])).toEqual([
      [1, 1, 3],
      [2, 1, 2],
      [0, 2, 3],
      [3, 4, 4],
    ]);
  });
  it('goes by the direction, and by the distance from a target', () => {
    expect(verdictOf(judged([a, range(11, null)], { kind: 'lower' }), 0, 1)).toBe('a ahead');
    const nearest = { kind: 'nearest', target: 10.5 } as const;
    expect(verdictOf(judged([a, range(10.45, 10.55)], nearest), 0, 1)).toBe('b ahead');
    expect(verdictOf(judged([a, range(20, null)], nearest), 0, 1)).toBe('a ahead');
    expect(verdictOf(judged([a, range(10.4, 20)], nearest), 0, 1)).toBe('not settled');
  });
  it('is the same within the margin where all of it is', () => {
    expect(verdictOf(judged([a, range(9.9, 10.1)], higher, 1), 0, 1)).toBe('same');
  });
  it('leaves unsaid how often each is first, and says why', () => {
    const analysis = judged([a, range(11, null)]);
    expect(analysis.ranking.every(({ chanceFirst }) => chanceFirst === null)).toBe(true);
    expect(analysis.remarks.find(({ about }) => about === 'draws')?.text).toContain('of B a range is known');
  });
  it('is said shortly', () => {
    expect(
      [range(8, null), range(null, 0.2), range(1, 1.6), range(5, 5)].map((known) => rangeWords(known, 'g')),
    ).toEqual(['> 8\u202fg', '< 0.2\u202fg', '1 to 1.6\u202fg', '5\u202fg']);
  });
});
