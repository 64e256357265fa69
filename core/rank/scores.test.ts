import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Better } from '../compare/better.ts';
import { SCORING_SCHOOLS } from '../model/words.ts';
import { leaderOf, weightFlips } from './flips.ts';
import { type DrawnCriterion, scoreVerdicts } from './score-verdicts.ts';
import {
  type Criterion,
  type ScoringSchool,
  balanced,
  criterionWeights,
  scaleInto,
  scored,
  sharesOf,
  whyNoScore,
} from './scores.ts';
import { bestValue } from './value.ts';

const HIGHER: Better = { kind: 'higher' };
const scale = (school: ScoringSchool, values: number[], better: Better = HIGHER): number[] => {
  const into = new Float64Array(values.length);
  scaleInto(school, better, Float64Array.from(values), into);
  return [...into];
};
const criterion = (measurandId: string, values: (number | null)[], better: Better = HIGHER): Criterion => ({
  measurandId,
  better,
  values,
  hasRatios: true,
});
const scores = (
  criteria: Criterion[],
  weights: number[],
  school: ScoringSchool = 'span',
  missing: 'score-the-rest' | 'no-score' = 'score-the-rest',
) => scored(criteria, weights, { school, missing });

describe('scores by one measurand', () => {
  it('are where a value lies between the worst and the best', () => {
    expect(scale('span', [2, 5, 4])).toEqual([0, 1, 2 / 3]);
    expect(scale('span', [2, 5, 4], { kind: 'lower' })).toEqual([1, 0, 1 / 3]);
    expect(scale('span', [2, 5, 4], { kind: 'nearest', target: 4.5 })).toEqual([0, 1, 1]);
  });
  it('are ratios to the best', () => {
    expect(scale('ratio', [2, 5, 4])).toEqual([0.4, 1, 0.8]);
    expect(scale('ratio', [2, 5, 4], { kind: 'lower' })).toEqual([1, 0.4, 0.5]);
  });
  it('are standard scores', () => {
    // R 4.2: scale(c(2, 5, 4)).
    [-1.0910894512, 0.8728715609, 0.2182178902].forEach((expected, i) => {
      expect(scale('standard', [2, 5, 4])[i]).toBeCloseTo(expected, 9);
    });
  });
  it('are points by place, and equal ones share', () => {
    expect(scale('points', [2, 5, 4, 5])).toEqual([1, 3.5, 2, 3.5]);
    // R 4.2: rank(c(2, 5, 4, 5)).
    expect(scale('points', [2, 5, 4, 5], { kind: 'lower' })).toEqual([4, 1.5, 3, 1.5]);
  });
  it('are alike where all values are', () => {
    expect(scale('span', [3, 3])).toEqual([1, 1]);
    expect(scale('ratio', [3, 3])).toEqual([1, 1]);
    expect(scale('standard', [3, 3])).toEqual([0, 0]);
    expect(scale('points', [3, 3])).toEqual([1.5, 1.5]);
  });
  it('leave out what has no value', () => {
    for (const school of SCORING_SCHOOLS) {
      expect(scale(school, [2, Number.NaN, 4])[1]).toBeNaN();
      expect(scale(school, [2, Number.NaN, 4])[2]).toBeGreaterThan(
        scale(school, [2, Number.NaN, 4])[0] as number,
      );
    }
    expect(scale('points', [2, Number.NaN, 4])).toEqual([2, Number.NaN, 3]);
  });
  it('stay numbers where a draw falls to zero or below', () => {
    for (const school of SCORING_SCHOOLS) {
      for (const better of [HIGHER, { kind: 'lower' }] as const) {
        for (const score of scale(school, [-1, 0, 3], better)) expect(score).not.toBeNaN();
      }
    }
  });
});

const weightsOf = fc.array(fc.integer({ min: 0, max: 1000 }), { minLength: 2, maxLength: 6 });

describe('weights', () => {
  it('are shares of their sum, alike where nothing is said, and count for what is there', () => {
    const ids = ['a', 'b'];
    expect(sharesOf(ids, { weights: [] })).toEqual([0.5, 0.5]);
    expect(
      sharesOf(ids, {
        weights: [
          { measurandId: 'a', weight: 0.2 },
          { measurandId: 'b', weight: 0.6 },
        ],
      }),
    ).toEqual([0.25, expect.closeTo(0.75, 12)]);
    // A measurand that was taken out of the plan, or is not ranked.
    expect(sharesOf(ids, { weights: [{ measurandId: 'gone', weight: 1 }] })).toEqual([0.5, 0.5]);
    expect(sharesOf(ids, { weights: [{ measurandId: 'a', weight: 0 }] })).toEqual([0, 0]);
  });
  it('are shared by the settings of a measurand', () => {
    const criteria = ['a', 'a', 'b'].map((measurandId) => ({ measurandId }));
    expect(criterionWeights(criteria, ['a', 'b'], { weights: [] })).toEqual([0.25, 0.25, 0.5]);
  });
  it('always sum to 1 when one is moved, the others in proportion', () => {
    expect(balanced([0.5, 0.3, 0.2], 0, 0.6)).toEqual([0.6, 0.24, 0.16]);
    expect(balanced([1, 0, 0], 0, 0.4)).toEqual([0.4, 0.3, 0.3]);
    fc.assert(
      fc.property(weightsOf, fc.nat(5), fc.double({ min: -1, max: 2, noNaN: true }), (parts, which, to) => {
        const sum = parts.reduce((whole, part) => whole + part, 0);
        fc.pre(sum > 0);
        const changed = which % parts.length;
        const next = balanced(
          parts.map((part) => part / sum),
          changed,
          to,
        );
        expect(next.reduce((whole, weight) => whole + Math.round(1000 * weight), 0)).toBe(1000);
        expect(next[changed]).toBeCloseTo(Math.min(1, Math.max(0, to)), 3);
        for (const weight of next) expect(weight).toBeGreaterThanOrEqual(0);
      }),
    );
  });
});

describe('scores by several measurands', () => {
  it('are weighted sums, and say what each gives', () => {
    const found = scores([criterion('a', [1, 3]), criterion('b', [8, 4])], [0.75, 0.25]);
    expect(found.scores).toEqual([0.25, 0.75]);
    expect(found.parts).toEqual([
      [0, 0.75],
      [0.25, 0],
    ]);
    expect(found.order).toEqual([1, 0]);
  });
  it('go by what an item has, or leave it out altogether', () => {
    const criteria = [criterion('a', [1, 3, 9]), criterion('b', [8, 4, null])];
    expect(scores(criteria, [0.5, 0.5]).scores).toEqual([0.5, 0.125, 1]);
    const strict = scores(criteria, [0.5, 0.5], 'span', 'no-score');
    // Without the third, the second is the best by the first measurand.
    expect(strict.scores).toEqual([0.5, 0.5, null]);
    expect(strict.order).toEqual([0, 1]);
    // What has no weight cannot be missing.
    expect(scores(criteria, [1, 0], 'span', 'no-score').scores).toEqual([0, 0.25, 1]);
  });
  it('are not made without a weight, nor of ratios where there are none', () => {
    const noise = { ...criterion('a', [1]), name: 'Sound level', hasRatios: false };
    expect(whyNoScore([noise], [0], { school: 'span' })).toBe(
      'Every weight is 0, so there is nothing to score.',
    );
    expect(whyNoScore([noise], [1], { school: 'ratio' })).toMatch(/^Sound level has no ratios/);
    expect(whyNoScore([noise], [1], { school: 'span' })).toBeUndefined();
    expect(whyNoScore([noise, { ...noise, hasRatios: true }], [0, 1], { school: 'ratio' })).toBeUndefined();
  });

  const table = fc
    .tuple(fc.integer({ min: 2, max: 6 }), fc.integer({ min: 1, max: 4 }))
    .chain(([items, count]) =>
      fc.tuple(
        fc.array(fc.array(fc.integer({ min: 1, max: 40 }), { minLength: items, maxLength: items }), {
          minLength: count,
          maxLength: count,
        }),
        fc.array(fc.integer({ min: 1, max: 9 }), { minLength: count, maxLength: count }),
        fc.constantFrom(...SCORING_SCHOOLS),
      ),
    );
  const ofTable = (rows: number[][], weights: number[], school: ScoringSchool, better: Better = HIGHER) =>
    scores(
      rows.map((values, i) => criterion(String(i), values, better)),
      weights,
      school,
    ).scores as number[];
  const close = (found: number[], expected: number[]) => {
    found.forEach((score, i) => {
      expect(score).toBeCloseTo(expected[i] as number, 9);
    });
  };
  it('do not change with the order of the items, nor with the unit', () => {
    fc.assert(
      fc.property(table, ([rows, weights, school]) => {
        const plain = ofTable(rows, weights, school);
        const reversed = rows.map((row) => [...row].reverse());
        close(ofTable(reversed, weights, school).reverse(), plain);
        close(
          ofTable(
            rows.map((row) => row.map((value) => 1000 * value)),
            weights,
            school,
          ),
          plain,
        );
      }),
    );
  });
  it('do not change when direction and sign are turned, where there are no ratios', () => {
    fc.assert(
      fc.property(table, ([rows, weights, school]) => {
        fc.pre(school !== 'ratio');
        close(
          ofTable(
            rows.map((row) => row.map((value) => -value)),
            weights,
            school,
            { kind: 'lower' },
          ),
          ofTable(rows, weights, school),
        );
      }),
    );
  });
  it('are as if a measurand of weight 0 were not there', () => {
    fc.assert(
      fc.property(table, ([rows, weights, school]) => {
        const more = [...rows, rows[0]?.map((value) => 41 - value) ?? []];
        close(ofTable(more, [...weights, 0], school), ofTable(rows, weights, school));
      }),
    );
  });
});

describe('the smallest change of a weight', () => {
  const ids = ['speed', 'sound'];
  const flipsOf = (criteria: Criterion[], shares: number[]) =>
    weightFlips(
      criteria,
      scores(criteria, shares).scaled,
      criteria.map(({ measurandId }) => measurandId),
      shares,
    );
  it('that makes another first is found from both sides', () => {
    // First by span: w·1 + (1 − w)·0 against w·0.5 + (1 − w)·1: alike at w = 2/3.
    const criteria = [criterion('speed', [10, 5, 0]), criterion('sound', [0, 8, 4])];
    const [speed, sound] = flipsOf(criteria, [0.8, 0.2]);
    expect(speed?.down).toEqual({ share: expect.closeTo(2 / 3, 9) as number, leader: 1 });
    expect(speed?.up).toBeNull();
    expect(sound?.up).toEqual({ share: expect.closeTo(1 / 3, 9) as number, leader: 1 });
    expect(sound?.down).toBeNull();
  });
  it('is none where the first is the best in everything, or alone', () => {
    const criteria = ids.map((id) => criterion(id, [3, 2, 1]));
    for (const { down, up } of flipsOf(criteria, [0.5, 0.5])) expect([down, up]).toEqual([null, null]);
    expect(flipsOf([criterion('speed', [3, 2])], [1])).toEqual([]);
  });
  it('leaves the first where another only comes level', () => {
    expect(leaderOf([1, 2, 2], 2)).toBe(2);
    expect(leaderOf([1, 2, 2])).toBe(1);
    expect(leaderOf([null, null])).toBeUndefined();
    const criteria = [criterion('speed', [2, 1]), criterion('sound', [1, 1])];
    expect(flipsOf(criteria, [1, 0])[0]?.down).toBeNull();
  });
});

describe('what the readings support of scores', () => {
  const drawn = (
    measurandId: string,
    means: number[],
    se: number,
    verdict: DrawnCriterion['verdicts'][number]['verdict'] = 'not settled',
  ): DrawnCriterion => ({
    ...criterion(measurandId, means),
    known: means.map((mean) => ({ mean, se, df: 7 })),
    verdicts: means.flatMap((_, a) => means.slice(a + 1).map((_other, j) => ({ a, b: a + 1 + j, verdict }))),
  });
  const verdictsOf = (criteria: DrawnCriterion[], weights: number[]) => {
    const scoring = { school: 'span', missing: 'score-the-rest' } as const;
    return scoreVerdicts(criteria, weights, scoring, scored(criteria, weights, scoring), {
      ...{ alpha: 0.05, draws: 4000, seed: 3 },
    });
  };
  it('is an order where it is the same in nearly all draws', () => {
    const found = verdictsOf([drawn('a', [9, 5, 1], 0.05), drawn('b', [7, 6, 1], 0.05)], [0.5, 0.5]);
    expect(found.ranking.map(({ index, placeLow, placeHigh }) => [index, placeLow, placeHigh])).toEqual([
      [0, 1, 1],
      [1, 2, 2],
      [2, 3, 3],
    ]);
  });
  it('is an order among many items at a small level too: then more is drawn', () => {
    const means = Array.from({ length: 12 }, (_, i) => 100 - 5 * i);
    const criteria = [drawn('a', means, 0.05), drawn('b', means, 0.05)];
    const scoring = { school: 'span', missing: 'score-the-rest' } as const;
    const found = scoreVerdicts(criteria, [0.5, 0.5], scoring, scored(criteria, [0.5, 0.5], scoring), {
      ...{ alpha: 0.01, draws: 10000, seed: 3 },
    });
    expect(found.draws).toBe(60000);
    expect(found.ranking.map(({ placeHigh }) => placeHigh)).toEqual(means.map((_, i) => i + 1));
  });
  it('is none where the draws disagree', () => {
    const found = verdictsOf([drawn('a', [5, 5.1, 1], 1), drawn('b', [6, 5.9, 1], 1)], [0.5, 0.5]);
    expect(found.ranking[0]).toMatchObject({ placeLow: 1, placeHigh: 2 });
  });
  it('is what a single measurand says, whatever the draws say', () => {
    const sure = drawn('a', [9, 5, 1], 0.05, 'not settled');
    expect(verdictsOf([sure, drawn('b', [1, 2, 3], 1)], [1, 0]).pairs.map(({ verdict }) => verdict)).toEqual([
      'not settled',
      'not settled',
      'not settled',
    ]);
  });
  it('is the same where no measurand tells two apart by its margin', () => {
    const found = verdictsOf(
      [drawn('a', [9, 5, 1], 0.05, 'same'), drawn('b', [9, 5, 1], 0.05, 'same')],
      [0.5, 0.5],
    );
    expect(found.pairs.every(({ verdict }) => verdict === 'same')).toBe(true);
  });
  it('is nothing where the spread of a value is not known', () => {
    const known = drawn('b', [9, 5, 1], 0.05);
    const found = verdictsOf(
      [drawn('a', [9, 5, 1], 0.05), { ...known, known: [null, ...known.known.slice(1)] }],
      [0.5, 0.5],
    );
    expect(found.draws).toBe(0);
    expect(found.pairs.map(({ verdict }) => verdict)).toEqual(['too few', 'too few', 'too few']);
    expect(found.ranking[0]).toMatchObject({ index: 0, placeLow: 1, placeHigh: 3, shares: null });
  });
  it('draws an item on what it has', () => {
    const gap = drawn('b', [9, 5, 1], 0.05);
    const lacking = { ...gap, values: [9, 5, null], known: [...gap.known.slice(0, 2), null] };
    const found = verdictsOf([drawn('a', [9, 5, 1], 0.05), lacking], [0.5, 0.5]);
    expect(found.draws).toBe(4000);
    expect(found.ranking.map(({ index }) => index)).toEqual([0, 1, 2]);
  });
});

describe('the items that no other beats on both', () => {
  it('are joined from the cheapest', () => {
    const items = [
      [5, 10],
      [7, 20],
      [6, 30],
      [9, 40],
      [5, 12],
      [9, 40],
    ].map(([merit, cost], index) => ({ index, merit: merit as number, cost: cost as number }));
    expect(bestValue(items)).toEqual([0, 1, 3, 5]);
    expect(bestValue([])).toEqual([]);
  });
  it('are those of which none has another as good in both and better in one', () => {
    const figure = fc.integer({ min: 0, max: 5 });
    fc.assert(
      fc.property(fc.array(fc.tuple(figure, figure), { maxLength: 12 }), (pairs) => {
        const items = pairs.map(([merit, cost], index) => ({ index, merit, cost }));
        const beaten = (item: (typeof items)[number]) =>
          items.some(
            ({ merit, cost }) =>
              merit >= item.merit && cost <= item.cost && (merit > item.merit || cost < item.cost),
          );
        expect([...bestValue(items)].sort((a, b) => a - b)).toEqual(
          items.filter((item) => !beaten(item)).map(({ index }) => index),
        );
      }),
    );
  });
});
