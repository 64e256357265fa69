import { describe, expect, it } from 'vitest';
import { compiledKernel } from '../../../scripts/kernel.ts';
import { type WavHead, readSamples } from '../../formats/wav.ts';
import { seededRandom } from '../../random/seeded.ts';
import { LevelMeter } from '../meter.ts';
import { RunningFilter } from '../running-filter.ts';
import { type Section, sectionFilter } from '../sections.ts';
import { ALL_TAPS, TruePeak } from '../true-peak.ts';
import { kernelBytes } from './bytes.ts';
import { MOST, TAPS, kernel } from './kernel.ts';

const random = seededRandom(31);
const noise = (length: number, size = 1) =>
  Float64Array.from({ length }, () => size * (2 * random.unit() - 1));
/** The same samples in blocks of odd lengths. */
function* inBlocks(samples: Float64Array): Generator<Float64Array> {
  for (let from = 0; from < samples.length;) {
    const length = 1 + Math.floor(random.unit() * 1.2 * MOST);
    yield samples.subarray(from, from + length);
    from += length;
  }
}

describe('the kernel', () => {
  it('is what its source is compiled to', () => {
    expect(Buffer.from(kernelBytes()).equals(Buffer.from(compiledKernel()))).toBe(true);
  });
  it.each([
    [8, false, (data: DataView, k: number) => (data.getUint8(k) - 128) / 128],
    [16, false, (data: DataView, k: number) => data.getInt16(2 * k, true) / 32768],
    [
      24,
      false,
      (data: DataView, k: number) =>
        ((data.getUint16(3 * k, true) << 8) | (data.getUint8(3 * k + 2) << 24)) / 2 ** 31,
    ],
    [32, false, (data: DataView, k: number) => data.getInt32(4 * k, true) / 2 ** 31],
    [32, true, (data: DataView, k: number) => data.getFloat32(4 * k, true)],
    [64, true, (data: DataView, k: number) => data.getFloat64(8 * k, true)],
  ])('reads samples of %d bits (float: %s) of any channel', (bits, float, sampleOf) => {
    for (const [channels, frames] of [
      [1, MOST],
      [2, 101],
      [2, MOST],
      [5, 37],
      [8, MOST],
    ] as const) {
      const bytes = Uint8Array.from({ length: (channels * frames * bits) / 8 }, () =>
        Math.floor(random.unit() * 256),
      );
      const head: Pick<WavHead, 'channels' | 'bits' | 'float'> = { channels, bits, float };
      const wanted = channels === 1 ? [0] : [channels - 1, 0];
      const { blocks, lost } = readSamples(head, bytes, wanted);
      const data = new DataView(bytes.buffer);
      let missing = 0;
      wanted.forEach((channel, i) => {
        const plain = Array.from({ length: frames }, (_, k) => sampleOf(data, k * channels + channel));
        missing += plain.filter((x) => !Number.isFinite(x)).length;
        expect([...(blocks[i] as Float64Array)]).toEqual(plain.map((x) => (Number.isFinite(x) ? x : 0)));
      });
      expect(lost).toBe(missing);
    }
  });
  it('filters two channels as the formula of a section says, whatever the blocks', () => {
    const sections: Section[] = [
      { b0: 0.5, b1: -0.9, b2: 0.45, a1: -1.8, a2: 0.82 },
      { b0: 2, b1: 0.3, b2: -1, a1: 0.4, a2: -0.3 },
      { b0: -1, b1: 0.1, b2: 0.2, a1: -0.2, a2: 0.6 },
    ];
    const samples = noise(3 * MOST + 77);
    let plain = samples.map((x) => 0.7 * x);
    for (const { b0, b1, b2, a1, a2 } of sections) {
      const out = new Float64Array(plain.length);
      const before = (of: Float64Array, k: number) => of[k] ?? 0;
      for (let k = 0; k < out.length; k += 1)
        out[k] =
          b0 * before(plain, k) +
          b1 * before(plain, k - 1) +
          b2 * before(plain, k - 2) -
          a1 * before(out, k - 1) -
          a2 * before(out, k - 2);
      plain = out;
    }
    const filter = sectionFilter(sections, 0.7);
    const filtered = samples.slice();
    for (const block of inBlocks(filtered)) filter.filter(block);
    const size = Math.max(...plain.map(Math.abs));
    filtered.forEach((x, k) => {
      if (Math.abs(x - (plain[k] as number)) > 1e-12 * size) expect.fail(`sample ${String(k)}: ${String(x)}`);
    });
  });
  it.each(['weighA', 'weighC'] as const)(
    'weighs (%s) by sections of first order, whatever the blocks',
    (how) => {
      const [low, third, fourth, before, high, scale] = [0.997, 0.98, 0.9, -0.3, 0.4, 0.7];
      const samples = noise(2 * MOST + 77);
      const poles = how === 'weighA' ? [low, low, third, fourth] : [low, low];
      let plain = samples.map((x) => scale * x);
      for (const [b, p] of [
        ...poles.map((pole) => [-1, pole] as const),
        [before, high],
        [before, high],
      ] as const) {
        let [x1, y1] = [0, 0];
        plain = plain.map((x) => {
          [y1, x1] = [x + b * x1 + p * y1, x];
          return y1;
        });
      }
      const filter = new RunningFilter(how, [low, third, fourth, before, high], scale);
      const filtered = samples.slice();
      for (const block of inBlocks(filtered)) filter.filter(block);
      const most = Math.max(...filtered.map((x, k) => Math.abs(x - (plain[k] as number))));
      expect(most).toBeLessThan(1e-12 * Math.max(...plain.map(Math.abs)));
    },
  );
  it('leaves samples in its memory as they are when it looks between them', () => {
    const [room] = kernel().rooms as [Float64Array];
    room.set(noise(MOST));
    const copied = room.slice();
    const finders = [new TruePeak(), new TruePeak()] as const;
    for (const [from, to] of [
      [0, 100],
      [100, 1063],
      [1063, MOST],
    ] as const) {
      finders[0].push(room.subarray(from, to));
      expect(room).toEqual(copied);
      finders[1].push(copied.subarray(from, to));
    }
    expect(finders[0].end()).toBe(finders[1].end());
  });
  it.each([
    ['noise', noise(2 * MOST + 55, 0.4)],
    ['noise around what is not 0', noise(2 * MOST, 0.1).map((x) => x + 0.6)],
    ['noise whose samples are all as likely', noise(2 * MOST, 0.4).map((x) => x % 0.3)],
    ['noise on a hum', noise(2 * MOST, 0.05).map((x, k) => x + 0.8 * Math.sin(k / 150))],
    ['a sine', Float64Array.from({ length: 3000 }, (_, k) => 0.8 * Math.sin(1.6 * k + 0.3))],
    ['single samples', Float64Array.from({ length: 2000 }, (_, k) => (k % 611 === 17 ? -0.9 : 0))],
    [
      'two that are high at the end of a block',
      Float64Array.from({ length: MOST + 1 }, (_, k) => (k >= MOST - 1 ? 0.9 : 0)),
    ],
  ])('finds the largest between samples of %s as working all of them out does', (_, samples) => {
    let wanted = Math.max(...samples.map(Math.abs));
    const padded = Float64Array.from([
      ...new Array<number>(TAPS).fill(0),
      ...samples,
      ...new Array<number>(TAPS / 2).fill(0),
    ]);
    for (let start = 0; start + TAPS <= padded.length; start += 1)
      for (let phase = 0; phase < 3; phase += 1) {
        let sum = 0;
        for (let i = 0; i < TAPS; i += 1)
          sum += (ALL_TAPS[phase * TAPS + i] as number) * (padded[start + i] as number);
        wanted = Math.max(wanted, Math.abs(sum));
      }
    const finder = new TruePeak();
    const largest = Math.max(...[...inBlocks(samples)].map((block) => finder.push(block)));
    expect(largest).toBe(Math.max(...samples.map(Math.abs)));
    expect(finder.end()).toBeCloseTo(wanted, 12);
  });
  it('follows each channel of a pair, and an odd one, as if it were alone', () => {
    const channels = [noise(30001, 0.5), noise(30001, 0.01), noise(30001, 0.9)];
    const meter = new LevelMeter({ weighting: 'A' }, 8000, 3);
    for (let from = 0; from < 30001; from += 1003)
      meter.push(channels.map((samples) => samples.subarray(from, from + 1003)));
    const found = meter.found();
    expect(found).toHaveLength(3);
    channels.forEach((samples, i) => {
      const alone = new LevelMeter({ weighting: 'A' }, 8000, 1);
      alone.push([samples]);
      expect(alone.found()).toEqual([found[i]]);
    });
  });
  it.each([1, 5, 15, 16, 21, 2 * MOST + 7])(
    'counts each of %i samples of each channel, whole steps or not',
    (length) => {
      const meter = new LevelMeter({ weighting: 'Z' }, 8000, 2);
      const sizes = [0.5, 0.25];
      // The last one is twice as large.
      const channels = sizes.map((size) => new Float64Array(length).fill(size).fill(2 * size, length - 1));
      for (let from = 0; from < length; from += 1003)
        meter.push(channels.map((samples) => samples.subarray(from, from + 1003)));
      meter.found().forEach(({ equivalent, weightedPeak, exposure, seconds }, lane) => {
        const size = sizes[lane] as number;
        const squares = (length + 3) * size ** 2;
        expect(seconds).toBe(length / 8000);
        expect(weightedPeak).toBeCloseTo(20 * Math.log10(2 * size), 9);
        expect(equivalent).toBeCloseTo(10 * Math.log10(squares / length), 9);
        expect(exposure).toBeCloseTo(10 * Math.log10(squares / 8000), 9);
      });
    },
  );
  it('forgets in silence what sounded before, so that numbers do not become as small as they can', () => {
    const meter = new LevelMeter({ weighting: 'A', band: '25' }, 8000, 1);
    const filter = sectionFilter([{ b0: 1, b1: 0, b2: 0, a1: -1.9, a2: 0.95 }], 1);
    meter.push([noise(8000)]);
    filter.filter(noise(8000));
    const silence = new Float64Array(8000);
    for (let second = 0; second < 20; second += 1) filter.filter(silence.fill(0));
    expect(silence.every((x) => x === 0)).toBe(true);
    for (let second = 0; second < 100; second += 1) meter.push([silence]);
    expect(Number.isFinite(meter.found()[0]?.equivalent)).toBe(true);
  });
});
