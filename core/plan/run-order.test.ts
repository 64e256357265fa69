import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { chiSquaredUpper } from '../distributions/index.ts';
import { DRAWS, ORDER_KINDS } from '../model/words.ts';
import { testId } from '../testing-study.ts';
import { type OrderInput, balanceOf, runOrder } from './run-order.ts';
import { williamsSquare } from './williams.ts';

const ids = ['a', 'b', 'c', 'd'].map(() => testId());

const cells = (itemIds: readonly string[]) => itemIds.map((itemId) => ({ itemId, levelIds: [] }));

const roundOrder = (itemIds: readonly string[], seed: number, round: number) =>
  runOrder({ kind: 'shuffled-rounds', cells: cells(itemIds), rounds: round, seed, draws: 'mixed' })
    .filter((run) => run.round === round)
    .map(({ itemId }) => itemId);

describe('the run order', () => {
  it('is made again by its seed, whatever order the items are listed in', () => {
    for (const kind of ORDER_KINDS.filter((kind) => kind !== 'fixed')) {
      const input = { kind, cells: cells(ids), rounds: 5, seed: 7, draws: 'mixed' as const };
      expect(runOrder({ ...input, cells: cells([...ids].reverse()) })).toEqual(runOrder(input));
      expect(runOrder({ ...input, seed: 8 })).not.toEqual(runOrder(input));
    }
  });
  it.each(ORDER_KINDS)('%s holds every item once a round', (kind) => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 4294967295 }),
        fc.integer({ min: 1, max: 30 }),
        fc.integer({ min: 1, max: 9 }),
        fc.constantFrom(...DRAWS),
        (seed, rounds, count, draws) => {
          const itemIds = Array.from({ length: count }, (_, i) => `item ${String(i)}`);
          const order = runOrder({ kind, cells: cells(itemIds), rounds, seed, draws });
          expect(order).toHaveLength(rounds * count);
          for (let round = 1; round <= rounds; round += 1) {
            const ofRound = order.filter((run) => run.round === round).map(({ itemId }) => itemId);
            expect(ofRound.sort()).toEqual(itemIds);
          }
        },
      ),
      { numRuns: 40 },
    );
  });
  it('is a fresh shuffle each round, every order about equally often', () => {
    const counts = new Map<string, number>();
    const three = ids.slice(0, 3);
    const order = runOrder({
      kind: 'shuffled-rounds',
      cells: cells(three),
      rounds: 6000,
      seed: 99,
      draws: 'mixed',
    });
    for (let start = 0; start < order.length; start += 3) {
      const key = order
        .slice(start, start + 3)
        .map(({ itemId }) => three.indexOf(itemId))
        .join('');
      counts.set(key, (counts.get(key) ?? 0) + 1);
    }
    expect(counts.size).toBe(6);
    // 1000 each expected; five standard deviations are 144.
    for (const count of counts.values()) expect(Math.abs(count - 1000)).toBeLessThan(144);
  });
  it('follows the list when it is fixed', () => {
    const listed = [...ids].reverse();
    const order = runOrder({ kind: 'fixed', cells: cells(listed), rounds: 2, seed: 1, draws: 'mixed' });
    expect(order.map(({ itemId }) => itemId)).toEqual([...listed, ...listed]);
  });
  it('does not change in rounds that come before, when rounds are added', () => {
    expect(roundOrder(ids, 5, 2)).toEqual(
      runOrder({ kind: 'shuffled-rounds', cells: cells(ids), rounds: 9, seed: 5, draws: 'mixed' })
        .slice(4, 8)
        .map(({ itemId }) => itemId),
    );
  });
});

// Williams (1949): the properties that define the design.
describe('a balanced square', () => {
  it.each([1, 2, 3, 4, 5, 6, 7, 8, 12, 13])('of %i items lets each follow each other equally often', (k) => {
    const square = williamsSquare(k);
    expect(square).toHaveLength(k % 2 === 0 || k === 1 ? k : 2 * k);
    const follows = new Map<string, number>();
    const places = new Map<string, number>();
    const count = (tally: Map<string, number>, key: string) => tally.set(key, (tally.get(key) ?? 0) + 1);
    for (const row of square) {
      expect([...row].sort((a, b) => a - b)).toEqual([...Array(k).keys()]);
      row.forEach((item, place) => {
        count(places, `${String(item)} at ${String(place)}`);
        if (place > 0) count(follows, `${String(row[place - 1])} then ${String(item)}`);
      });
    }
    expect(follows.size).toBe(k * (k - 1));
    expect(new Set(follows.values()).size).toBeLessThanOrEqual(1);
    expect(places.size).toBe(k * k);
    expect(new Set(places.values()).size).toBe(1);
  });
  it('stays balanced when it is relabelled from a seed', () => {
    const order = runOrder({
      kind: 'balanced-square',
      cells: cells(ids),
      rounds: 4,
      seed: 3,
      draws: 'mixed',
    });
    const follows = new Map<string, number>();
    order.forEach(({ itemId, round }, i) => {
      const before = order[i - 1];
      if (before?.round !== round) return;
      const key = `${before.itemId}/${itemId}`;
      follows.set(key, (follows.get(key) ?? 0) + 1);
    });
    expect([...follows.values()]).toEqual(Array<number>(12).fill(1));
    for (const { meanPlace } of balanceOf(order)) expect(meanPlace).toBeCloseTo(0.5, 1);
  });
  it('shows which item a drift would favour under a fixed order', () => {
    const shares = balanceOf(
      runOrder({ kind: 'fixed', cells: cells(ids), rounds: 1, seed: 1, draws: 'mixed' }),
    );
    expect(shares.map(({ meanPlace }) => meanPlace)).toEqual([0.125, 0.375, 0.625, 0.875]);
  });
});

const letters = (count: number) => cells([...'abcdefgh'].slice(0, count));
const spelled = (input: Pick<OrderInput, 'kind' | 'reorders'>) =>
  runOrder({ ...input, cells: letters(5), rounds: 4, seed: 7, draws: 'by-stream' })
    .map(({ itemId }) => itemId)
    .join('');

describe('an order that is all shuffled', () => {
  it('has the first run of an item in its first round, also where it was shuffled again', () => {
    const order = runOrder({
      ...{ kind: 'full-shuffle', cells: cells(ids), rounds: 6, seed: 3, draws: 'mixed' },
      reorders: [{ place: 7, kind: 'full-shuffle', seed: 11 }],
    });
    for (const id of ids) {
      const ofItem = order.filter(({ itemId }) => itemId === id).map(({ round }) => round);
      expect(ofItem).toEqual([1, 2, 3, 4, 5, 6]);
    }
  });
});

describe('an order from before format 11', () => {
  // As version 10 of the format had them.
  it.each([
    ['shuffled-rounds', 'dbaeceacbddcbeacaedb', 'dbaeceacbddceabbacde'],
    ['balanced-square', 'edcbaacbedceadbecdab', 'edcbaacbeddbaecacdeb'],
    ['full-shuffle', 'ecdbedaecbcdabbcdaea', 'ecdbedaecbceaacbdbad'],
  ] as const)('stays as it was: %s', (kind, order, again) => {
    expect(spelled({ kind })).toBe(order);
    expect(spelled({ kind, reorders: [{ place: 10, kind, seed: 11 }] })).toBe(again);
  });
});

/**
 * Pearson's χ² of the items that stand in one place of two rounds, over many seeds: as a chance of at least so much
 * where the rounds have nothing to do with each other.
 */
function chanceOfPairs(draws: OrderInput['draws'], later: number, place: number): number {
  const count = 5;
  const seeds = 2000;
  const pairs = new Map<string, number>();
  for (let seed = 1; seed <= seeds; seed += 1) {
    const order = runOrder({
      kind: 'shuffled-rounds',
      cells: letters(count),
      rounds: 1 + later,
      seed,
      draws,
    });
    const pair = `${order[place]?.itemId ?? ''}${order[later * count + place]?.itemId ?? ''}`;
    pairs.set(pair, (pairs.get(pair) ?? 0) + 1);
  }
  const expected = seeds / count ** 2;
  let statistic = (count ** 2 - pairs.size) * expected;
  for (const seen of pairs.values()) statistic += (seen - expected) ** 2 / expected;
  return chiSquaredUpper(statistic, count ** 2 - 1);
}

describe('rounds of an order', () => {
  const laters = [1, 2, 3, 5, 8];
  const places = [0, 2, 4];
  const chances = (draws: OrderInput['draws']) =>
    laters.flatMap((later) => places.map((place) => chanceOfPairs(draws, later, place)));
  it('have nothing to do with each other', () => {
    // Fifteen tests: Bonferroni's share of 0.001.
    expect(Math.min(...chances('mixed'))).toBeGreaterThan(0.001 / 15);
  });
  it('had much to do with each other before format 11', () => {
    expect(Math.min(...chances('by-stream'))).toBeLessThan(1e-12);
  });
});
