import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { normalQuantileUpper } from '../distributions/normal.ts';
import { chanceOverLooks, lookLevels, spent } from './look-levels.ts';
import { looksWords, plannedLooks } from './looks.ts';

const evenly = (looks: number) => Array.from({ length: looks }, (_, i) => (i + 1) / looks);

describe('looking without a plan', () => {
  // Armitage, McPherson and Rowe (1969), table 2: repeated two-sided tests at 5 % of a normal mean.
  it.each([
    [1, 0.05],
    [2, 0.083],
    [3, 0.107],
    [4, 0.126],
    [5, 0.142],
    [10, 0.193],
  ])('%i times at 5 %% each costs %f', (looks, published) => {
    expect(
      chanceOverLooks(
        evenly(looks),
        evenly(looks).map(() => 0.05),
      ),
    ).toBeCloseTo(published, 3);
  });
});

describe('planned looks', () => {
  it('have Pocock’s constant level for five equal looks', () => {
    // Pocock (1977), Biometrika 64: 0.0158 keeps 5 % over five looks.
    expect(
      chanceOverLooks(
        evenly(5),
        evenly(5).map(() => 0.0158),
      ),
    ).toBeCloseTo(0.05, 3);
  });
  it('have the published levels of the spending like O’Brien and Fleming', () => {
    // Lan and DeMets (1983); bounds 2.963, 2.359, 2.014 for looks at 1/2, 3/4 and 1.
    const levels = lookLevels([0.5, 0.75, 1], 0.05, 'late');
    [0.00305, 0.0183, 0.044].forEach((level, i) => expect(levels[i]).toBeCloseTo(level, 4));
    [2.963, 2.359, 2.014].forEach((bound, i) =>
      expect(normalQuantileUpper((levels[i] as number) / 2)).toBeCloseTo(bound, 3),
    );
  });
  it.each(['late', 'even'] as const)('of any plan keep 5 %% in all, spent %s', (spending) => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 1, max: 19 }), { maxLength: 4 }), (rounds) => {
        const fractions = [...rounds.sort((a, b) => a - b), 20].map((round) => round / 20);
        expect(chanceOverLooks(fractions, lookLevels(fractions, 0.05, spending))).toBeCloseTo(0.05, 5);
      }),
      { numRuns: 12 },
    );
  });
  it('spend all by the end and little before', () => {
    expect(spent(0.05, 1, 'late')).toBe(0.05);
    expect(spent(0.05, 0.25, 'late')).toBeLessThan(0.0001);
    expect(spent(0.05, 0.25, 'even')).toBeGreaterThan(0.01);
  });
  it('end with the plan, each once', () => {
    expect(plannedLooks({ looks: { after: [4, 6, 8, 12], spending: 'late' }, rounds: 8 })).toEqual([4, 6, 8]);
    expect(plannedLooks({ looks: { after: [], spending: 'late' }, rounds: 3 })).toEqual([3]);
    expect(looksWords({ after: [4, 6], spending: 'even' })).toBe('after rounds 4 and 6, alike at each look');
  });
});
