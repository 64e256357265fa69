import { describe, expect, it } from 'vitest';
import { seededRandom } from '../random/seeded.ts';
import { summarise } from '../summary/summary.ts';
import { blocksOf } from './blocks.ts';
import { levelChanges } from './changes.ts';
import { pairMethod } from './methods.ts';
import type { Sample } from './sample.ts';

const random = seededRandom(5);
const ROUNDS = Float64Array.from({ length: 6 }, (_, round) => round);
const read = Array.from({ length: 3 }, (_, item) =>
  Float64Array.from({ length: 6 }, (__, round) => 20 + item + 2 * Math.sin(round) + 0.3 * random.normal()),
);
const DOUBTS = [0, 0.5, 1.2];

const samplesOf = (doubts: readonly number[]): Sample[] =>
  read.map((kept, i) => ({
    ...{ item: String(i), kept, summary: summarise(kept, 0.05), step: 0 },
    doubt: doubts[i] ?? 0,
  }));
const compare = (name: Parameters<typeof pairMethod>[0], doubts: readonly number[]) =>
  pairMethod(name).compare({
    samples: samplesOf(doubts),
    blocks: blocksOf(
      read,
      read.map(() => ROUNDS),
    ),
    alpha: 0.05,
  });

describe('what corrections leave open about two items', () => {
  it.each(['tamhane-t2', 'games-howell', 'tukey', 'within-rounds', 'own-differences', 'rounds'] as const)(
    'comes on top of the variance of their difference, and no more readings lessen it: %s',
    (name) => {
      const [sure, open] = [compare(name, []), compare(name, DOUBTS)];
      open.pairs.forEach((pair, i) => {
        const without = sure.pairs[i];
        const added = (DOUBTS[pair.a] as number) ** 2 + (DOUBTS[pair.b] as number) ** 2;
        expect((pair.se as number) ** 2).toBeCloseTo((without?.se as number) ** 2 + added, 9);
        expect(pair.fixed - (without?.fixed ?? 0)).toBeCloseTo(added, 9);
        // The spread of single readings is as it was.
        expect(pair.variance).toBeCloseTo(without?.variance as number, 9);
        expect(pair.difference).toBe(without?.difference);
        expect((pair.high as number) - (pair.low as number)).toBeGreaterThan(
          (without?.high as number) - (without?.low as number),
        );
        if (pair.sum && without?.sum) expect(pair.sum.se ** 2).toBeCloseTo(without.sum.se ** 2 + added, 9);
      });
      open.spread?.forEach(({ variance }, item) => {
        expect(variance).toBeCloseTo(
          (sure.spread?.[item]?.variance as number) + (DOUBTS[item] as number) ** 2,
          9,
        );
      });
    },
  );
  it('widens what an item changes by from level to level', () => {
    const change = (doubts: readonly number[]) =>
      levelChanges([samplesOf(doubts).map((sample) => ({ sample, rounds: ROUNDS }))], {
        ...{ pairs: [[0, 2]], alpha: 0.05, withinRounds: true },
      })[0]?.[0];
    const [sure, open] = [change([]), change(DOUBTS)];
    expect((open?.se as number) ** 2).toBeCloseTo((sure?.se as number) ** 2 + 1.2 ** 2, 9);
    expect(open?.difference).toBe(sure?.difference);
  });
});
