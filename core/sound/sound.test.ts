import { describe, expect, it } from 'vitest';
import { type SoundLevels, SoundMeter } from './meter.ts';
import { ALL_TAPS, TruePeak } from './true-peak.ts';
import { type Weighting, WeightingFilter } from './weighting.ts';

/** IEC 61672-1, table of frequency weightings (from memory): Hz, A and C in dB. */
const TABLE =
  `10 -70.4 -14.3; 12.5 -63.4 -11.2; 16 -56.7 -8.5; 20 -50.5 -6.2; 25 -44.7 -4.4; 31.5 -39.4 -3; 40 -34.6 -2;
  50 -30.2 -1.3; 63 -26.2 -0.8; 80 -22.5 -0.5; 100 -19.1 -0.3; 125 -16.1 -0.2; 160 -13.4 -0.1; 200 -10.9 0; 250 -8.6 0;
  315 -6.6 0; 400 -4.8 0; 500 -3.2 0; 630 -1.9 0; 800 -0.8 0; 1000 0 0; 1250 0.6 0; 1600 1 -0.1; 2000 1.2 -0.2;
  2500 1.3 -0.3; 3150 1.2 -0.5; 4000 1 -0.8; 5000 0.5 -1.3; 6300 -0.1 -2; 8000 -1.1 -3; 10000 -2.5 -4.4; 12500 -4.3 -6.2;
  16000 -6.6 -8.5; 20000 -9.3 -11.2`
    .split(';')
    .map((row) => row.trim().split(/\s+/).map(Number) as [number, number, number]);
/** The table’s frequencies are rounded names of exact thirds of an octave. */
const exactHz = (nominal: number): number => 1000 * 10 ** (Math.round(10 * Math.log10(nominal / 1000)) / 10);

const RATE = 48000;
const sine = (hz: number, size: number, seconds: number, phase = 0) =>
  Float64Array.from(
    { length: Math.round(seconds * RATE) },
    (_, k) => size * Math.sin((2 * Math.PI * hz * k) / RATE + phase),
  );
const measured = (samples: Float64Array, weighting: Weighting = 'Z', block = 5000) => {
  const meter = new SoundMeter({ weighting }, RATE, 1);
  for (let from = 0; from < samples.length; from += block) meter.push([samples.subarray(from, from + block)]);
  return meter.found()[0] as SoundLevels;
};

describe('the weighting of frequencies', () => {
  it.each([44100, 48000, 96000, 192000])(
    'keeps to the table of IEC 61672-1 at %d samples a second',
    (rate) => {
      const [a, c] = [new WeightingFilter('A', rate), new WeightingFilter('C', rate)];
      for (const [nominal, wantedA, wantedC] of TABLE) {
        const hz = exactHz(nominal);
        // Class 1 allows 1 dB and more up to 4 kHz, and ever more above.
        const off = nominal >= 20000 ? 1.2 : nominal >= 16000 ? 0.8 : 0.4;
        expect(Math.abs(a.decibelsAt(hz) - wantedA), `A at ${String(nominal)} Hz`).toBeLessThan(off);
        expect(Math.abs(c.decibelsAt(hz) - wantedC), `C at ${String(nominal)} Hz`).toBeLessThan(off);
      }
    },
  );
  it('does to samples what it says of sines', () => {
    for (const [weighting, hz] of [
      ['A', 100],
      ['A', 4000],
      ['C', 63],
    ] as const) {
      const samples = sine(hz, 1, 2);
      const filter = new WeightingFilter(weighting, RATE);
      filter.filter(samples);
      const settled = samples.subarray(RATE);
      const power = settled.reduce((sum, x) => sum + x * x, 0) / settled.length;
      expect(10 * Math.log10(2 * power)).toBeCloseTo(filter.decibelsAt(hz), 2);
    }
  });
});

describe('the levels of a sound', () => {
  it('of a sine are its own: 3.01 dB under its peak, the same fast and slow', () => {
    const levels = measured(sine(1000, 0.5, 20));
    expect(levels.equivalent).toBeCloseTo(20 * Math.log10(0.5 / Math.SQRT2), 3);
    expect(levels.samplePeak).toBeCloseTo(-6.0206, 3);
    expect(levels.highestFast).toBeCloseTo(levels.equivalent, 1);
    expect(levels.highestSlow).toBeCloseTo(levels.equivalent, 1);
    expect(levels.l50).toBeCloseTo(levels.equivalent, 1);
    expect(levels.exposure).toBeCloseTo(levels.equivalent + 10 * Math.log10(20), 3);
    expect(measured(sine(1000, 0.5, 5), 'A').equivalent).toBeCloseTo(levels.equivalent, 1);
  });
  it('of a burst of 4 kHz follow the table of tone bursts of IEC 61672-1', () => {
    // From memory: highest fast level of a burst under its steady level, and its exposure level.
    for (const [ms, fast, slow] of [
      [1000, 0, -2],
      [200, -1, -7.4],
      [50, -4.8, -13.1],
      [10, -11.1, -20],
    ] as const) {
      const burst = new Float64Array(3 * RATE);
      burst.set(sine(4000, 1, ms / 1000), RATE);
      const levels = measured(burst);
      const steady = -3.0103;
      expect(levels.highestFast - steady, `fast, ${String(ms)} ms`).toBeCloseTo(fast, 0);
      expect(Math.abs(levels.highestSlow - steady - slow), `slow, ${String(ms)} ms`).toBeLessThan(0.15);
      expect(levels.exposure - steady).toBeCloseTo(10 * Math.log10(ms / 1000), 2);
    }
  });
  it('of a shot-like impulse have the exposure of its closed form', () => {
    // p = A·e^(−t/τ): energy A²·τ/2.
    const [size, tau] = [0.9, 0.002];
    const shot = new Float64Array(RATE);
    for (let k = 1000; k < RATE; k += 1) shot[k] = size * Math.exp(-(k - 1000) / RATE / tau);
    const levels = measured(shot);
    expect(levels.exposure).toBeCloseTo(10 * Math.log10((size * size * tau) / 2), 1);
    expect(levels.samplePeak).toBeCloseTo(20 * Math.log10(size), 6);
  });
  it('say what part of the time is loud', () => {
    const half = new Float64Array(20 * RATE);
    half.set(sine(500, 0.5, 10));
    half.set(sine(500, 0.05, 10), 10 * RATE);
    const { l10, l90 } = measured(half);
    expect([l10, l90].map((level) => Math.round(10 * level) / 10)).toEqual([-9, -29]);
  });
  it('count clipped samples, and know silence', () => {
    const clipped = sine(100, 1.5, 0.1).map((x) => Math.max(-1, Math.min(1, x)));
    const full = clipped.filter((x) => Math.abs(x) === 1).length;
    expect(measured(clipped).clipped).toBe(full);
    expect(measured(sine(1000, 1, 1)).clipped).toBe(0);
    // The largest sample of sixteen bits is full scale above, though not 1.
    const above = clipped.map((x) => Math.min(x, 1 - 2 ** -15));
    expect(measured(above).clipped).toBe(full);
    expect(measured(clipped.map((x) => x * (1 - 2 ** -14))).clipped).toBe(0);
    expect(measured(new Float64Array(RATE))).toMatchObject({ equivalent: -Infinity, samplePeak: -Infinity });
  });
  it('do not depend on how the samples come', () => {
    const samples = sine(997, 0.7, 1, 0.3);
    const whole = measured(samples, 'A', samples.length);
    for (const [name, level] of Object.entries(measured(samples, 'A', 101)))
      expect(level, name).toBeCloseTo(whole[name as keyof typeof whole], 9);
  });
});

describe('the true peak', () => {
  it('looks between samples by sines cut off by Kaiser’s window, in quarters', () => {
    // Worked out apart by the series of I0 (Kaiser 1974; β = 7), each filter of unit sum: taps 0, 10, 11, 12 and 23.
    for (const [phase, taps] of [
      [-0.000371839245, -0.173844173589, 0.899130528218, 0.296354670008, -0.000178692103],
      [-0.0003741831, -0.201719225008, 0.633120204513, 0.633120204513, -0.0003741831],
      [-0.000178692103, -0.120024125063, 0.296354670008, 0.899130528218, -0.000371839245],
    ].entries())
      [0, 10, 11, 12, 23].forEach((tap, i) => {
        expect(ALL_TAPS[24 * phase + tap]).toBeCloseTo(taps[i] as number, 10);
      });
    expect(ALL_TAPS).toHaveLength(72);
  });
  it('is found between samples, where a quarter of the sample rate hides it', () => {
    const samples = sine(RATE / 4, 1, 0.1, Math.PI / 4);
    const found = new TruePeak();
    found.push(samples);
    expect(measured(samples).samplePeak).toBeCloseTo(-3.01, 2);
    // The sine begins at once, which rings a little.
    expect(Math.abs(20 * Math.log10(found.end()))).toBeLessThan(0.15);
  });
  it('is the sample’s where the sound is low', () => {
    const found = new TruePeak();
    found.push(sine(100, 0.5, 0.5));
    expect(20 * Math.log10(found.end())).toBeCloseTo(-6.02, 2);
  });
});
