import { GROUP, MOST, TAPS, kernel, someOf } from './kernel/kernel.ts';

/** Samples between two of the file. */
const PHASES = 4;
const HALF = TAPS / 2;

/** Kaiser's window, by the modified Bessel function of order 0. */
function kaiser(position: number, beta: number): number {
  const bessel = (x: number) => {
    let [sum, term] = [1, 1];
    for (let k = 1; term > 1e-17 * sum; k += 1) {
      term *= (x / (2 * k)) ** 2;
      sum += term;
    }
    return sum;
  };
  return bessel(beta * Math.sqrt(Math.max(0, 1 - position * position))) / bessel(beta);
}

/** Filters for the three places between two samples: a windowed sinc each, of unit gain at 0 Hz. */
const FILTERS = [1, 2, 3].map((phase) => {
  const taps = Float64Array.from({ length: TAPS }, (_, i) => {
    const distance = i - (HALF - 1) - phase / PHASES;
    const sinc = Math.sin(Math.PI * distance) / (Math.PI * distance);
    return sinc * kaiser(distance / HALF, 7);
  });
  const sum = taps.reduce((total, tap) => total + tap, 0);
  return taps.map((tap) => tap / sum);
});

/** What some taps make at most of samples that lie at most 1 from a centre: those of the filter that makes most of them. */
const mostOf = (isCounted: (tap: number) => boolean): number =>
  Math.max(
    ...FILTERS.map((taps) => taps.reduce((sum, tap, i) => (isCounted(i) ? sum + Math.abs(tap) : sum), 0)),
  );
const inside = (from: number, to: number) => mostOf((tap) => tap >= from && tap < to);
const outside = (from: number, to: number) => mostOf((tap) => tap < from || tap >= to);
/** Where the two middle ones of four groups of samples begin among the taps: the first tap is on any sample of the first. */
const middleGroups = Array.from({ length: GROUP }, (_, sample) => GROUP - sample);
/** As the kernel has them. */
const WEIGHTS = [
  inside(HALF - 1, HALF + 1),
  outside(HALF - 1, HALF + 1),
  outside(HALF - 2, HALF + 2),
  Math.max(...middleGroups.map((from) => inside(from, from + 2 * GROUP))),
  Math.max(...middleGroups.map((from) => outside(from, from + 2 * GROUP))),
];
export const ALL_TAPS = FILTERS.flatMap((taps) => [...taps]);

/**
 * The largest size of a signal between its samples too, at four times the sample rate. What cannot be larger than what was
 * found is not worked out: as the taps of a filter add up to 1, it lies from any centre at most as far as the samples do,
 * each times the size of its tap.
 * @source the idea of ITU-R BS.1770-4, annex 2, with a longer filter
 */
export class TruePeak {
  /** The end of the block before; in front of the signal it is silent. */
  private readonly kept = new Float64Array(TAPS);
  peak = 0;

  constructor() {
    // They are the same for all who look.
    const { filters, weights } = kernel();
    filters.set(ALL_TAPS);
    weights.set(WEIGHTS);
  }

  /** @returns the largest sample of these */
  push(samples: Float64Array): number {
    let largest = 0;
    for (let from = 0; from < samples.length; from += MOST)
      largest = Math.max(largest, this.pushSome(someOf(samples, from, MOST)));
    return largest;
  }

  private pushSome(samples: Float64Array): number {
    const { kept, between, largest } = kernel();
    kept.set(this.kept);
    this.peak = between(samples, this.peak);
    this.kept.set(kept);
    return largest(samples.length);
  }

  /** The end of the signal, behind which it is silent. */
  end(): number {
    this.push(new Float64Array(HALF));
    return this.peak;
  }
}
