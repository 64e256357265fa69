import { describe, expect, it } from 'vitest';
import { measureRecording } from '../core/formats/recording.ts';
import { soundValue } from '../core/formats/recording-value.ts';
import { seededRandom } from '../core/random/seeded.ts';
import { type RecorderOptions, type Source, recordedWav } from './recorder.ts';

const OPTIONS = { sampleRate: 48000, lengthS: 6, fullScale: 100, background: 30 };
const SOUND: Source = { kind: 'rush', from: 1, to: 5, level: 62 };
const made = (sources: readonly Source[], change: Partial<RecorderOptions> = {}) =>
  recordedWav(sources, { ...OPTIONS, random: seededRandom(11), ...change });
const reading = (bytes: Uint8Array) => (from: number, length: number) =>
  Promise.resolve(bytes.subarray(from, from + length));
const level = async (bytes: Uint8Array, from: number, to: number) => {
  const measured = { read: reading(bytes), size: bytes.length, window: { from, to } };
  const { channels } = await measureRecording(measured, { weighting: 'A' });
  return (channels[0]?.equivalent ?? Number.NaN) + OPTIONS.fullScale;
};

describe('a sound recorder', () => {
  it('writes the same file from the same seed, and another from another', () => {
    expect(made([SOUND])).toEqual(made([SOUND]));
    expect(made([SOUND], { random: seededRandom(12) })).not.toEqual(made([SOUND]));
  });
  it('records what a sound level meter would show, and the room between', async () => {
    const bytes = made([SOUND]);
    expect(await level(bytes, 2, 4)).toBeCloseTo(62, 0);
    expect(await level(bytes, 5.5, 6)).toBeCloseTo(30, 0);
    const tone = made([{ kind: 'tone', from: 1, to: 5, level: 94 }]);
    expect(await level(tone, 2, 4)).toBeCloseTo(94, 1);
  });
  it('hears a wall, grows louder as it drifts, and drops out', async () => {
    const short = { ...SOUND, to: 2 };
    const echo = made([short], { echo: { afterS: 1.5, lossDb: 10 } });
    expect(await level(echo, 2.8, 3.3)).toBeCloseTo(52, 0);
    const drifted = made([SOUND], { driftDb: 6 });
    expect((await level(drifted, 4, 4.9)) - (await level(drifted, 1.1, 2))).toBeCloseTo(3, 0);
    const gap = made([SOUND], { dropouts: [{ from: 2, to: 4 }] });
    const window = { channel: 1, window: { from: 2, to: 4 }, quiet: undefined, fullScale: 100 };
    expect(await soundValue(reading(gap), gap.length, window, {})).toEqual({
      problem: 'Channel 1 is silent there.',
    });
  });
  it('clips what is too loud', async () => {
    const bytes = made([{ ...SOUND, level: 103 }]);
    const { channels } = await measureRecording(
      { read: reading(bytes), size: bytes.length },
      { weighting: 'Z' },
    );
    expect(channels[0]?.clipped).toBeGreaterThan(100);
    expect(channels[0]?.samplePeak).toBeCloseTo(0, 3);
  });
});
