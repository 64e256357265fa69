import { describe, expect, it } from 'vitest';
import { parseRange } from './parse-range.ts';

describe('a range as it is typed', () => {
  it.each([
    ['>8', 8, null],
    ['≥ 8 g', 8, null],
    ['at least 8', 8, null],
    ['< 0.2', null, 0.2],
    ['at most 3,5', null, 3.5],
    ['up to 4', null, 4],
    ['1 to 1.6', 1, 1.6],
    ['1–1.6', 1, 1.6],
    ['1-1.6', 1, 1.6],
    ['-3 to -1', -3, -1],
    ['-3--1', -3, -1],
    ['1..2', 1, 2],
    ['1000 to 2 kg', 1000, 2000],
    ['5', 5, 5],
    ['-5', -5, -5],
  ])('%s', (text, low, high) => {
    expect(parseRange(text, 'g')).toEqual({ low, high });
  });
  it.each(['', '>', 'a lot', '2 to 1', '1 to', '> x', '1 to 2 to 3', '>-', '1 to 2 m'])(
    'is refused where it says nothing: “%s”',
    (text) => {
      expect(parseRange(text, 'g')).toHaveProperty('problem');
    },
  );
});
