import { describe, expect, it } from 'vitest';
import { recordedWav } from '../../instruments/recorder.ts';
import { seededRandom } from '../random/seeded.ts';
import type { SoundLevels } from '../sound/meter.ts';
import {
  calibrated,
  channelRemarks,
  framesOf,
  fullScaleOf,
  measureRecording,
  weightingRemarks,
} from './recording.ts';
import type { WavHead } from './wav.ts';

const bytes = recordedWav([{ kind: 'rush', from: 0, to: 2, level: 60 }], {
  ...{ sampleRate: 8000, fullScale: 90, lengthS: 2, background: 30, random: seededRandom(3) },
});
const read = (from: number, length: number) => Promise.resolve(bytes.subarray(from, from + length));
const measured = async (change: object = {}, filters: object = {}) =>
  measureRecording({ read, size: bytes.length, ...change }, { weighting: 'A', ...filters });
const head = (change: Partial<WavHead>) =>
  ({
    sampleRate: 8000,
    channels: 1,
    bits: 16,
    float: false,
    frames: 16000,
    dataStart: 44,
    remarks: [],
    ...change,
  }) as WavHead;
const levels = (change: Partial<SoundLevels>) => ({ clipped: 0, samplePeak: -3, ...change }) as SoundLevels;

describe('a window of a recording', () => {
  it('is all of it, or what is asked for to the nearest frame', () => {
    expect(framesOf(head({}), {})).toEqual({ first: 0, last: 16000 });
    expect(framesOf(head({}), { from: 0.5 })).toEqual({ first: 4000, last: 16000 });
    expect(framesOf(head({}), { from: 0.00007, to: 1 })).toEqual({ first: 1, last: 8000 });
    // Half a frame beyond the end is where it ends.
    expect(framesOf(head({}), { to: 2.00006 })).toEqual({ first: 0, last: 16000 });
  });
  it('is refused outside the file, the wrong way round, and where it holds nothing', () => {
    const outside = 'The window must lie within the file, from 0 to 2.000 s.';
    for (const window of [
      { from: -0.1 },
      { to: 2.1 },
      { from: 1, to: 1 },
      { from: 1.5, to: 1 },
      { from: Number.NaN },
    ])
      expect(() => framesOf(head({}), window)).toThrow(outside);
    expect(() => framesOf(head({}), { from: 1, to: 1.00001 })).toThrow(
      'The window is shorter than a sample.',
    );
  });
  it('is measured channel by channel, or of the one that is asked for', async () => {
    const whole = await measured();
    expect(whole.window).toEqual({ from: 0, to: 2 });
    expect(whole.channels).toHaveLength(whole.head.channels);
    expect((await measured({ only: 0 })).channels).toEqual(whole.channels.slice(0, 1));
    await expect(measured({ only: whole.head.channels })).rejects.toThrow(
      `The file has no channel ${String(whole.head.channels + 1)}.`,
    );
    const shorter = {
      size: bytes.length,
      read: (from: number, length: number) =>
        Promise.resolve(bytes.subarray(from, Math.min(9000, from + length))),
    };
    await expect(measured(shorter)).rejects.toThrow('The file became shorter while it was read.');
  });
});

describe('what a recording cannot hold', () => {
  it('is a band near half its sample rate or above', async () => {
    // IEC 61260-1: the third of an octave at 3150 Hz ends at 3548 Hz, that at 4000 Hz at 4467 Hz.
    expect((await measured({}, { band: '3150' })).channels).not.toEqual([]);
    await expect(measured({}, { band: '4000' })).rejects.toThrow(
      /^8\u202f?000 samples a second are too few for the band of 4000 Hz\.$/u,
    );
  });
  it('is what a weighting counts above half its sample rate, which is said', () => {
    const said = (change: Partial<WavHead>, filters: Parameters<typeof weightingRemarks>[1]) =>
      weightingRemarks(head(change), filters).map((remark) => remark.replaceAll('\u202f', ''));
    expect(said({}, { weighting: 'A' })).toEqual([
      'At 8000 samples a second nothing above 4000 Hz is in the file, which the weighting would count.',
    ]);
    expect(said({ sampleRate: 39999 }, { weighting: 'C' })).toHaveLength(1);
    expect(said({ sampleRate: 40000 }, { weighting: 'A' })).toEqual([]);
    expect(said({}, { weighting: 'Z' })).toEqual([]);
    expect(said({}, { weighting: 'A', band: '1000' })).toEqual([]);
  });
});

describe('the levels of channels', () => {
  it('are pointed out where they are clipped or silent', () => {
    expect(
      channelRemarks([levels({}), levels({ clipped: 1 }), levels({ clipped: 2, samplePeak: 0 })]),
    ).toEqual([
      'Channel 2: 1 sample clipped, so that its peak is at least this.',
      'Channel 3: 2 samples clipped, so that its peak is at least this.',
    ]);
    expect(channelRemarks([levels({ samplePeak: -Infinity })])).toEqual(['Channel 1 is silent.']);
  });
  it('become dB by what a sample of 1 is, which a tone of known level says', async () => {
    const [channel] = (await measured()).channels as [SoundLevels];
    const scale = fullScaleOf(channel, 94);
    const { equivalent, samplePeak } = calibrated(channel, scale);
    expect(equivalent).toBeCloseTo(94, 9);
    const silent = { ...channel, equivalent: -Infinity };
    expect(() => fullScaleOf(silent, 94)).toThrow('There is no tone in the window of the calibrator.');
    expect(samplePeak - equivalent).toBeCloseTo(channel.samplePeak - channel.equivalent, 9);
  });
});
