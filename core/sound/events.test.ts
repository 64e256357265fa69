import { describe, expect, it } from 'vitest';
import { seededRandom } from '../random/seeded.ts';
import { backgroundOf, findEvents, withoutBackground } from './events.ts';
import { Overview, columnsOfSamples } from './overview.ts';
import { TRACK_STEP_S, TrackMeter } from './track.ts';

/** A track with a background of −60 dB and these stretches, s and dB. */
function track(lengthS: number, sounds: readonly (readonly [from: number, to: number, level: number])[]) {
  return Float32Array.from({ length: Math.round(lengthS / TRACK_STEP_S) }, (_, i) => {
    const t = (i + 0.5) * TRACK_STEP_S;
    return sounds.find(([from, to]) => t >= from && t < to)?.[2] ?? -60 + Math.sin(i);
  });
}

describe('what sounds in a recording', () => {
  it('is found from its onset to its end, with the quiet stretch next to it', () => {
    const found = findEvents(
      track(20, [
        [3, 5, -30],
        [12, 12.02, -10],
      ]),
      -50,
      0.5,
    );
    expect(found).toEqual([
      { from: 3, to: 5, highest: -30, background: { from: 0, to: 2.9 } },
      { from: 12, to: 12.02, highest: -10, background: { from: 6.9, to: 11.9 } },
    ]);
  });
  it('is still the same where it stops for a moment, and two things where it stops for longer', () => {
    const sounds = track(10, [
      [2, 3, -30],
      [3.3, 4, -30],
    ]);
    expect(findEvents(sounds, -50, 0.5)).toHaveLength(1);
    expect(findEvents(sounds, -50, 0.2)).toHaveLength(2);
  });
  it('has no background where nothing is quiet, and is nothing where all is', () => {
    expect(findEvents(track(5, [[0, 5, -20]]), -50, 0.5)).toEqual([
      { from: 0, to: 5, highest: -20, background: undefined },
    ]);
    expect(findEvents(track(5, []), -50, 0.5)).toEqual([]);
    expect(findEvents(new Float32Array(0), -50, 0.5)).toEqual([]);
  });
  it('lies over a background that is exceeded nearly all of the time', () => {
    expect(backgroundOf(track(20, [[3, 9, -30]]))).toBeCloseTo(-61, 0);
  });
});

describe('a level in a background', () => {
  // ISO 3744, K₁ for differences of 6, 8, 10 and 15 dB (from memory): 1.26, 0.75, 0.46, 0.14.
  it.each([
    [6, 1.26],
    [8, 0.75],
    [10, 0.46],
    [15, 0.14],
  ])('that is %d dB lower loses %d dB', (differs, correction) => {
    const found = withoutBackground(70, 70 - differs);
    expect('correction' in found && found.correction).toBeCloseTo(correction, 2);
  });
  it('is left as it is above 15 dB, and is none below 6', () => {
    expect(withoutBackground(70, 50)).toEqual({ level: 70, correction: 0, differs: 20 });
    expect(withoutBackground(70, 65)).toHaveProperty('problem', expect.stringContaining('5.0 dB over'));
    expect(withoutBackground(60, 65)).toHaveProperty('problem', expect.stringContaining('0.0 dB over'));
  });
});

describe('the track of a recording', () => {
  it('has the level of each hundredth of a second, however the samples come', () => {
    const samples = Float64Array.from({ length: 44100 }, (_, k) =>
      k < 22050 ? 0 : Math.sin((2 * Math.PI * 1000 * k) / 44100),
    );
    const tracks = [44100, 777].map((block) => {
      const meter = new TrackMeter({ weighting: 'Z' }, 44100, samples.length);
      for (let from = 0; from < samples.length; from += block)
        meter.push(samples.subarray(from, from + block));
      return meter.track();
    });
    // One that is shorter than a step has a level too.
    expect(new TrackMeter({ weighting: 'Z' }, 44100, 7).track()).toEqual(Float32Array.of(-120));
    expect(tracks[0]).toEqual(tracks[1]);
    expect(tracks[0]).toHaveLength(100);
    expect(tracks[0]?.[49]).toBe(-120);
    expect(tracks[0]?.[50]).toBeCloseTo(-3.01, 2);
    expect(tracks[0]?.[99]).toBeCloseTo(-3.01, 2);
  });
});

describe('the overview of a recording', () => {
  const random = seededRandom(7);
  const samples = Float64Array.from({ length: 100_000 }, () => 2 * random.unit() - 1);
  const overview = new Overview(1, samples.length);
  for (let from = 0; from < samples.length; from += 4096)
    overview.push([samples.subarray(from, from + 4096)], from);
  const extreme = (from: number, to: number) => {
    const part = samples.subarray(from, to);
    return [Math.min(...part), Math.max(...part)].map(Math.fround);
  };

  it('has the smallest and the largest sample of each column, at every stage', () => {
    for (const per of [256, 2048, 16384]) {
      const count = Math.floor(samples.length / per);
      const { low, high } = overview.columns(0, 0, count * per, count);
      for (const i of [0, 1, count - 1]) expect([low[i], high[i]]).toEqual(extreme(i * per, (i + 1) * per));
    }
  });
  it('leaves no sample out, whatever the width', () => {
    for (const count of [3, 17, 97, 300]) {
      const { low, high } = overview.columns(0, 0, samples.length, count);
      expect([Math.min(...low), Math.max(...high)]).toEqual(extreme(0, samples.length));
    }
  });
  it('is empty where nothing was read yet', () => {
    const half = new Overview(1, 2000);
    half.push([samples.subarray(0, 1000)], 0);
    const { low } = half.columns(0, 0, 2048, 8);
    expect([...low].map(Number.isNaN)).toEqual([false, false, false, false, true, true, true, true]);
  });
  it('gives way to the samples where it is too coarse', () => {
    const few = Float32Array.from([0, 1, -1, 0.5]);
    expect(columnsOfSamples(few, 2)).toEqual({
      low: Float32Array.from([0, -1]),
      high: Float32Array.from([1, 0.5]),
    });
    expect(columnsOfSamples(few, 8).high[3]).toBe(1);
  });
});
