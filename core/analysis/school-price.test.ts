import { describe, expect, it } from 'vitest';
import { DEFAULT_RULE, type RuleName } from '../screening/rule.ts';
import { severalStudy } from '../testing-study.ts';
import { type PriceDesign, priceDesign, schoolPrice } from './school-price.ts';

const design: PriceDesign = {
  counts: [8, 8, 8, 8, 8, 8],
  samples: 6,
  inRounds: false,
  step: 0,
  studies: 600,
};
const priced = (name: RuleName, change: Partial<PriceDesign> = {}) =>
  [
    ...schoolPrice({ ...design, ...change }, { ...DEFAULT_RULE, name }, { seed: 3, readingsAtOnce: 10000 }),
  ].at(-1);

// The table of docs/checks.md, six items of eight readings each: our simulation there, ± 2 here.
describe('the price of a school', () => {
  it.each<[RuleName, number, number]>([
    ['none', 0, 0.034],
    ['generalized-esd', 0.01, 0.042],
    ['modified-z', 0.14, 0.107],
    ['fences', 0.27, 0.134],
    ['chauvenet', 0.25, 0.128],
  ])('%s hurts %d of clean samples and names a false winner in %d of studies', (name, hurt, falseWinner) => {
    const price = priced(name);
    expect(Math.abs((price?.hurt ?? 1) - hurt)).toBeLessThan(0.02);
    expect(Math.abs((price?.falseWinner ?? 1) - falseWinner)).toBeLessThan(0.035);
  });
  it('of plain t-tests after fences is a false winner in every second study', () => {
    expect(priced('fences')?.plainTests).toBeGreaterThan(0.45);
    expect(priced('none')?.plainTests).toBeGreaterThan(0.25);
  });
  it('of a habit that always cuts is paid by every sample', () => {
    expect(priced('drop-extremes')?.hurt).toBeCloseTo(1, 9);
  });
  it('is the same for the same seed, and comes bit by bit', () => {
    const few = { ...design, studies: 100 };
    const steps = [...schoolPrice(few, DEFAULT_RULE, { seed: 3, readingsAtOnce: 40 * 48 })];
    expect(steps.map(({ studies }) => studies)).toEqual([40, 80, 100]);
    expect([...schoolPrice(few, DEFAULT_RULE, { seed: 3, readingsAtOnce: 100 * 48 })].at(-1)).toEqual(
      steps[2],
    );
  });
  it.each([
    [4, 400],
    [1500, 400],
    [3000, 200],
    [9000, 100],
  ])('of two items with %d readings each comes from %d studies', (readings, studies) => {
    const { document, measurand } = severalStudy({ items: 2, measurands: 1, rounds: readings }, () => 5);
    expect(priceDesign(document, measurand, '', '').studies).toBe(studies);
  });
  it('is that of a study with each item that was read, if only once', () => {
    const once = priced('fences', { counts: [8, 8, 1] });
    expect(once).not.toEqual(priced('fences', { counts: [8, 8] }));
    expect(once).not.toEqual(priced('fences', { counts: [8, 8, 2] }));
    expect(once).toEqual(priced('fences', { counts: [8, 8, 1, 0] }));
  });
  it('is nothing where there is nothing to compare', () => {
    expect(priced('grubbs', { counts: [8] })?.falseWinner).toBe(0);
    expect(priced('grubbs', { counts: [] })?.hurt).toBe(0);
  });
});
