import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Better } from '../compare/better.ts';
import { SCORING_SCHOOLS } from '../model/words.ts';
import { type RangedValues, type ValueRange, possibleValues } from './ranges.ts';
import { type Scored, scoredBy, scoredReach } from './scores.ts';
import { type DrawnCriterion, scoreVerdicts } from './score-verdicts.ts';

const HIGHER: Better = { kind: 'higher' };
const criterion = (
  values: (number | null)[],
  ranges: (ValueRange | null)[],
  better: Better = HIGHER,
): RangedValues => ({ better, values, ranges, hasRatios: true });
const valuesOf = (criteria: readonly RangedValues[], weights: readonly number[] = criteria.map(() => 1)) =>
  possibleValues(
    criteria,
    weights,
    criteria.map(({ values }) => values),
  );

describe('values of which ranges are known', () => {
  it('are as they stand where there are none, or none of any weight', () => {
    expect(valuesOf([criterion([1, 2], [null, null])])).toEqual([[[1, 2]]]);
    const ranged = criterion([1, 2], [null, { low: 1, high: 3 }]);
    expect(valuesOf([ranged], [0])).toEqual([[[1, 2]]]);
    expect(possibleValues([ranged], [1], [[1, null]])).toEqual([[[1, null]]]);
  });
  it('are tried as they stand, at both ends, and between the others', () => {
    const tried = valuesOf([criterion([2, 4, 3], [null, null, { low: 1, high: 5 }])]).map(
      ([row]) => row?.[2],
    );
    expect(tried).toEqual([3, 1, 5, 1.5, 3, 4.5]);
  });
  it('are tried at the target where that lies within', () => {
    const nearest: Better = { kind: 'nearest', target: 2.25 };
    const tried = valuesOf([criterion([9, 2], [null, { low: 1, high: 3 }], nearest)]).map(
      ([row]) => row?.[1],
    );
    expect(tried).toEqual([2, 1, 3, 2.25, 2]);
  });
  it('end at zero where nothing lies below, and else far from the others', () => {
    const open = criterion([4, 2], [null, { low: null, high: 2 }]);
    expect(valuesOf([open])[1]).toEqual([[4, 0]]);
    const below = valuesOf([{ ...open, hasRatios: false }])[1]?.[0]?.[1] as number;
    expect(below).toBeLessThan(-10000);
    const above = valuesOf([criterion([4, 8], [null, { low: 8, high: null }])])[2]?.[0]?.[1] as number;
    expect(above).toBeGreaterThan(40000);
  });
  it('end far from all else where nothing else differs, even where all is zero', () => {
    const end = (known: number) =>
      valuesOf([criterion([known, known], [null, { low: known, high: null }])])[2]?.[0]?.[1];
    expect([end(5), end(-5), end(0)]).toEqual([5 + 5e4, -5 + 5e4, 1e4]);
  });
  it('are tried in so many cases at most, their ends among them', () => {
    for (let k = 1; k <= 12; k += 1) {
      const ranges = Array.from({ length: k }, (_, i) => ({ low: i, high: i + 4 }));
      const cases = valuesOf([
        criterion(
          ranges.map(({ low }) => low + 2),
          ranges,
        ),
      ]);
      expect(cases.length).toBeLessThanOrEqual(513);
      for (const end of ['low', 'high'] as const)
        expect(cases).toContainEqual([ranges.map((range) => range[end])]);
    }
  });
  it('stay within their ranges', () => {
    const range = fc.tuple(fc.integer({ min: 1, max: 50 }), fc.integer({ min: 0, max: 30 }));
    fc.assert(
      fc.property(fc.array(range, { minLength: 2, maxLength: 7 }), fc.boolean(), (drawn, isLower) => {
        const ranges = drawn.map(([low, width], i) => (i % 2 === 0 ? { low, high: low + width } : null));
        const values = drawn.map(([low, width]) => low + width / 2);
        const cases = valuesOf([criterion(values, ranges, { kind: isLower ? 'lower' : 'higher' })]);
        const isWithin = (value: number | null, item: number) => {
          const known = ranges[item] ?? { low: values[item] as number, high: values[item] as number };
          return value !== null && value >= known.low && value <= known.high;
        };
        expect(cases.filter(([row]) => !row?.every(isWithin))).toEqual([]);
      }),
    );
  });
});

describe('scores where ranges are known', () => {
  const value = fc.integer({ min: 1, max: 40 });
  const row = fc.array(value, { minLength: 4, maxLength: 4 });
  it.each(['span', 'ratio', 'points'] as const)('lie between their ends, by %s', (school) => {
    fc.assert(
      fc.property(
        fc.tuple(row, row, value, value, fc.array(row, { minLength: 5 })),
        ([first, second, end, other, drawn]) => {
          const low = Math.min(end, other);
          const high = low + 15;
          const ranges = [{ low, high }, null, null, null];
          const criteria = [first, second].map((values, i) => ({
            ...criterion(values.with(0, low + 7.5), ranges),
            measurandId: String(i),
          }));
          const weights = [0.7, 0.3];
          const standing = criteria.map(({ values }) => values);
          const { least, most } = scoredReach(criteria, weights, school, standing) as {
            least: Scored;
            most: Scored;
          };
          for (const [x = 0, y = 0] of drawn) {
            const values = [x, y].map((share, i) => standing[i]?.with(0, low + (15 * share) / 40) ?? []);
            const { scores } = scoredBy(criteria, weights, school, values);
            const isOutside = (score: number | null, item: number) =>
              (score as number) < (least.scores[item] as number) - 1e-9 ||
              (score as number) > (most.scores[item] as number) + 1e-9;
            expect(scores.filter(isOutside)).toEqual([]);
          }
        },
      ),
    );
  });
  it('are as they stand where there are none', () => {
    const plain = { ...criterion([1, 2], [null, null]), measurandId: 'a' };
    expect(scoredReach([plain], [1], 'span', [plain.values])).toBeUndefined();
  });
});

describe('who is ahead where ranges are known', () => {
  const exact = (values: number[], ranges: (ValueRange | null)[]): DrawnCriterion => ({
    ...criterion(values, ranges),
    measurandId: values.join('/'),
    known: values.map((mean, i) => (ranges[i] ? null : { mean, se: 0, df: Number.POSITIVE_INFINITY })),
    verdicts: values.flatMap((_, a) =>
      values.slice(a + 1).map((__, j) => ({ a, b: a + 1 + j, verdict: 'not settled' as const })),
    ),
  });
  it('is so wherever in its range a single value lies, for every way of scoring', () => {
    const value = fc.integer({ min: 1, max: 40 });
    const row = fc.array(value, { minLength: 3, maxLength: 4 });
    fc.assert(
      fc.property(
        fc.tuple(row, row, fc.tuple(value, value), fc.constantFrom(...SCORING_SCHOOLS)),
        ([first, second, [end, other], school]) => {
          const k = Math.min(first.length, second.length);
          const [low, high] = [Math.min(end, other), Math.max(end, other)];
          const none = Array.from({ length: k }, () => null);
          const criteria = [
            exact(first.slice(0, k).with(0, (low + high) / 2), [{ low, high }, ...none.slice(1)]),
            exact(second.slice(0, k), none),
          ];
          const weights = [0.6, 0.4];
          const scoresAt = (value: number) =>
            scoredBy(criteria, weights, school, [
              (criteria[0] as DrawnCriterion).values.with(0, value),
              (criteria[1] as DrawnCriterion).values,
            ]).scores as number[];
          const scoring = { school, missing: 'score-the-rest' } as const;
          const middle = scoredBy(
            criteria,
            weights,
            school,
            criteria.map(({ values }) => values),
          );
          const { pairs } = scoreVerdicts(criteria, weights, scoring, middle, {
            ...{ alpha: 0.05, draws: 2000, seed: 1 },
          });
          for (let step = 0; step <= 200; step += 1) {
            const scores = scoresAt(low + ((high - low) * step) / 200);
            for (const { a, b, verdict } of pairs) {
              const lead = (scores[a] as number) - (scores[b] as number);
              if (verdict === 'a ahead') expect(lead).toBeGreaterThan(-1e-9);
              if (verdict === 'b ahead') expect(lead).toBeLessThan(1e-9);
            }
          }
        },
      ),
      { numRuns: 60, seed: 4 },
    );
  });
});
