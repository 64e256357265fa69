import { describe, expect, it } from 'vitest';
import { spreadLabels, valueAxis } from './axis.ts';

const size = { from: 300, to: 0, count: 6, ratios: true };

describe('an axis of values', () => {
  it('uses equal ratios only for positive values that span three times and more', () => {
    expect(valueAxis([1, 2.9], [], size).ratios).toBe(false);
    expect(valueAxis([1, 3], [], size).ratios).toBe(true);
    expect(valueAxis([-1, 3], [], size).ratios).toBe(false);
    expect(valueAxis([1, 30], [], { ...size, ratios: false }).ratios).toBe(false);
  });
  it('puts equal ratios at equal lengths', () => {
    const { place } = valueAxis([1, 100], [], size);
    expect(place(10) - place(100)).toBeCloseTo(place(1) - place(10), 9);
  });
  it('keeps a wild interval from pushing the values together', () => {
    const { place, low, high } = valueAxis([4, 5], [-160, 170], { ...size, ratios: false });
    expect(high - low).toBeLessThan(2);
    expect(Math.abs(place(5) - place(4))).toBeGreaterThan(150);
    // What lies beyond ends at the edge.
    expect(place(170)).toBe(0);
    expect(place(-160)).toBe(300);
  });
  it('has round ticks, and stands for one value too', () => {
    for (const axis of [
      valueAxis([5], [], size),
      valueAxis([0], [], size),
      valueAxis([4.13, 16.1], [], size),
    ]) {
      expect(axis.ticks.length).toBeGreaterThan(1);
      expect(axis.ticks.every((tick) => tick >= axis.low && tick <= axis.high)).toBe(true);
      expect(axis.ticks.every((tick) => Number.isFinite(axis.place(tick)))).toBe(true);
    }
    expect(valueAxis([4.13, 16.1], [], size).ticks).toContain(10);
  });
});

describe('labels beside marks', () => {
  it('stand where they belong when there is room', () => {
    expect(spreadLabels([10, 60, 110], 20, 0, 200)).toEqual([10, 60, 110]);
  });
  it('move apart, keep their order, and stay inside', () => {
    const places = spreadLabels([195, 190, 188, 20, 21], 20, 10, 200);
    const sorted = [...places].sort((a, b) => a - b);
    for (let i = 1; i < sorted.length; i += 1) {
      expect((sorted[i] as number) - (sorted[i - 1] as number)).toBeGreaterThanOrEqual(20 - 1e-9);
    }
    expect(places[0]).toBe(200);
    expect((places[3] as number) < (places[4] as number)).toBe(true);
    expect((places[2] as number) < (places[1] as number)).toBe(true);
  });
});
