import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FileProblem } from './file-problem.ts';
import { calibrated, channelRemarks, fullScaleOf, measureRecording } from './recording.ts';
import { type ReadAt, wavHead } from './wav.ts';

interface Made {
  rate?: number;
  bits?: number;
  float?: boolean;
  extensible?: boolean;
  riff?: 'RIFF' | 'RF64';
  /** What the file says of its samples' size, bytes. */
  said?: number;
  kind?: number;
  /** A chunk between the format and the samples, and its name. */
  between?: string;
  chunk?: string;
}

/** A WAV file of these channels, byte by byte. */
function wav(channels: readonly (readonly number[])[], made: Made = {}): Uint8Array {
  const { rate = 48000, bits = 16, float = false, extensible = false, riff = 'RIFF', between = '' } = made;
  const width = bits / 8;
  const frames = channels[0]?.length ?? 0;
  const size = frames * channels.length * width;
  const bytes = new Uint8Array(400 + between.length + size);
  const data = new DataView(bytes.buffer);
  let place = 0;
  const text = (words: string) => {
    for (const sign of words) data.setUint8(place++, sign.charCodeAt(0));
  };
  const short = (x: number) => (data.setUint16(place, x, true), (place += 2));
  const long = (x: number) => (data.setUint32(place, x, true), (place += 4));
  text(riff);
  long(riff === 'RF64' ? 0xffffffff : 36 + size);
  text('WAVE');
  if (riff === 'RF64') {
    text('ds64');
    long(28);
    for (const x of [0, 0, size, 0, 0, 0, 0]) long(x);
  }
  text('fmt ');
  long(extensible ? 40 : 16);
  const kind = made.kind ?? (float ? 3 : 1);
  short(extensible ? 0xfffe : kind);
  short(channels.length);
  long(rate);
  long(rate * channels.length * width);
  short(channels.length * width);
  short(bits);
  if (extensible) {
    for (const x of [22, bits]) short(x);
    long(0);
    short(kind);
    for (const x of [0, 0, 0x10, 0x8000, 0xaa00, 0x3800, 0x719b]) short(x);
  }
  if (between) {
    text(made.chunk ?? 'LIST');
    long(between.length);
    text(between + (between.length % 2 ? ' ' : ''));
  }
  text('data');
  long(made.said ?? (riff === 'RF64' ? 0xffffffff : size));
  for (let k = 0; k < frames; k += 1) {
    for (const samples of channels) {
      const x = samples[k] as number;
      if (float && width === 8) data.setFloat64(place, x, true);
      else if (float) data.setFloat32(place, x, true);
      else if (width === 1) data.setUint8(place, Math.round(x * 127) + 128);
      else if (width === 2) data.setInt16(place, Math.round(x * 32767), true);
      else if (width === 3) {
        const whole = Math.round(x * 8388607);
        data.setUint16(place, whole & 0xffff, true);
        data.setInt8(place + 2, whole >> 16);
      } else data.setInt32(place, Math.round(x * 2147483647), true);
      place += width;
    }
  }
  return bytes.subarray(0, place);
}

const reading =
  (bytes: Uint8Array): ReadAt =>
  (from, length) =>
    Promise.resolve(bytes.subarray(from, from + length));
const head = (bytes: Uint8Array) => wavHead(reading(bytes), bytes.length);
const measure = (bytes: Uint8Array, window?: { from?: number; to?: number }) =>
  measureRecording({ read: reading(bytes), size: bytes.length, window }, { weighting: 'Z' });
const sine = (size: number, seconds = 0.5, hz = 1000, rate = 48000) =>
  Array.from({ length: seconds * rate }, (_, k) => size * Math.sin((2 * Math.PI * hz * k) / rate));

describe('a WAV file', () => {
  it.each([
    [8, false, 0.15],
    [16, false, 0.001],
    [24, false, 1e-5],
    [32, false, 1e-7],
    [32, true, 1e-5],
    [64, true, 1e-9],
  ] as const)('of %d bits, float %s, has the levels of what was written', async (bits, float, off) => {
    for (const extensible of [false, true]) {
      const { channels, head: found } = await measure(
        wav([sine(0.5), sine(0.25)], { bits, float, extensible, between: 'a name' }),
      );
      expect(found).toMatchObject({
        bits,
        float,
        channels: 2,
        sampleRate: 48000,
        frames: 24000,
        remarks: [],
      });
      expect(Math.abs((channels[0]?.equivalent ?? 0) - 20 * Math.log10(0.5 / Math.SQRT2))).toBeLessThan(
        off + 1e-4,
      );
      expect(Math.abs((channels[1]?.equivalent ?? 0) - 20 * Math.log10(0.25 / Math.SQRT2))).toBeLessThan(
        2 * off + 1e-4,
      );
    }
  });
  it('of 8 channels and of more than 4 GB by its head is read as well', async () => {
    expect((await measure(wav(Array.from({ length: 8 }, () => sine(0.1, 0.1))))).channels).toHaveLength(8);
    const long = wav([sine(0.5)], { riff: 'RF64' });
    expect((await head(long)).frames).toBe(24000);
    // What stands behind the samples is none of them.
    const more = new Uint8Array(long.length + 2000);
    more.set(long);
    expect(await head(more)).toMatchObject({ frames: 24000, remarks: [] });
  });
  it('that lies about its size says so', async () => {
    expect(await head(wav([sine(0.5)], { said: 480000 }))).toMatchObject({
      frames: 24000,
      remarks: ['The file is cut off: 10 % of the samples that it speaks of are there.'],
    });
    expect(await head(wav([sine(0.5)], { said: 0 }))).toMatchObject({
      frames: 24000,
      remarks: ['The file does not say how long it is: all to its end is taken.'],
    });
  });
  it('is measured within a window', async () => {
    const file = wav([[...sine(0.5), ...sine(0.05)]]);
    const late = await measure(file, { from: 0.5, to: 1 });
    expect(late.channels[0]?.equivalent).toBeCloseTo(20 * Math.log10(0.05 / Math.SQRT2), 2);
    await expect(measure(file, { from: 0.5, to: 2 })).rejects.toThrow('from 0 to 1.000 s');
    await expect(measure(file, { from: 0.5, to: 0.5 })).rejects.toThrow(FileProblem);
  });
  it('says when it was begun, where the recorder wrote that down', async () => {
    const begun = async (words: string, behind = 264, chunk = 'bext') =>
      (await head(wav([sine(0.5)], { chunk, between: `${'\0'.repeat(320)}${words}${'\0'.repeat(behind)}` })))
        .recordedAt;
    // The shortest in which they are whole.
    expect(await begun('2026-09-1913:02:11', 0)).toBe('2026-09-19T13:02:11');
    expect(await begun('2026-09-1913:02:1', 0)).toBeUndefined();
    expect(await begun('2026-09-1913:02:11', 264, 'junk')).toBeUndefined();
    expect(await begun('2026-09-1913:02:11')).toBe('2026-09-19T13:02:11');
    // Some write other signs between.
    expect(await begun('2026:09:1913-02-11')).toBe('2026-09-19T13:02:11');
    for (const none of ['2026-13-1913:02:11', '2026-02-3013:02:11', '\0'.repeat(18), 'yesterday, at noon'])
      expect(await begun(none), none).toBeUndefined();
    expect((await head(wav([sine(0.5)]))).recordedAt).toBeUndefined();
  });
  it('has levels in dB once a calibrator has sounded in it', async () => {
    const file = wav([[...sine(0.1, 1), ...sine(0.02, 1, 500)]]);
    const [tone] = (await measure(file, { from: 0.1, to: 0.9 })).channels;
    const [sound] = (await measure(file, { from: 1 })).channels;
    if (!tone || !sound) throw new Error('no channel');
    const fullScale = fullScaleOf(tone, 94);
    expect(calibrated(sound, fullScale).equivalent).toBeCloseTo(94 - 20 * Math.log10(5), 1);
    expect(calibrated(sound, fullScale).seconds).toBe(1);
    expect(() => fullScaleOf({ ...tone, equivalent: -Infinity }, 94)).toThrow('no tone');
  });
  it('with samples that are no numbers, silent channels and clipped ones says so', async () => {
    const broken = sine(0.5);
    broken[7] = Number.NaN;
    const { channels, remarks } = await measure(
      wav([broken, sine(0), sine(4).map((x) => Math.max(-1, Math.min(1, x)))], { bits: 32, float: true }),
    );
    expect(remarks).toEqual(['1 sample without a number, taken for silence.']);
    const [silent, clipped, ...others] = channelRemarks(channels);
    expect(silent).toBe('Channel 2 is silent.');
    expect(clipped).toMatch(/^Channel 3: [\d,\u202f]+ samples clipped, so that its peak is at least this\.$/);
    expect(others).toEqual([]);
  });
  it.each([
    ['nothing', new Uint8Array(0), 'The file is empty.'],
    ['an MP3', new Uint8Array([0x49, 0x44, 0x33, 4, 0, 0, 0, 0, 0, 0, 0, 0, 0]), 'no WAV file but an MP3'],
    ['an MP3 without a tag', new Uint8Array([0xff, 0xfb, 0x90, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0]), 'an MP3'],
    ['text', new TextEncoder().encode('time,value\n1,2\n'), 'something else'],
    ['one bit', wav([[0, 0]], { bits: 8, said: 2 }).map((x, i) => (i === 34 ? 1 : x)), '1 bits'],
    ['a compressed one', wav([sine(0.5, 0.1)], { kind: 85 }), 'compressed (format 85)'],
    ['nine channels', wav(Array.from({ length: 9 }, () => [0])), 'has 9 channels'],
    ['a slow one', wav([sine(0.5, 0.1)], { rate: 4000 }), /4000 samples a second/],
    ['a head alone', wav([sine(0.5, 0.1)]).subarray(0, 44), 'holds no samples'],
    ['half a head', wav([sine(0.5, 0.1)]).subarray(0, 30), 'cut off'],
  ])('is refused where it is %s', async (_what, bytes, sentence) => {
    const refused = head(bytes);
    await expect(refused).rejects.toThrow(FileProblem);
    await expect(refused).rejects.toThrow(sentence);
  });
  it('never breaks what reads it, whatever was done to it', async () => {
    const whole = wav([sine(0.5, 0.01)], { extensible: true });
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.nat(80), fc.nat(255)), { maxLength: 6 }),
        fc.nat(whole.length),
        async (changes, length) => {
          const bytes = whole.slice(0, length);
          for (const [place, value] of changes) if (place < bytes.length) bytes[place] = value;
          try {
            const { channels } = await measure(bytes);
            expect(channels.every(({ seconds }) => seconds > 0)).toBe(true);
          } catch (error) {
            expect(error).toBeInstanceOf(FileProblem);
          }
        },
      ),
      { numRuns: 300 },
    );
  });
});
