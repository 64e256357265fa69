import { describe, expect, it } from 'vitest';
import { BANDS, BandFilter, type Band, centreOf, edgesOf, holdsBand } from './bands.ts';

describe('the thirds of an octave', () => {
  it('have the centres of IEC 61260-1, whose names are rounded', () => {
    expect(BANDS).toHaveLength(30);
    expect(BANDS.map((band) => Math.round(1000 * centreOf(band)) / 1000).slice(0, 6)).toEqual([
      25.119, 31.623, 39.811, 50.119, 63.096, 79.433,
    ]);
    for (const band of BANDS) expect(Math.abs(centreOf(band) / Number(band) - 1)).toBeLessThan(0.01);
    const neighbours = BANDS.slice(1).map(
      (band, i) => [edgesOf(BANDS[i] as Band)[1], edgesOf(band)[0]] as const,
    );
    for (const [end, start] of neighbours) expect(end / start).toBeCloseTo(1, 12);
  });

  // SciPy 1.17, signal.butter(3, edges, 'bandpass', fs=48000, output='sos') and sosfreqz, less what is there at the centre.
  it.each([
    ['25', [-48.775, -17.4805, -0.0335, -0.0001, -12.3277, -28.3844]],
    ['1000', [-48.7478, -17.4708, -0.0336, -0.0001, -12.337, -28.4161]],
    ['8000', [-47.0112, -16.8393, -0.0419, 0, -12.9923, -30.7179]],
    ['16000', [-41.1104, -14.4403, -0.0984, 0, -17.1903, -54.4151]],
  ] as const)('at %s Hz let through what SciPy says', (band, wanted) => {
    const filter = new BandFilter(band, 48000);
    [0.5, 0.8, 0.95, 1.02, 1.2, 1.4].forEach((ratio, i) => {
      expect(filter.decibelsAt(ratio * centreOf(band))).toBeCloseTo(wanted[i] as number, 3);
    });
  });

  it('keep to class 1 of IEC 61260-1 (from memory): at least so much less outside, at most so much inside', () => {
    for (const rate of [44100, 48000, 96000]) {
      for (const band of BANDS.filter((name) => holdsBand(name, rate))) {
        const filter = new BandFilter(band, rate);
        const decibels = (ratio: number) => filter.decibelsAt(ratio * centreOf(band));
        for (const [ratio, least] of [
          [1.2944, 16.6],
          [1.8815, 40.5],
          [3.0535, 60],
          [5.3919, 70],
        ] as const) {
          if (ratio * centreOf(band) < 0.49 * rate) expect(decibels(ratio)).toBeLessThan(-least);
          // Near half the sample rate the lower side is not as steep.
          expect(decibels(1 / ratio)).toBeLessThan(-least + (centreOf(band) < 0.25 * rate ? 0 : 12));
        }
        for (const ratio of [0.96, 0.98, 1.02, 1.04]) expect(Math.abs(decibels(ratio))).toBeLessThan(0.5);
        for (const edge of edgesOf(band)) expect(filter.decibelsAt(edge)).toBeCloseTo(-3.01, 1);
      }
    }
  });

  it('do to samples what they say of sines, and hold no band above the recording', () => {
    const filter = new BandFilter('100', 8000);
    const samples = Float64Array.from({ length: 16000 }, (_, k) => Math.sin((2 * Math.PI * 110 * k) / 8000));
    filter.filter(samples);
    const settled = samples.subarray(8000);
    const power = settled.reduce((sum, x) => sum + x * x, 0) / settled.length;
    expect(10 * Math.log10(2 * power)).toBeCloseTo(filter.decibelsAt(110), 2);
    expect(holdsBand('4000', 8000)).toBe(false);
    expect(() => new BandFilter('4000', 8000)).toThrow('No band of 4000 Hz');
  });
});
