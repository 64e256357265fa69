import { describe, expect, it } from 'vitest';
import { seededRandom } from '../random/seeded.ts';
import { isCalibratorTone, toneFrequency } from './tone.ts';

const RATE = 48000;
const random = seededRandom(3);
const tone = (hz: number, noise = 0, offset = 0) =>
  Float64Array.from(
    { length: RATE },
    (_, k) => offset + 0.3 * Math.sin((2 * Math.PI * hz * k) / RATE + 0.4) + noise * random.normal(),
  );

describe('the frequency of a tone', () => {
  it.each([31.7, 250, 997.3, 1000, 8000])('of %d Hz is found, around whatever the samples lie', (hz) => {
    expect(Math.abs((toneFrequency(tone(hz, 0, 0.2), RATE) ?? 0) / hz - 1)).toBeLessThan(1e-4);
  });
  it('is found over some noise, and not in silence or in a stretch too short', () => {
    expect(Math.abs((toneFrequency(tone(1000, 0.002), RATE) ?? 0) - 1000)).toBeLessThan(5);
    expect(toneFrequency(new Float64Array(RATE), RATE)).toBeNull();
    expect(toneFrequency(tone(1000).subarray(0, 200), RATE)).toBeNull();
    expect(toneFrequency([], RATE)).toBeNull();
  });
  it('is a calibrator’s at 1000 and 250 Hz', () => {
    expect([1000, 985, 251, 440, 500, 1100].map(isCalibratorTone)).toEqual([
      true,
      true,
      true,
      false,
      false,
      false,
    ]);
  });
});
