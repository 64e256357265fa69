import { describe, expect, it } from 'vitest';
import type { Direction, Spec } from '../model/parts.ts';
import { specLimits, withinSpec } from './spec.ts';

const UNRANKED: Direction = { kind: 'unranked', target: null };
const spec = (change: Partial<Spec>): Spec => ({
  ...{ kind: 'absolute', low: null, high: null, below: null, share: 95 },
  ...change,
});

describe('what a reading must keep to', () => {
  it('is one- or two-sided, in the unit of the value', () => {
    const readings = [1, 2, 3, 4].map((value) => ({ value, reference: null }));
    expect(withinSpec(readings, spec({ low: 2 }), UNRANKED, 0.05)).toMatchObject({ n: 4, within: 3 });
    expect(withinSpec(readings, spec({ low: 2, high: 3 }), UNRANKED, 0.05)).toMatchObject({ within: 2 });
  });
  it('is in per cent of the target', () => {
    const near: Direction = { kind: 'nearest', target: 200 };
    expect(specLimits(spec({ kind: 'percent', low: -5, high: 10 }), near, { reference: null })).toEqual({
      low: 190,
      high: 220,
    });
    expect(specLimits(spec({ kind: 'percent', low: -5 }), UNRANKED, { reference: null })).toBeUndefined();
    // An end that is open stays so.
    expect(specLimits(spec({ kind: 'percent', low: -5 }), near, { reference: null })?.high).toBeNull();
    expect(specLimits(spec({ kind: 'percent', high: 5 }), near, { reference: null })?.low).toBeNull();
  });
  // The band of ISO 15197:2013 for glucose: ± 0.83 mmol/l below 5.55 mmol/l, ± 15 % from there on, 95 % within.
  it('is the band of ISO 15197 as a case', () => {
    const band = spec({ kind: 'percent', low: -15, high: 15, below: { split: 5.55, within: 0.83 } });
    const error = (reference: number, indicated: number) => ({ value: indicated - reference, reference });
    const inside = [error(4, 4.83), error(4, 3.17), error(5.55, 6.38), error(10, 11.5), error(10, 8.5)];
    const outside = [error(4, 4.84), error(5.55, 6.4), error(10, 11.51), error(10, 8.49)];
    expect(withinSpec(inside, band, UNRANKED, 0.05)).toMatchObject({ n: 5, within: 5 });
    expect(withinSpec(outside, band, UNRANKED, 0.05)).toMatchObject({ n: 4, within: 0 });
  });
  it('counts nothing in per cent of a reference of 0', () => {
    const band = spec({ kind: 'percent', low: -15, high: 15 });
    expect(withinSpec([{ value: 0.1, reference: 0 }], band, UNRANKED, 0.05)).toEqual({
      ...{ n: 0, within: 0, share: null, interval: null, verdict: null },
    });
  });
  it('is kept, or not, only where so many readings can say so', () => {
    const readings = (within: number, of: number) =>
      Array.from({ length: of }, (_, i) => ({ value: i < within ? 0 : 9, reference: null }));
    const asked = spec({ high: 1, share: 90 });
    const verdict = (within: number, of: number, against = asked) =>
      withinSpec(readings(within, of), against, UNRANKED, 0.05).verdict;
    expect(verdict(10, 10)).toBe('not settled');
    expect(verdict(100, 100)).toBe('keeps');
    expect(verdict(5, 10)).toBe('does not keep');
    expect(verdict(99, 100, spec({ high: 1, share: 100 }))).toBe('does not keep');
    expect(verdict(100, 100, spec({ high: 1, share: 100 }))).toBe('not settled');
  });
});
