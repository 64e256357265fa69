import { spawnSync } from 'node:child_process';
import { describe, expect, it } from 'vitest';
import { BANDS, BandFilter, type Band, centreOf, edgesOf, holdsBand } from '../core/sound/bands.ts';
import { sectionFilter } from '../core/sound/sections.ts';
import { WeightingFilter } from '../core/sound/weighting.ts';

/** The numbers that a Python script prints as JSON. */
function askPython(script: string): number[][] {
  const { status, stdout, stderr } = spawnSync('python3', ['-'], {
    input: `import json\nimport numpy as np\nfrom scipy import signal\n${script}`,
    encoding: 'utf8',
  });
  if (status !== 0) throw new Error(`Python: ${stderr}`);
  return JSON.parse(stdout) as number[][];
}

const RATIOS = [0.5, 0.7, 0.85, 0.93, 1, 1.07, 1.15, 1.4, 1.9];

describe('the thirds of an octave', () => {
  it.each([16000, 44100, 48000, 96000])('are those of SciPy at %d samples a second', (rate) => {
    const bands = BANDS.filter((band) => holdsBand(band, rate));
    const edges = bands.map((band) => edgesOf(band));
    const asked = bands.map((band) => RATIOS.map((ratio) => Math.min(ratio * centreOf(band), 0.49 * rate)));
    const wanted = askPython(`
edges = ${JSON.stringify(edges)}
asked = ${JSON.stringify(asked)}
centres = ${JSON.stringify(bands.map((band) => centreOf(band)))}
found = []
for e, f, c in zip(edges, asked, centres):
    sos = signal.butter(3, e, 'bandpass', fs=${String(rate)}, output='sos')
    _, h = signal.sosfreqz(sos, np.array(f + [c]), fs=${String(rate)})
    found.append(list(20 * np.log10(np.abs(h[:-1]) / np.abs(h[-1]))))
print(json.dumps(found))`);
    bands.forEach((band: Band, i) => {
      const filter = new BandFilter(band, rate);
      asked[i]?.forEach((hz, k) => {
        expect(Math.abs(filter.decibelsAt(hz) - (wanted[i]?.[k] ?? Number.NaN)), `${band} Hz`).toBeLessThan(
          1e-3,
        );
      });
    });
  });
});

describe('filters', () => {
  it('make of samples what SciPy’s make of them', () => {
    const samples = Float64Array.from({ length: 500 }, (_, k) => Math.sin(0.1 * k * k) + (k === 3 ? 1 : 0));
    const section = { b0: 0.3, b1: -0.2, b2: 0.1, a1: -1.2, a2: 0.5 };
    const other = { b0: 1, b1: 0.4, b2: -0.3, a1: 0.2, a2: 0.1 };
    const [wanted] = askPython(`
x = np.array(${JSON.stringify([...samples])})
sos = np.array([[0.3, -0.2, 0.1, 1, -1.2, 0.5], [1, 0.4, -0.3, 1, 0.2, 0.1]])
print(json.dumps([list(2 * signal.sosfilt(sos, x))]))`);
    const filter = sectionFilter([section, other], 2);
    for (const [from, to] of [
      [0, 123],
      [123, 500],
    ] as const)
      filter.filter(samples.subarray(from, to));
    samples.forEach((sample, k) => {
      expect(Math.abs(sample - (wanted?.[k] ?? Number.NaN))).toBeLessThan(1e-10);
    });
  });
  it('weigh as the analog A and C curves do, which SciPy works out from their poles', () => {
    const frequencies = [20, 50, 100, 250, 500, 1000, 2000, 4000, 8000, 12500];
    const [a, c] = askPython(`
f = 2j * np.pi * np.array(${JSON.stringify(frequencies)} + [1000.0])
w = [2 * np.pi * x for x in (20.598997, 107.65265, 737.86223, 12194.217)]
_, ha = signal.freqs_zpk([0] * 4, [-w[0], -w[0], -w[1], -w[2], -w[3], -w[3]], 1, np.abs(f))
_, hc = signal.freqs_zpk([0] * 2, [-w[0], -w[0], -w[3], -w[3]], 1, np.abs(f))
print(json.dumps([list(20 * np.log10(np.abs(h[:-1]) / np.abs(h[-1]))) for h in (ha, hc)]))`);
    frequencies.forEach((hz, i) => {
      const off = hz > 5000 ? 0.4 : 0.2;
      expect(
        Math.abs(new WeightingFilter('A', 48000).decibelsAt(hz) - (a?.[i] ?? 0)),
        `A ${String(hz)}`,
      ).toBeLessThan(off);
      expect(
        Math.abs(new WeightingFilter('C', 48000).decibelsAt(hz) - (c?.[i] ?? 0)),
        `C ${String(hz)}`,
      ).toBeLessThan(off);
    });
  });
});
