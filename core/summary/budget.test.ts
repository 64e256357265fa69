import { describe, expect, it } from 'vitest';
import { uncertaintyBudget } from './budget.ts';
import { summarise } from './summary.ts';

const none = { accuracyPercent: null, accuracyConstant: null };

describe('the uncertainty of a mean', () => {
  it('has nearly the normal coverage factor where what is stated is the most of it', () => {
    // The sizes of the end gauge in GUM, annex H.1 (from memory): 5.8 nm of spread on 24 degrees of freedom, 32 nm in all.
    const readings = Array.from(
      { length: 25 },
      (_, i) => 215 + 29 * Math.sqrt(24 / 25) * (i % 2 === 0 ? 1 : -1),
    );
    readings[24] = 215;
    const budget = uncertaintyBudget(
      summarise(readings, 0.01),
      { accuracyPercent: null, accuracyConstant: 31.5 * Math.sqrt(3) },
      0,
      0.01,
    );
    expect(budget?.accuracy).toBeCloseTo(31.5, 9);
    expect(budget?.repeatability).toBeCloseTo(5.7, 0);
    expect(budget?.combined).toBeCloseTo(32, 0);
    expect(budget?.largest).toBe('accuracy');
    expect(budget?.k).toBeCloseTo(2.576, 2);
  });
  it('is the t interval where nothing is stated and no step is known', () => {
    const summary = summarise([4, 5, 6], 0.05);
    const budget = uncertaintyBudget(summary, none, 0, 0.05);
    expect(budget?.expanded).toBeCloseTo((summary.interval?.[1] as number) - 5, 9);
    expect(budget?.largest).toBe('repeatability');
  });
  it('of a single reading is what is stated and the step, and nothing where neither is known', () => {
    const single = summarise([100], 0.05);
    const budget = uncertaintyBudget(single, { accuracyPercent: 3, accuracyConstant: null }, 1, 0.05);
    expect(budget?.combined).toBeCloseTo(Math.hypot(1 / Math.sqrt(12), Math.sqrt(3)), 9);
    expect(budget?.k).toBeCloseTo(1.96, 2);
    expect(uncertaintyBudget(single, none, 0, 0.05)).toBeUndefined();
    // Of several equal readings it is known to be 0.
    expect(uncertaintyBudget(summarise([100, 100], 0.05), none, 0, 0.05)?.combined).toBe(0);
  });
  it('adds the parts in squares', () => {
    const readings = [98, 100, 100, 102].map((value) => 100 + (value - 100) * Math.sqrt(3 / 2));
    const budget = uncertaintyBudget(
      summarise(readings, 0.05),
      { accuracyPercent: 3, accuracyConstant: null },
      1,
      0.05,
    );
    expect(budget?.repeatability).toBeCloseTo(1, 9);
    expect(budget?.combined).toBeCloseTo(Math.hypot(1, 1 / Math.sqrt(12), 3 / Math.sqrt(3)), 9);
    // Welch–Satterthwaite by hand.
    expect(budget?.df).toBeCloseTo(3 * (budget?.combined as number) ** 4, 6);
  });
  it('does not count a step twice that hides the spread', () => {
    const budget = uncertaintyBudget(summarise([0.5, 0.5, 0.5], 0.05, { step: 0.1 }), none, 0.1, 0.05);
    expect(budget?.resolution).toBeCloseTo(0.1 / Math.sqrt(12), 12);
    expect(budget?.repeatability).toBeCloseTo(0.1 / 6, 12);
  });
  it('of one reading is what is stated, or nothing', () => {
    const single = summarise([160], 0.05);
    expect(uncertaintyBudget(single, none, 0, 0.05)).toBeUndefined();
    const stated = uncertaintyBudget(single, { accuracyPercent: 10, accuracyConstant: null }, 0, 0.05);
    expect(stated?.repeatability).toBeNull();
    expect(stated?.expanded).toBeCloseTo((1.959964 * 16) / Math.sqrt(3), 4);
    expect(uncertaintyBudget(summarise([], 0.05), none, 1, 0.05)).toBeUndefined();
  });
});
