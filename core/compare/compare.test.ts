import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import sirstv from '../reference/nist-sirstv.json' with { type: 'json' };
import plantGrowth from '../reference/plant-growth.json' with { type: 'json' };
import hollander from '../reference/rounds.json' with { type: 'json' };
import { summarise } from '../summary/summary.ts';
import { CLOSE, EXACT, expectRelative } from '../testing.ts';
import { anova } from './anova.ts';
import { blockedAnova, friedman } from './complete-rounds.ts';
import { kruskalWallis } from './kruskal-wallis.ts';
import { bare } from './method.ts';
import type { PairMethodName } from './method-names.ts';
import { METHODS, pairMethod } from './methods.ts';
import { blocksOf } from './blocks.ts';
import { ranks } from './ranks.ts';
import { type Sample, locate } from './sample.ts';
import { verdictOf } from './verdict.ts';
import { welchAnova } from './welch-anova.ts';
import { byRange, byT } from './welch-pair.ts';

function grouped(items: readonly string[], values: readonly number[]): Sample[] {
  return [...new Set(items)].map((item) => {
    const kept = Float64Array.from(values.filter((_, i) => items[i] === item));
    return { item, kept, summary: summarise(kept, 0.05) };
  });
}

const plants = grouped(plantGrowth.items, plantGrowth.values);
const rows = hollander.rounds.map((row) => Float64Array.from(row));

describe('a way of comparing', () => {
  it('is found by its name, and no other name is one', () => {
    for (const method of METHODS) expect(pairMethod(method.name)).toBe(method);
    expect(() => pairMethod('by feeling' as never)).toThrow('no way of comparing is called “by feeling”');
  });
});

describe('tests of all items at once', () => {
  // NIST StRD, analysis of variance, SiRstv: certified values.
  it('meets the certified values of SiRstv', () => {
    const { certified, items, values } = sirstv;
    const result = anova(grouped(items, values).map(({ kept }) => kept));
    expect(result?.df1).toBe(certified.dfBetween);
    expect(result?.df2).toBe(certified.dfWithin);
    expectRelative(result?.ssBetween, certified.ssBetween, EXACT);
    expectRelative(result?.ssWithin, certified.ssWithin, EXACT);
    expectRelative(result?.msBetween, certified.msBetween, EXACT);
    expectRelative(result?.msWithin, certified.msWithin, EXACT);
    expectRelative(result?.f, certified.f, EXACT);
    expectRelative(Math.sqrt(result?.msWithin ?? 0), certified.residualSd, EXACT);
  });

  // Dobson (1983), PlantGrowth; R: anova(lm), oneway.test, kruskal.test.
  it('meets R on PlantGrowth', () => {
    const { expected } = plantGrowth;
    const classical = anova(plants.map(({ kept }) => kept));
    for (const name of ['f', 'p', 'msBetween', 'msWithin'] as const) {
      expectRelative(classical?.[name], expected.anova[name], CLOSE);
    }
    const welch = welchAnova(plants);
    for (const name of ['f', 'df1', 'df2', 'p'] as const) {
      expectRelative(welch?.[name], expected.welchAnova[name], CLOSE);
    }
    const kruskal = kruskalWallis(plants.map(({ kept }) => kept));
    for (const name of ['h', 'df', 'p'] as const) {
      expectRelative(kruskal?.[name], expected.kruskalWallis[name], CLOSE);
    }
  });

  // Hollander and Wolfe (1973), rounding first base; R: friedman.test, anova(lm(v ~ item + round)).
  it('meets R on 22 runners in rounds', () => {
    const { expected } = hollander;
    const ranked = friedman(rows);
    expectRelative(ranked?.chiSquared, expected.friedman.chiSquared, CLOSE);
    expectRelative(ranked?.p, expected.friedman.p, CLOSE);
    const blocked = blockedAnova(rows);
    for (const name of ['f', 'df1', 'df2', 'p', 'msResidual'] as const) {
      expectRelative(blocked?.[name], expected.blockedAnova[name], CLOSE);
    }
  });

  it('is not available where the readings do not allow it, and never NaN', () => {
    expect(anova([Float64Array.of(1), Float64Array.of(2)])).toBeUndefined();
    expect(anova([Float64Array.of(1, 1), Float64Array.of(2, 2)])).toMatchObject({ f: null, p: null });
    expect(kruskalWallis([Float64Array.of(1, 1), Float64Array.of(1, 1)])).toBeUndefined();
    // One reading of each, or all of them of one, say nothing.
    expect(kruskalWallis([Float64Array.of(1), Float64Array.of(2), Float64Array.of(3)])).toBeUndefined();
    expect(kruskalWallis([Float64Array.of(1, 2, 3), Float64Array.of()])).toBeUndefined();
    expect(kruskalWallis([Float64Array.of(1, 2), Float64Array.of(3)])?.df).toBe(1);
    expect(friedman([Float64Array.of(1, 1), Float64Array.of(2, 2)])).toBeUndefined();
    expect(blockedAnova([Float64Array.of(1, 2)])).toBeUndefined();
    expect(
      welchAnova(
        [Float64Array.of(1, 1), Float64Array.of(2, 3)].map((kept) => ({
          item: '',
          kept,
          summary: summarise(kept, 0.05),
        })),
      ),
    ).toBeUndefined();
  });
});

describe('pairs', () => {
  const cases: [PairMethodName, 'tamhaneT2' | 'gamesHowell' | 'tukeyHsd'][] = [
    ['tamhane-t2', 'tamhaneT2'],
    ['games-howell', 'gamesHowell'],
    ['tukey', 'tukeyHsd'],
  ];
  it.each(cases)('%s meets R on PlantGrowth', (name, key) => {
    const pairs = pairMethod(name).compare({ samples: plants, blocks: undefined, alpha: 0.05 }).pairs;
    plantGrowth.expected[key].forEach((expected, i) => {
      const pair = pairs[i];
      expect(plants[pair?.a ?? -1]?.item).toBe(expected.a);
      expect(plants[pair?.b ?? -1]?.item).toBe(expected.b);
      expectRelative(pair?.difference, expected.difference, 1e-8);
      expectRelative(pair?.p, expected.p, CLOSE);
      expectRelative(pair?.low, expected.ciLow, CLOSE);
      expectRelative(pair?.high, expected.ciHigh, CLOSE);
      if ('se' in expected) expectRelative(pair?.se, expected.se as number, EXACT);
      if ('df' in expected) expectRelative(pair?.df, expected.df as number, EXACT);
    });
  });

  it.each<PairMethodName>(['within-rounds', 'own-differences', 'rounds'])(
    '%s of two items is the paired t-test',
    (name) => {
      // R: t.test(sleep$extra[1:10], sleep$extra[11:20], paired = TRUE), Student (1908): t = −4.0621, 9 df,
      // p = 0.002833, interval −2.4598858 to −0.7001142.
      const first = [0.7, -1.6, -0.2, -1.2, -0.1, 3.4, 3.7, 0.8, 0, 2];
      const second = [1.9, 0.8, 1.1, 0.1, -0.1, 4.4, 5.5, 1.6, 4.6, 3.4];
      const samples = grouped([...first.map(() => 'a'), ...second.map(() => 'b')], [...first, ...second]);
      const numbers = first.map((_, i) => i);
      const blocks = blocksOf(
        samples.map(({ kept }) => kept),
        samples.map(() => Float64Array.from(numbers)),
      );
      const [pair] = pairMethod(name).compare({ samples, blocks, alpha: 0.05 }).pairs;
      expect((pair?.difference ?? 0) / (pair?.se ?? 1)).toBeCloseTo(4.0621, 4);
      expect(pair?.df).toBe(9);
      expect(pair?.p).toBeCloseTo(0.002833, 6);
      expect(pair?.low).toBeCloseTo(0.7001142, 6);
      expect(pair?.high).toBeCloseTo(2.4598858, 6);
    },
  );

  it('of two items is Welch’s t-test, whatever the correction', () => {
    const samples = plants.slice(0, 2);
    const [t2] = pairMethod('tamhane-t2').compare({ samples, blocks: undefined, alpha: 0.05 }).pairs;
    const [gh] = pairMethod('games-howell').compare({ samples, blocks: undefined, alpha: 0.05 }).pairs;
    expectRelative(t2?.p, gh?.p as number, CLOSE);
    // R: t.test(ctrl, trt1)$p.value = 0.2504 (PlantGrowth).
    expect(t2?.p).toBeCloseTo(0.2504, 4);
  });

  it('under a trimming rule is Yuen’s test', () => {
    // By hand: h = 3 of n = 5, s_w² = 4, d = (n − 1)·s_w²/(h(h − 1)) = 16/6.
    const kept = Float64Array.of(2, 4, 6);
    const sample: Sample = {
      item: 'a',
      kept,
      summary: summarise(kept, 0.05, { trim: { perEnd: 1, of: 5 } }),
    };
    expect(locate(sample).varianceOfMean).toBeCloseTo(16 / 6, 12);
    expect(locate(sample).df).toBe(2);
  });

  it('has no interval where an item has one reading', () => {
    const samples = grouped(['a', 'a', 'b'], [1, 2, 5]);
    const [pair] = pairMethod('tamhane-t2').compare({ samples, blocks: undefined, alpha: 0.05 }).pairs;
    expect(pair).toMatchObject({ difference: 3.5, p: null, low: null, high: null });
  });

  it('asks for complete rounds', () => {
    expect(() => pairMethod('rounds').compare({ samples: plants, blocks: undefined, alpha: 0.05 })).toThrow(
      RangeError,
    );
  });

  it('by Dunn with Holm’s correction meets R', () => {
    // R on PlantGrowth: mean ranks by rank(), Dunn's z with the tie correction, p.adjust(method = 'holm').
    const pairs = pairMethod('dunn').compare({ samples: plants, blocks: undefined, alpha: 0.05 }).pairs;
    const expected = [0.2636842678914, 0.182327888097, 0.0150008711108];
    pairs.forEach(({ p, low }, i) => {
      expectRelative(p, expected[i] as number, CLOSE);
      expect(low).toBeNull();
    });
  });
});

describe('ranks', () => {
  it('share a tie', () => {
    expect([...ranks([10, 20, 20, 5]).ranks]).toEqual([2, 3.5, 3.5, 1]);
    expect(ranks([10, 20, 20, 5]).ties).toBe(6);
  });
  it('come out alike for few and for many readings', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 9 }), { minLength: 1, maxLength: 30 }), (values) => {
        // Enough larger values to take the way for many; they rank behind and must change nothing before them.
        const padded = [...values, ...Array.from({ length: 40 }, (_, i) => 100 + i)];
        expect([...ranks(padded).ranks].slice(0, values.length)).toEqual([...ranks(values).ranks]);
        expect(ranks(padded).ties).toBe(ranks(values).ties);
      }),
    );
  });
});

describe('verdict', () => {
  const pair = (difference: number, half: number) => ({
    ...bare(0, 1, difference),
    se: half / 2,
    df: 10,
    p: 0.01,
    low: difference - half,
    high: difference + half,
  });
  const judge = (
    means: [number, number],
    half: number,
    margin: number,
    kind: 'higher' | 'lower' = 'higher',
  ) =>
    verdictOf({
      pair: pair(means[1] - means[0], half),
      means,
      counts: [5, 5],
      better: { kind },
      margin,
      alpha: 0.05,
    });

  it('is the same when the whole interval lies within the margin, even clear of zero', () => {
    expect(judge([10, 9.95], 0.02, 0.1)).toMatchObject({ verdict: 'same', matters: 'no' });
  });
  it('is ahead and matters when the interval lies beyond the margin', () => {
    expect(judge([10, 9], 0.5, 0.1)).toMatchObject({ verdict: 'a ahead', matters: 'yes' });
    expect(judge([10, 9], 0.5, 0.1, 'lower')).toMatchObject({ verdict: 'b ahead', matters: 'yes' });
  });
  it('is ahead and perhaps of no matter when the interval reaches into the margin', () => {
    expect(judge([10, 9.85], 0.1, 0.1)).toMatchObject({ verdict: 'a ahead', matters: 'unsure' });
  });
  it('is not settled when the interval holds zero and is wider than the margin', () => {
    expect(judge([10, 9.95], 0.2, 0.1)).toMatchObject({ verdict: 'not settled', matters: 'unsure' });
  });
  it('turns over when the items change places', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 10, noNaN: true }),
        fc.double({ min: 0, max: 10, noNaN: true }),
        fc.double({ min: 0.001, max: 5, noNaN: true }),
        fc.double({ min: 0, max: 2, noNaN: true }),
        (a, b, half, margin) => {
          const swap = {
            'a ahead': 'b ahead',
            'b ahead': 'a ahead',
            same: 'same',
            'not settled': 'not settled',
            'too few': 'too few',
          };
          expect(judge([b, a], half, margin).verdict).toBe(swap[judge([a, b], half, margin).verdict]);
        },
      ),
    );
  });
  it('near a target goes by the distance from it, on either side', () => {
    const verdict = verdictOf({
      pair: { ...pair(3, 0.5), sum: { estimate: 201, se: 0.25, low: 200.5, high: 201.5 } },
      means: [99, 102],
      counts: [5, 5],
      better: { kind: 'nearest', target: 100 },
      margin: 0,
      alpha: 0.05,
    });
    expect(verdict).toMatchObject({ verdict: 'a ahead', lead: 1 });
  });

  describe('of single readings', () => {
    // Common practice, no source: a meter with a 10 % margin of error reads 160 ± 16; a drop to 153 is no
    // appreciable difference, one to 134 is.
    const single = (means: [number, number]) =>
      verdictOf({
        pair: bare(0, 1, means[1] - means[0]),
        means,
        counts: [1, 1],
        better: { kind: 'higher' },
        margin: 0,
        alpha: 0.05,
        accuracy: 16,
      });
    it('lets the instrument’s uncertainty decide', () => {
      expect(single([160, 153])).toMatchObject({ verdict: 'too few', withinAccuracy: true });
      expect(single([160, 134]).verdict).toBe('a ahead');
    });
    it('decides nothing where the instrument states nothing', () => {
      const verdict = verdictOf({
        pair: bare(0, 1, -90),
        means: [160, 70],
        counts: [1, 4],
        better: { kind: 'higher' },
        margin: 0,
        alpha: 0.05,
      });
      expect(verdict.verdict).toBe('too few');
    });
  });
});

describe('items that show no spread at all', () => {
  it.each([
    ['Student’s t', (difference: number) => byT(difference, 0, 6, 0.05, 3)],
    ['the studentized range', (difference: number) => byRange(difference, 0, 6, 3, 0.05)],
  ] as const)('differ by just what they differ, by %s', (_, tested) => {
    expect(tested(0.3)).toEqual({ se: 0, df: 6, p: 0, low: 0.3, high: 0.3, critical: 0 });
    expect(tested(0)).toEqual({ se: 0, df: 6, p: 1, low: 0, high: 0, critical: 0 });
  });
  it('leave nothing to the range of several with a single degree of freedom', () => {
    expect(byRange(0.3, 0.1, 1, 3, 0.05)).toEqual({
      se: 0.1,
      df: 1,
      p: null,
      low: null,
      high: null,
      critical: null,
    });
    expect(byRange(0.3, 0.1, 1, 2, 0.05).p).not.toBeNull();
    expect(byRange(0.3, 0.1, 2, 3, 0.05).p).not.toBeNull();
  });
});
