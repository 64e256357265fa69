import { describe, expect, it } from 'vitest';
import { summarise } from '../summary/summary.ts';
import { resultDecimals } from './figures.ts';

/** Of readings of some items, read in steps. */
const decimals = (step: number, ...items: number[][]) =>
  resultDecimals({
    items: items.map((values) => ({ summary: summarise(values, 0.05, { step }) })),
    step,
  } as unknown as Parameters<typeof resultDecimals>[0]);

describe('the decimals of results', () => {
  it('are those of the step where nothing has an interval', () => {
    expect(decimals(0.05, [3.25], [4])).toBe(2);
    expect(decimals(1, [3], [4])).toBe(0);
  });
  it('are as many as four figures need where there is no step either', () => {
    expect(decimals(0, [3.2], [4.1234567])).toBe(3);
    expect(decimals(0, [1234.4])).toBe(0);
  });
  it('are those that the intervals can bear', () => {
    // Half an interval of about 0.25 bears two figures (GUM 7.2.6).
    expect(decimals(0, [3.1, 3.2, 3.3])).toBe(2);
  });
});
