import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { around, panned, zoomed } from './sound-view.ts';

describe('what is seen of a recording', () => {
  it('comes nearer around a moment, which stays where it is', () => {
    expect(zoomed({ from: 0, to: 100 }, 2, 25, 100)).toEqual({ from: 12.5, to: 62.5 });
    expect(zoomed({ from: 10, to: 20 }, 0.5, 15, 100)).toEqual({ from: 5, to: 25 });
    expect(zoomed({ from: 10, to: 20 }, 0.001, 15, 100)).toEqual({ from: 0, to: 100 });
  });
  it('moves on as far as there is something', () => {
    expect(panned({ from: 10, to: 20 }, 5, 100)).toEqual({ from: 15, to: 25 });
    expect(panned({ from: 90, to: 99 }, 50, 100)).toEqual({ from: 91, to: 100 });
    expect(panned({ from: 5, to: 15 }, -50, 100)).toEqual({ from: 0, to: 10 });
  });
  it('is a window with room beside it', () => {
    expect(around({ from: 10, to: 20 }, 100)).toEqual({ from: 7.5, to: 22.5 });
    expect(around({ from: 0, to: 10 }, 11)).toEqual({ from: 0, to: 11 });
  });
  it('never leaves the recording, whatever is done', () => {
    const finite = fc.double({ min: -1e4, max: 1e4, noNaN: true });
    fc.assert(
      fc.property(
        fc.double({ min: 0.001, max: 1e4, noNaN: true }),
        fc.array(fc.tuple(fc.boolean(), finite, fc.double({ min: 0.01, max: 100, noNaN: true })), {
          maxLength: 20,
        }),
        (lengthS, steps) => {
          let view = { from: 0, to: lengthS };
          for (const [zooms, by, factor] of steps) {
            view = zooms
              ? zoomed(view, factor, Math.min(view.to, Math.max(view.from, by)), lengthS)
              : panned(view, by, lengthS);
            expect(view.from).toBeGreaterThanOrEqual(0);
            expect(view.to).toBeLessThanOrEqual(lengthS * (1 + 1e-12));
            expect(view.to).toBeGreaterThan(view.from);
          }
        },
      ),
    );
  });
});
