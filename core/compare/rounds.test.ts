import { describe, expect, it } from 'vitest';
import moderated from '../reference/moderated-rounds.json' with { type: 'json' };
import { seededRandom } from '../random/seeded.ts';
import { CLOSE, EXACT, expectRelative } from '../testing.ts';
import { summarise } from '../summary/summary.ts';
import { blocksOf, completeRounds, leastSquaresMeans, roundDifferences } from './blocks.ts';
import { itemVariances } from './in-rounds.ts';
import { pairMethod } from './methods.ts';
import { moderation } from './moderation.ts';

type Row = (typeof moderated.readings)[number];

function inRounds(rows: readonly Row[]) {
  const items = [...new Set(rows.map(({ item }) => item))];
  const of = (item: string) => rows.filter((row) => row.item === item);
  const kept = items.map((item) => Float64Array.from(of(item), ({ value }) => value));
  const rounds = items.map((item) => Float64Array.from(of(item), ({ round }) => round));
  return {
    items,
    blocks: blocksOf(kept, rounds),
    samples: items.map((item, i) => ({
      item,
      kept: kept[i] as Float64Array,
      summary: summarise(kept[i] as Float64Array, 0.05),
    })),
  };
}

// Immer, Hayes and Powers (1934); expected values by R from Smyth's formulas (2004).
describe('pairs within rounds', () => {
  const { readings, complete, withoutVInRound3, twoItems } = moderated;
  it.each([
    ['in complete rounds', readings, complete],
    ['with a gap', readings.filter(({ item, round }) => !(item === 'V' && round === 3)), withoutVInRound3],
    ['of two items', readings.filter(({ item }) => item === 'M' || item === 'P'), twoItems],
  ])('%s meet R', (_what, rows, expected) => {
    const { items, blocks, samples } = inRounds(rows);
    const { pairs } = pairMethod('within-rounds').compare({ samples, blocks, alpha: 0.05 });
    expect(pairs).toHaveLength(expected.pairs.length);
    for (const theirs of expected.pairs) {
      const ours = pairs.find(({ a, b }) => items[a] === theirs.a && items[b] === theirs.b);
      expectRelative(ours?.difference, theirs.difference, 1e-8);
      expectRelative(ours?.se, theirs.se, CLOSE);
      expectRelative(ours?.df, theirs.df, CLOSE);
      expectRelative(ours?.p, theirs.p, CLOSE);
      expectRelative(ours?.low, theirs.ciLow, CLOSE);
      expectRelative(ours?.high, theirs.ciHigh, CLOSE);
    }
  });
  it.each([
    ['in complete rounds', readings, complete.leastSquaresMeans],
    [
      'with a gap',
      readings.filter(({ item, round }) => !(item === 'V' && round === 3)),
      withoutVInRound3.leastSquaresMeans,
    ],
  ])('are placed by the least-squares means of R %s', (_what, rows, expected) => {
    const { items, blocks } = inRounds(rows);
    const means = leastSquaresMeans(blocks as NonNullable<typeof blocks>);
    items.forEach((item, i) => expectRelative(means?.[i], expected[item as keyof typeof expected], EXACT));
  });
  it('have the prior that R finds', () => {
    const { blocks, items } = inRounds(readings);
    const shared = items.flatMap((_, a) =>
      items
        .slice(a + 1)
        .map((_item, j) => roundDifferences(blocks as NonNullable<typeof blocks>, a, a + 1 + j)),
    );
    const found = moderation(
      shared.map(({ variance }) => variance),
      shared.map(({ n }) => n - 1),
      { rounds: 6, items: 5 },
    );
    expectRelative(found.d0, complete.prior.d0, CLOSE);
    expectRelative(found.s0, complete.prior.s0, CLOSE);
    expectRelative(found.lent, complete.prior.lent, CLOSE);
  });
  it('by own differences are the paired t-test of each, corrected for their number', () => {
    const { blocks, samples } = inRounds(readings);
    const [pair] = pairMethod('own-differences').compare({ samples, blocks, alpha: 0.05 }).pairs;
    // R: t.test(S, M, paired = TRUE): −0.55, se √(167.263/6), 5 df; p corrected over 10 pairs.
    expectRelative(pair?.se, Math.sqrt(167.263 / 6), EXACT);
    expect(pair?.df).toBe(5);
  });
});

describe('what is lent', () => {
  it('is nothing between two items, nor in two rounds of more than six', () => {
    expect(moderation([3, 4, 5], [3, 3, 3], { rounds: 4, items: 2 }).lent).toBe(0);
    expect(moderation([3, 4, 5], [1, 1, 1], { rounds: 2, items: 7 }).lent).toBe(0);
    expect(moderation([3, 4, 5], [1, 1, 1], { rounds: 2, items: 6 }).lent).toBe(2);
  });
  it('is little in three and four rounds, where a wild item may look calm', () => {
    const alike = (rounds: number) =>
      moderation(
        Array.from({ length: 66 }, (_, i) => 3 + 0.01 * i),
        Array.from({ length: 66 }, () => rounds - 1),
        { rounds, items: 12 },
      ).lent;
    expect([3, 4, 5, 12].map(alike)).toEqual([2, 6, 10, 38]);
  });
  it('is half of all where variances differ by chance alone, and little where one item is wild', () => {
    const { d0, lent } = moderation([3, 3.1, 2.9], [7, 7, 7], { rounds: 8, items: 3 });
    expect([d0, lent]).toEqual([Number.POSITIVE_INFINITY, 3.5]);
    expect(moderation([1, 100, 110], [7, 7, 7], { rounds: 8, items: 3 }).lent).toBeLessThan(0.5);
  });
});

describe('readings in rounds', () => {
  const values = (...all: number[]) => Float64Array.from(all);
  it('need two rounds that two items share', () => {
    expect(blocksOf([values(1, 2), values(3, 4)], [values(1, 2), values(2, 3)])).toBeUndefined();
    expect(blocksOf([values(1, 2), values(3, 4)], [values(1, 2), undefined])).toBeUndefined();
    expect(blocksOf([values(1, 2), values(3, 4)], [values(1, 2), values(2, 1)])).toMatchObject({ rounds: 2 });
  });
  it('count twice in one round as their mean', () => {
    const blocks = blocksOf([values(1, 3, 5), values(4, 6)], [values(1, 1, 2), values(1, 2)]);
    expect([...(blocks?.cells ?? [])]).toEqual([2, 4, 5, 6]);
  });
  it('with a gap leave the complete rounds to tests that need them', () => {
    const blocks = blocksOf([values(1, 2, 3), values(4, 6)], [values(1, 2, 3), values(1, 3)]);
    expect(completeRounds(blocks as NonNullable<typeof blocks>).map((row) => [...row])).toEqual([
      [1, 4],
      [3, 6],
    ]);
  });
  it('keep their digits when they have many in common', () => {
    const base = 1e9;
    const blocks = blocksOf(
      [values(base + 0.125, base + 0.25, base + 0.5), values(base + 0.375, base + 0.75)],
      [values(1, 2, 3), values(1, 2)],
    );
    const means = leastSquaresMeans(blocks as NonNullable<typeof blocks>);
    // Differences 0.25 and 0.5: b lies 0.375 above a, whatever was read of a in the third round.
    expect((means?.[1] ?? 0) - (means?.[0] ?? 0)).toBeCloseTo(0.375, 6);
  });
});

describe('variances of items', () => {
  it('are found from those of their differences', () => {
    const pairs = [
      { a: 0, b: 1, variance: 3 },
      { a: 0, b: 2, variance: 4 },
      { a: 1, b: 2, variance: 5 },
    ];
    itemVariances(3, pairs).forEach((variance, i) => expect(variance).toBeCloseTo(i + 1, 6));
  });
  it('of two are half each, and none falls below a tenth of their mean', () => {
    const [first, second] = itemVariances(2, [{ a: 0, b: 1, variance: 8 }]);
    expect(first).toBeCloseTo(4, 4);
    expect(second).toBeCloseTo(4, 4);
    const wild = itemVariances(3, [
      { a: 0, b: 1, variance: 1 },
      { a: 0, b: 2, variance: 100 },
      { a: 1, b: 2, variance: 20 },
    ]);
    expect(Math.min(...wild)).toBeGreaterThan(0);
  });
});

describe('rank sums within rounds', () => {
  it('call nobody ahead by chance in more than one study of twenty', () => {
    const random = seededRandom(17);
    let called = 0;
    for (let study = 0; study < 400; study += 1) {
      const kept = [0, 1, 2, 3].map(() => Float64Array.from({ length: 6 }, () => random.below(4)));
      const numbers = Float64Array.of(1, 2, 3, 4, 5, 6);
      const { pairs } = pairMethod('rank-sums').compare({
        samples: kept.map((values, i) => ({
          item: String(i),
          kept: values,
          summary: summarise(values, 0.05),
        })),
        blocks: blocksOf(
          kept,
          kept.map(() => numbers),
        ),
        alpha: 0.05,
      });
      if (pairs.some(({ p }) => (p ?? 1) < 0.05)) called += 1;
    }
    expect(called / 400).toBeLessThan(0.065);
  });
});
