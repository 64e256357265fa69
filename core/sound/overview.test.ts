import { describe, expect, it } from 'vitest';
import { mixedRandom } from '../random/seeded.ts';
import { type Columns, Overview, columnsOfSamples } from './overview.ts';

const random = mixedRandom(7, 1);
const samples = Float64Array.from({ length: 70001 }, (_, k) => Math.sin(k / 900) * random.normal());
const other = samples.map((x) => x / 2 - 0.1);

/** The columns as working them out of all samples does, each widened to the stretches that it touches. */
function workedOut(of: Float64Array, first: number, last: number, count: number, per: number): Columns {
  const each = (last - first) / count;
  const ends = (pick: (...found: number[]) => number) =>
    Float32Array.from({ length: count }, (_, i) => {
      const from = Math.floor((first + i * each) / per);
      const to = Math.max(from + 1, Math.floor((first + (i + 1) * each) / per));
      return pick(...of.subarray(from * per, to * per));
    });
  return { low: ends(Math.min), high: ends(Math.max) };
}

function overview(block: number): Overview {
  const made = new Overview(2, samples.length);
  for (let from = 0; from < samples.length; from += block)
    made.push([samples.subarray(from, from + block), other.subarray(from, from + block)], from);
  return made;
}

describe('the overview of a recording', () => {
  it.each([1000, 256, 8192, 70001])(
    'has the least and the greatest samples, read in blocks of %i',
    (block) => {
      const made = overview(block);
      for (const [first, last, count, per] of [
        [0, 70001, 4, 16384],
        [0, 70001, 30, 2048],
        [5000, 65000, 117, 256],
        [0, 65536, 256, 256],
        // Finer than it knows: what it knows is shown.
        [1024, 2048, 16, 256],
      ] as const) {
        expect(made.columns(0, first, last, count)).toEqual(workedOut(samples, first, last, count, per));
        expect(made.columns(1, first, last, count)).toEqual(workedOut(other, first, last, count, per));
      }
      expect(made.finest).toBe(256);
    },
  );
  it('knows nothing of what was not read yet', () => {
    const made = new Overview(1, 8192);
    made.push([samples.subarray(0, 300)], 512);
    const { low, high } = made.columns(0, 0, 2048, 8);
    expect([...low].map(Number.isNaN)).toEqual([true, true, false, false, true, true, true, true]);
    expect([...high].map(Number.isNaN)).toEqual([...low].map(Number.isNaN));
    expect(low[2]).toBe(Math.fround(Math.min(...samples.subarray(0, 256))));
    expect(high[3]).toBe(Math.fround(Math.max(...samples.subarray(256, 300))));
    // A column of what was read in part is of that part.
    expect(made.columns(0, 0, 4096, 2).high[0]).toBe(Math.fround(Math.max(...samples.subarray(0, 300))));
    expect(made.columns(0, 8000, 9000, 2).low[1]).toBeNaN();
  });
  it('is of single samples where a picture shows more than that', () => {
    const few = Float32Array.from([3, -1, 4, -1, 5, -9, 2, 6]);
    expect(columnsOfSamples(few, 4)).toEqual({
      low: Float32Array.from([-1, -1, -9, 2]),
      high: Float32Array.from([3, 4, 5, 6]),
    });
    expect(columnsOfSamples(few, 3)).toEqual({
      low: Float32Array.from([-1, -1, -9]),
      high: Float32Array.from([3, 5, 6]),
    });
    const more = columnsOfSamples(few.subarray(0, 2), 5);
    expect([...more.low]).toEqual([3, 3, 3, -1, -1]);
    expect(more.high).toEqual(more.low);
  });
});
