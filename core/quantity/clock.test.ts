import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { clockText } from './clock.ts';
import { parseQuantity } from './parse.ts';

describe('a stopwatch', () => {
  it.each([
    [0, '0.00'],
    [9.876, '9.88'],
    [59.99, '59.99'],
    [59.996, '1:00.0'],
    [60, '1:00.0'],
    [119.96, '2:00.0'],
    [258.63, '4:18.6'],
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
