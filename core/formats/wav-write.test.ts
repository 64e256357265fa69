import { describe, expect, it } from 'vitest';
import { wavHead } from './wav.ts';
import { pcm16, writtenAbout, writtenHead } from './wav-write.ts';

const sound = { sampleRate: 44100, channels: 2 };
const about = {
  description: `Recording – ${'x'.repeat(300)}`,
  reference: '0123456789abcdef0123456789abcdef',
  begunAt: '2026-09-19T13:02:11',
};
const readOf = (bytes: Uint8Array) => (from: number, length: number) =>
  Promise.resolve(bytes.subarray(from, from + length));
const file = (dataBytes: number, samples: number, more = {}) => {
  const head = writtenHead({ ...sound, dataBytes, ...more });
  const bytes = new Uint8Array(head.length + samples);
  bytes.set(head);
  return bytes;
};

describe('the head of a WAV file', () => {
  it('says what a reader finds', async () => {
    const bytes = file(400, 400);
    expect(await wavHead(readOf(bytes), bytes.length)).toEqual({
      ...{ ...sound, bits: 16, float: false, frames: 100, dataStart: 44 },
      ...{ recordedAt: undefined, remarks: [] },
    });
    // RIFF WAVE: the size behind “RIFF” is that of all that follows.
    expect(new DataView(bytes.buffer).getUint32(4, true)).toBe(bytes.length - 8);
    // The bytes of a second, and of a frame: players go by them.
    expect(new DataView(bytes.buffer).getUint32(28, true)).toBe(4 * 44100);
    expect(new DataView(bytes.buffer).getUint16(32, true)).toBe(4);
  });
  it('says when it was begun and whose it is, cut to what there is room for', async () => {
    const bytes = file(400, 400, { about });
    expect((await wavHead(readOf(bytes), bytes.length)).recordedAt).toBe(about.begunAt);
    const said = writtenAbout(bytes);
    expect(said?.reference).toBe(about.reference);
    expect(said?.description).toBe(`Recording ? ${'x'.repeat(244)}`);
  });
  it('leaves open how long it is', async () => {
    const bytes = file(0, 400, { about });
    expect(new DataView(bytes.buffer).getUint32(4, true)).toBe(0);
    expect(await wavHead(readOf(bytes), bytes.length)).toMatchObject({
      ...{ frames: 100, remarks: ['The file does not say how long it is: all to its end is taken.'] },
    });
  });
  it('says nothing of whose it is where that was not written', () => {
    expect(writtenAbout(file(400, 1000))).toBeUndefined();
    expect(writtenAbout(new Uint8Array(20))).toBeUndefined();
  });
});

describe('samples of 16 bits', () => {
  it('are written lowest byte first, and clipped', () => {
    expect([...pcm16(Float64Array.of(0, 0.5, -1, 1, -2))]).toEqual([
      ...[0, 0, 0, 0x40, 0, 0x80],
      ...[0xff, 0x7f, 0, 0x80],
    ]);
  });
});
