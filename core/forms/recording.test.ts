import { describe, expect, it } from 'vitest';
import type { FormSettings } from '../model/parts.ts';
import { SOUND_PARTS, backgroundWords, recording } from './recording.ts';

const doubt = (parts: Record<string, number>, settings: FormSettings = {}) =>
  recording.doubt?.(
    Object.entries(parts).map(([name, number]) => ({ name, text: String(number), number })),
    { unit: 'dB', settings },
  );

describe('what is odd about the level of a recording', () => {
  const level = { [SOUND_PARTS.value]: 51.2, [SOUND_PARTS.clipped]: 0 };
  it('is nothing where it lies well above a quiet background, or none is known', () => {
    expect(doubt(level)).toBeUndefined();
    expect(doubt({ ...level, [SOUND_PARTS.background]: 30 })).toBeUndefined();
    expect(doubt({})).toBeUndefined();
  });
  it('is a background that is close and left in, of an equivalent level', () => {
    const close = { ...level, [SOUND_PARTS.background]: 44.1 };
    expect(doubt(close, { background: 'in' })).toBe('The background lies only 7.1 dB lower, and is left in.');
    expect(doubt(close)).toBeUndefined();
    expect(doubt(close, { background: 'in', quantity: 'highestFast' })).toBeUndefined();
    const within = (differs: number) => backgroundWords(differs, {});
    expect([9.9, 10].map(within)).toEqual([
      'The background lies only 9.9 dB lower, and is left in.',
      undefined,
    ]);
    expect(doubt({ ...level, [SOUND_PARTS.background]: 60 }, { background: 'in' })).toContain(
      'only 0.0 dB lower',
    );
  });
  it('is a clipped sample: a moment is at least as loud, a mean may be', () => {
    const clipped = { ...level, [SOUND_PARTS.clipped]: 3 };
    expect(doubt(clipped)).toBe('3 samples clipped: the level may be higher.');
    expect(doubt(clipped, { quantity: 'truePeak' })).toBe('3 samples clipped: the level is at least this.');
  });
});
