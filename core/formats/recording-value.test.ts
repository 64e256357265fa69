import { describe, expect, it } from 'vitest';
import { recording, soundQuestionText } from '../forms/recording.ts';
import { waitsToBeWorkedOut } from '../forms/worked-out.ts';
import type { FormSettings } from '../model/parts.ts';
import { seededRandom } from '../random/seeded.ts';
import { type Source, recordedWav } from '../../instruments/recorder.ts';
import { soundParts, soundValue } from './recording-value.ts';
import type { ReadAt } from './wav.ts';

const OPTIONS = { sampleRate: 48000, fullScale: 90, random: seededRandom(3) };
const made = (background: number, lengthS: number, ...sources: Source[]) =>
  recordedWav(sources, { ...OPTIONS, lengthS, background });
const asked = (bytes: Uint8Array, settings: FormSettings, change: object = {}) => {
  const read: ReadAt = (from, length) => Promise.resolve(bytes.subarray(from, from + length));
  const window = { channel: 1, window: { from: 2.5, to: 4.5 }, quiet: { from: 0.2, to: 1.8 }, fullScale: 90 };
  return soundValue(read, bytes.length, { ...window, ...change }, settings);
};
const level = async (...args: Parameters<typeof asked>) => {
  const found = await asked(...args);
  if ('problem' in found) throw new Error(found.problem);
  return found;
};
const rush = (db: number): Source => ({ kind: 'rush', from: 2, to: 5, level: db });

describe('the level of a window of a recording', () => {
  it('is what was before the microphone, in dB by the calibration', async () => {
    const { value, background, clipped, remarks } = await level(made(30, 6, rush(60)), {});
    expect(value).toBeCloseTo(60, 0);
    expect(background).toBeCloseTo(30, 0);
    expect([clipped, remarks]).toEqual([0, []]);
  });
  it('has the background taken off where that is near, or left in with a word of it', async () => {
    const bytes = made(52, 6, rush(60));
    const off = await level(bytes, {});
    const left = await level(bytes, { background: 'in' });
    expect(off.value).toBeCloseTo(60, 0);
    expect(left.value - off.value).toBeCloseTo(0.64, 1);
    expect(off.remarks[0]).toMatch(/^The background lies 8\.\d dB lower: 0\.\d\d dB taken off\.$/);
    expect(left.remarks[0]).toMatch(/dB lower, and is left in\.$/);
  });
  it('is none where the background is too near, and unchanged where none is known', async () => {
    expect(await asked(made(57, 6, rush(60)), {})).toHaveProperty(
      'problem',
      expect.stringContaining('too little to take that off'),
    );
    const unknown = await level(made(57, 6, rush(60)), {}, { quiet: undefined });
    expect(unknown.remarks).toEqual(['There is no quiet stretch beside it: no background is taken off.']);
  });
  it('in a band is a tone’s own, and hardly anything beside it', async () => {
    const tone = made(20, 6, { kind: 'tone', from: 2, to: 5, level: 70 });
    const settings = { weighting: 'Z', background: 'in' };
    expect((await level(tone, { ...settings, band: '1000' })).value).toBeCloseTo(70, 1);
    expect((await level(tone, { ...settings, band: '4000' })).value).toBeLessThan(30);
    expect(await asked(tone, { ...settings, band: '20000' })).not.toHaveProperty('problem');
  });
  it('says where it is clipped, uncalibrated, silent or outside the file', async () => {
    const loud = await level(made(30, 6, rush(92)), { quantity: 'truePeak' });
    expect(loud.clipped).toBeGreaterThan(0);
    expect(loud.remarks[0]).toMatch(/samples clipped: the level is at least this\.$/);
    const bytes = made(30, 6, rush(60));
    for (const [change, settings, sentence] of [
      [{ fullScale: undefined }, {}, 'not calibrated'],
      [{ channel: 2 }, {}, 'has no channel 2'],
      [{ window: { from: 5, to: 9 } }, {}, 'within the file'],
      [{ window: { from: 3, to: 3.000001 } }, {}, 'shorter than a sample'],
    ] as const) {
      expect(await asked(bytes, settings, change)).toHaveProperty(
        'problem',
        expect.stringContaining(sentence),
      );
    }
    const uncalibrated = await level(bytes, { scale: 'fullScale' }, { fullScale: undefined });
    expect(uncalibrated.value).toBeCloseTo(-30, 0);
  });
});

describe('a reading from a recording', () => {
  const window = { channel: 1, window: { from: 2, to: 4 }, quiet: { from: 0, to: 1 }, fullScale: 113.2 };
  const value = { value: 51.23456, background: 30.5, clipped: 0, remarks: [] };
  const reading = (settings: FormSettings) => {
    const texts = soundParts(value, window, { fileId: 'f', calibrationId: 'c' }, settings);
    const read = recording.read(texts, { unit: 'dB', settings });
    if ('problem' in read) throw new Error(read.problem);
    return read;
  };
  it('holds window, calibration and question with its level', () => {
    const { parts } = reading({});
    expect(parts.map(({ name, number, text }) => [name, number ?? text])).toEqual([
      ...[
        ['value', 51.2346],
        ['from', 2],
        ['to', 4],
        ['channel', 1],
        ['background', 30.5],
      ],
      ...[
        ['quietFrom', 0],
        ['quietTo', 1],
        ['clipped', 0],
        ['fullScale', 113.2],
      ],
      ...[
        ['calibration', 'c'],
        ['file', 'f'],
        ['how', 'equivalent A less background'],
      ],
    ]);
    expect(recording.value(parts, { unit: 'dB', settings: {} })).toBe(51.2346);
  });
  it('does not count once something else is asked for', () => {
    const { parts } = reading({});
    for (const settings of [
      { quantity: 'l10' },
      { weighting: 'C' },
      { band: '1000' },
      { background: 'in' },
      { scale: 'fullScale' },
    ]) {
      expect(recording.value(parts, { unit: 'dB', settings })).toBeNull();
      expect(waitsToBeWorkedOut(recording, { settings }, { parts })).toBe(true);
    }
    expect(waitsToBeWorkedOut(recording, { settings: { weighting: 'A' } }, { parts })).toBe(false);
  });
  it('is in dB by a calibration, or relative to full scale', () => {
    expect(recording.valueUnit?.({})).toBe('dB');
    expect(recording.valueUnit?.({ scale: 'fullScale' })).toBe('dB FS');
    expect(reading({ scale: 'fullScale' }).parts.some(({ name }) => name === 'calibration')).toBe(false);
    expect(recording.read({ value: '900' }, { unit: 'dB', settings: {} })).toHaveProperty('part', 'value');
    expect(recording.read({ value: '51.3' }, { unit: 'dB', settings: {} })).toHaveProperty('parts');
  });
  it('says its question in words', () => {
    expect(soundQuestionText({})).toBe('Equivalent level, A-weighted, background taken off');
    expect(soundQuestionText({ quantity: 'truePeak', band: '1000' })).toBe('True peak');
    expect(soundQuestionText({ quantity: 'l90', weighting: 'Z', band: '1000' })).toBe(
      'Level exceeded in 90 % of the time, not weighted, third of an octave at 1000 Hz',
    );
  });
});
