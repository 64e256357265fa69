import { describe, expect, it } from 'vitest';
import chicks from '../reference/chick-weights.json' with { type: 'json' };
import sprays from '../reference/insect-sprays.json' with { type: 'json' };
import { dropExtremes } from '../screening/drop-extremes.ts';
import { summarise } from '../summary/summary.ts';
import { CLOSE, EXACT, expectRelative } from '../testing.ts';
import { anova } from './anova.ts';
import { friedman } from './complete-rounds.ts';
import { kruskalWallis } from './kruskal-wallis.ts';
import type { PairMethodName } from './method-names.ts';
import { pairMethod } from './methods.ts';
import type { Sample } from './sample.ts';
import { welchAnova } from './welch-anova.ts';

const samplesOf = ({ items, values }: { items: string[]; values: number[] }): Sample[] =>
  [...new Set(items)].map((item) => {
    const kept = Float64Array.from(values.filter((_, i) => items[i] === item));
    return { item, kept, summary: summarise(kept, 0.05) };
  });

// Anonymous (1948), chick weights by feed, unequal counts; Beall (1942), insects after six sprays, unequal spread and
// many ties. Expected values by R: anova(lm), oneway.test, kruskal.test, TukeyHSD, ptukey, qtukey, pt, qt.
describe.each([
  ['chick weights with unequal counts', chicks],
  ['insect counts with unequal spread and ties', sprays],
])('%s meet R', (_name, reference) => {
  const samples = samplesOf(reference);
  const groups = samples.map(({ kept }) => kept);
  const { expected } = reference;

  it('in the tests of all items at once', () => {
    const classical = anova(groups);
    const welch = welchAnova(samples);
    const ranked = kruskalWallis(groups);
    expectRelative(classical?.f, expected.anova.f, CLOSE);
    expect(classical?.df2).toBe(expected.anova.df2);
    for (const name of ['f', 'df1', 'df2'] as const)
      expectRelative(welch?.[name], expected.welchAnova[name], CLOSE);
    expectRelative(ranked?.h, expected.kruskalWallis.h, CLOSE);
    // p-values below 1e-6 agree to an absolute 1e-10.
    for (const [ours, theirs] of [
      [classical?.p, expected.anova.p],
      [welch?.p, expected.welchAnova.p],
      [ranked?.p, expected.kruskalWallis.p],
    ] as const) {
      if (theirs > 1e-6) expectRelative(ours, theirs, CLOSE);
      else expect(Math.abs((ours ?? 1) - theirs)).toBeLessThan(1e-10);
    }
  });

  it.each<[PairMethodName, 'tamhaneT2' | 'gamesHowell' | 'tukey']>([
    ['tamhane-t2', 'tamhaneT2'],
    ['games-howell', 'gamesHowell'],
    ['tukey', 'tukey'],
  ])('in every pair by %s', (method, key) => {
    const pairs = pairMethod(method).compare({ samples, blocks: undefined, alpha: 0.05 }).pairs;
    expect(pairs).toHaveLength(expected.pairs.length);
    expected.pairs.forEach((theirs, i) => {
      const ours = pairs[i];
      expect([samples[ours?.a ?? 0]?.item, samples[ours?.b ?? 0]?.item]).toEqual([theirs.a, theirs.b]);
      // A difference of zero is zero up to rounding.
      expect(Math.abs((ours?.difference ?? Number.NaN) - theirs.difference)).toBeLessThan(1e-9);
      if (key !== 'tukey') {
        expectRelative(ours?.se, theirs.se, EXACT);
        expectRelative(ours?.df, theirs.df, EXACT);
      }
      const { p, ciLow, ciHigh } = theirs[key];
      if (p > 1e-6) expectRelative(ours?.p, p, 1e-5);
      else expect(Math.abs((ours?.p ?? 1) - p)).toBeLessThan(1e-10);
      expectRelative(ours?.low, ciLow, 1e-5);
      expectRelative(ours?.high, ciHigh, 1e-5);
    });
  });
});

describe('drop highest and lowest', () => {
  const trimmed = (feed: string): Sample => {
    const values = chicks.values.filter((_, i) => chicks.items[i] === feed);
    const { leftOut, trim } = dropExtremes.screen(values, { alpha: 0.05 });
    const out = new Set(leftOut.map(({ index }) => index));
    const kept = Float64Array.from(values.filter((_, i) => !out.has(i)));
    return { item: feed, kept, summary: summarise(kept, 0.05, { trim }), trim };
  };
  it('is compared by Yuen’s test, as computed in R from his formulas', () => {
    // Yuen (1974); R: winsorized variances by var() on the sorted readings, p by pt.
    const samples = [trimmed('linseed'), trimmed('soybean')];
    const [pair] = pairMethod('tamhane-t2').compare({ samples, blocks: undefined, alpha: 0.05 }).pairs;
    expectRelative(pair?.difference, 29.4166666667, 1e-9);
    expectRelative(pair?.se, 23.0383740462, 1e-9);
    expectRelative(pair?.df, 19.8616234478, 1e-9);
    expectRelative(pair?.p, 0.216380263743, CLOSE);
  });
  it('has the standard error of Tukey and McLaughlin', () => {
    expectRelative(trimmed('linseed').summary.se, 16.0044312046, 1e-9);
  });
});

describe('Friedman’s test', () => {
  it('corrects for ties within rounds as R does', () => {
    // R: friedman.test on these five rounds gives 3.
    const rounds = [
      [1, 2, 3],
      [2, 2, 5],
      [3, 1, 3],
      [4, 4, 4],
      [1, 3, 2],
    ].map((row) => Float64Array.from(row));
    expect(friedman(rounds)?.chiSquared).toBeCloseTo(3, 10);
  });
});
