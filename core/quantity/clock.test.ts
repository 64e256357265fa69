import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { clockText, spanText } from './clock.ts';
import { parseQuantity } from './parse.ts';

describe('a stopwatch', () => {
  it.each([
    [0, '0.00'],
    [9.876, '9.88'],
    [59.99, '59.99'],
    [59.9949, '59.99'],
    [59.996, '1:00.0'],
    [60, '1:00.0'],
    [119.96, '2:00.0'],
    [258.63, '4:18.6'],
    [3600, '60:00.0'],
    [3661.2, '61:01.2'],
    [-3, '0.00'],
  ])('shows %s s as %s', (seconds, text) => {
    expect(clockText(seconds)).toBe(text);
  });
  it('is understood again to the hundredth below a minute, to the tenth above', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 5999, noNaN: true }), (seconds) => {
        const read = parseQuantity(clockText(seconds), 's');
        const close = seconds < 59.995 ? 0.005 : 0.05;
        expect('number' in read && Math.abs(read.number - seconds)).toBeLessThanOrEqual(close + 1e-9);
      }),
    );
  });
});

describe('a length of time', () => {
  it.each([
    [0, '0:00:00'],
    [59.9996, '0:01:00'],
    [12.5, '0:00:12.5'],
    [8040, '2:14:00'],
    [360000.001, '100:00:00.001'],
    [-90, '-0:01:30'],
    [-0.0001, '0:00:00'],
  ])('shows %s s as %s', (seconds, text) => {
    expect(spanText(seconds)).toBe(text);
  });
  it('is understood again to the thousandth', () => {
    fc.assert(
      fc.property(fc.double({ min: -3e7, max: 3e7, noNaN: true }), (seconds) => {
        const read = parseQuantity(spanText(seconds), 's');
        expect('number' in read && Math.abs(read.number - seconds)).toBeLessThanOrEqual(0.0005 + 1e-6);
      }),
    );
  });
});
