import { describe, expect, it } from 'vitest';
import { timeTicks } from './time-axis.ts';

const words = (...asked: Parameters<typeof timeTicks>) => timeTicks(...asked).map((tick) => tick.words);

describe('an axis of time', () => {
  it('has steps that a clock has, and words as short as they say the moment', () => {
    expect(words(0, 8 * 3600, 8)).toEqual([
      '0:00',
      '1:00',
      '2:00',
      '3:00',
      '4:00',
      '5:00',
      '6:00',
      '7:00',
      '8:00',
    ]);
    expect(words(0, 60, 6)).toEqual([
      '0:00:00',
      '0:00:10',
      '0:00:20',
      '0:00:30',
      '0:00:40',
      '0:00:50',
      '0:01:00',
    ]);
    expect(words(0.95, 1.35, 4)).toEqual(['0:00:01', '0:00:01.1', '0:00:01.2', '0:00:01.3']);
    expect(words(-3600, 3600, 2)).toEqual(['-1:00', '0:00', '1:00']);
  });
  it('ends for any length', () => {
    for (const length of [1e-9, 0.01, 1e4, 1e9]) expect(timeTicks(0, length, 6).length).toBeLessThan(20);
  });
});
