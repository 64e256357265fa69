import { MOST, TAPS, kernel, someOf } from './kernel/kernel.ts';

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

/** The largest of a figure over all filters. */
const most = (figure: (taps: Float64Array) => number): number => Math.max(...FILTERS.map(figure));
const energyOf = (taps: Float64Array): number => taps.reduce((sum, tap) => sum + tap * tap, 0);
/** What the middle taps weigh together, and what all others do, as the root of their energy. */
const middleWeight = (count: number) =>
  most((taps) =>
    taps.subarray(HALF - count / 2, HALF + count / 2).reduce((sum, tap) => sum + Math.abs(tap), 0),
  );
const otherWeight = (count: number) =>
  most((taps) => Math.sqrt(energyOf(taps) - energyOf(taps.subarray(HALF - count / 2, HALF + count / 2))));
const WEIGHTS = [middleWeight(2), otherWeight(2), otherWeight(4)];
export const ALL_TAPS = FILTERS.flatMap((taps) => [...taps]);

/**
 * The largest size of a signal between its samples too, at four times the sample rate. What cannot be larger than what was
 * found is not worked out: by the inequality of Cauchy and Schwarz the taps beside the middle ones add at most the root of
 * their own energy times that of the samples there.
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
