import { describe, expect, it } from 'vitest';
import { dunnettCritical, dunnettWithin } from '../distributions/dunnett.ts';
import { tQuantileUpper } from '../distributions/index.ts';
import { ALPHA } from '../model/alpha.ts';
import plantGrowth from '../reference/plant-growth.json' with { type: 'json' };
import { DEFAULT_RULE } from '../screening/rule.ts';
import { pairsAgainst } from './against-baseline.ts';
import { analyse } from './analyse.ts';

describe('Dunnett’s critical value', () => {
  // Dunnett (1955, 1964), two-sided 5 %: as printed in tables of it, from memory.
  it.each([
    [2, 5, 3.03],
    [3, 20, 2.54],
    [5, 12, 2.9],
    [9, 30, 2.83],
  ])('for %d others on %d degrees of freedom is %f', (others, df, printed) => {
    expect(dunnettCritical(0.05, Array<number>(others).fill(Math.SQRT1_2), df)).toBeCloseTo(printed, 1);
  });
  it('is Student’s for one other, and Sidák’s is above it for many', () => {
    for (const df of [2, 5, 40, 400]) {
      expect(dunnettCritical(0.05, [Math.SQRT1_2], df)).toBeCloseTo(tQuantileUpper(0.025, df), 4);
    }
    const many = dunnettCritical(0.05, Array<number>(8).fill(Math.SQRT1_2), 20);
    expect(many).toBeLessThan(tQuantileUpper((1 - 0.95 ** (1 / 8)) / 2, 20));
  });
  it('gives back the chance that it was asked for', () => {
    const loads = [0.5, 0.6, 0.75];
    expect(dunnettWithin(dunnettCritical(0.1, loads, 9), loads, 9)).toBeCloseTo(0.9, 9);
    expect(dunnettCritical(0.05, [0.7, 0.7], Infinity)).toBeCloseTo(
      dunnettCritical(0.05, [0.7, 0.7], 5000),
      2,
    );
  });
});

/** The plants without a few, so that counts differ. */
function plants(without: readonly number[] = []) {
  const items = ['ctrl', 'trt1', 'trt2'];
  return analyse(
    items.map((item) => ({
      item,
      values: plantGrowth.values.filter((_, i) => plantGrowth.items[i] === item && !without.includes(i)),
    })),
    {
      better: { kind: 'higher' },
      rule: { ...DEFAULT_RULE, name: 'none' },
      alpha: ALPHA,
      margin: { kind: 'absolute', value: 0 },
      resamples: 0,
      seed: 1,
    },
  );
}

describe('intervals from a baseline alone', () => {
  it('are those of Dunnett’s test, counts equal or not', () => {
    // Dobson (1983), PlantGrowth; R 4.2, multcomp: confint(glht(aov(weight ~ group), mcp(group = "Dunnett"))), good to 3e-4.
    const even = pairsAgainst(plants(), 0, 'dunnett');
    expect(even[0]).toMatchObject({ a: 0, b: 1 });
    expect(even[0]?.low).toBeCloseTo(-1.021547602, 3);
    expect(even[0]?.high).toBeCloseTo(0.279547602, 3);
    expect(even[1]?.low).toBeCloseTo(-0.156547602, 3);
    // The same without the plants 1, 2, 3, 12, 25 and 26.
    const uneven = pairsAgainst(plants([0, 1, 2, 11, 24, 25]), 0, 'dunnett');
    expect(uneven[0]?.low).toBeCloseTo(-1.1221847915, 3);
    expect(uneven[1]?.high).toBeCloseTo(1.3224106787, 3);
  });
  it('share the level among fewer pairs, and leave the others as they are', () => {
    const analysis = plants();
    const all = pairsAgainst(analysis, 0, 'all-pairs');
    expect(all).toEqual(analysis.pairs);
    const alone = pairsAgainst(analysis, 0, 'own-spreads');
    const width = ({ low, high }: { low: number | null; high: number | null }) => (high ?? 0) - (low ?? 0);
    expect(width(alone[0] as never)).toBeLessThan(width(all[0] as never));
    expect(alone[2]).toEqual(all[2]);
    const { se, df, critical } = alone[0] as (typeof alone)[number];
    expect(critical).toBeCloseTo(tQuantileUpper((1 - 0.95 ** 0.5) / 2, df ?? 0), 9);
    expect(width(alone[0] as never)).toBeCloseTo(2 * (critical ?? 0) * (se ?? 0), 9);
  });
  it('do not depend on which side of the pair the baseline stands', () => {
    const [from, to] = [pairsAgainst(plants(), 2, 'dunnett'), pairsAgainst(plants(), 0, 'dunnett')];
    expect(from[1]?.difference).toBeCloseTo(to[1]?.difference ?? NaN, 12);
    expect(from[1]?.low).toBeCloseTo(to[1]?.low ?? NaN, 9);
  });
});
