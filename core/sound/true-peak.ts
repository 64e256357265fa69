/** Samples between two of the file, and taps of the filter that finds them. */
const PHASES = 4;
const TAPS = 24;
const HALF = TAPS / 2;
/** Samples whose energy is summed up together, and how many of these groups the taps can touch. */
const GROUP = 8;
const TOUCHED = TAPS / GROUP + 1;

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

/** Whether one of some samples lies outside two bounds. */
function leaves(samples: Float64Array, from: number, to: number, low: number, high: number): boolean {
  for (let k = from; k < to; k += 1) {
    const sample = samples[k] as number;
    if (sample > high || sample < low) return true;
  }
  return false;
}

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
const [TWO, BESIDE_TWO, BESIDE_FOUR] = [middleWeight(2), otherWeight(2), otherWeight(4)];

/**
 * The largest size of a signal between its samples too, at four times the sample rate. What cannot be larger than what was
 * found is not worked out: by the inequality of Cauchy and Schwarz the taps beside the middle ones add at most the root of
 * their own energy times that of the samples there.
 * @source the idea of ITU-R BS.1770-4, annex 2, with a longer filter
 */
export class TruePeak {
  /** The end of the block before; in front of the signal it is silent. */
  private held = new Float64Array(TAPS - 1);
  private room = new Float64Array(0);
  /** Of each group: the sum of its samples, and of their squares. */
  private sums = new Float64Array(0);
  private energies = new Float64Array(0);
  peak = 0;

  /** @returns the largest sample of these */
  push(samples: Float64Array): number {
    const kept = this.held.length;
    const length = kept + samples.length;
    if (this.room.length < length) {
      this.room = new Float64Array(length);
      this.energies = new Float64Array(Math.ceil(length / GROUP) + TOUCHED);
      this.sums = new Float64Array(this.energies.length);
    }
    const all = this.room.subarray(0, length);
    all.set(this.held);
    all.set(samples, kept);
    const largest = this.sumUp(all);
    this.look(all);
    this.held = all.slice(Math.max(0, length - (TAPS - 1)));
    return largest;
  }

  /** The end of the signal, behind which it is silent. */
  end(): number {
    this.push(new Float64Array(HALF));
    return this.peak;
  }

  private look(samples: Float64Array): void {
    const { sums, energies } = this;
    let peak = this.peak;
    // From here on the taps lie on samples; in a group they start on samples of it.
    for (let start = 0; start + TAPS <= samples.length; start += GROUP) {
      const group = start / GROUP;
      let [sum, energy] = [0, 0];
      for (let i = 0; i < TOUCHED; i += 1) {
        sum += sums[group + i] as number;
        energy += energies[group + i] as number;
      }
      // All taps together weigh 1: what all samples have in common comes through as it is.
      const mean = sum / (TOUCHED * GROUP);
      const size = Math.sqrt(Math.max(0, energy - sum * mean));
      const room = peak - Math.abs(mean);
      // Of two samples in the middle one must be further from the mean than this for anything to come of them.
      const enough = (room - BESIDE_TWO * size) / TWO;
      const last = Math.min(start + GROUP, samples.length - TAPS + 1);
      if (!leaves(samples, start + HALF - 1, last + HALF, mean - enough, mean + enough)) continue;
      for (let k = start; k < last; k += 1) {
        const left = (samples[k + HALF - 1] as number) - mean;
        const right = (samples[k + HALF] as number) - mean;
        if (Math.abs(left) < enough && Math.abs(right) < enough) continue;
        const before = (samples[k + HALF - 2] as number) - mean;
        const after = (samples[k + HALF + 1] as number) - mean;
        for (const taps of FILTERS) {
          const middle =
            (taps[HALF - 2] as number) * before +
            (taps[HALF - 1] as number) * left +
            (taps[HALF] as number) * right +
            (taps[HALF + 1] as number) * after;
          if (Math.abs(middle) + BESIDE_FOUR * size <= room) continue;
          let between = 0;
          for (let i = 0; i < TAPS; i += 1) between += (taps[i] as number) * (samples[k + i] as number);
          if (Math.abs(between) > peak) peak = Math.abs(between);
        }
      }
    }
    this.peak = peak;
  }

  /** The sum of each group and of its squares; the largest sample. Written out for eight samples, which is faster. */
  private sumUp(samples: Float64Array): number {
    const { sums, energies } = this;
    let largest = 0;
    const whole = Math.floor(samples.length / GROUP);
    for (let group = 0, k = 0; group < whole; group += 1, k += GROUP) {
      const a = samples[k] as number;
      const b = samples[k + 1] as number;
      const c = samples[k + 2] as number;
      const d = samples[k + 3] as number;
      const e = samples[k + 4] as number;
      const f = samples[k + 5] as number;
      const g = samples[k + 6] as number;
      const h = samples[k + 7] as number;
      sums[group] = a + b + (c + d) + (e + f + (g + h));
      const energy = a * a + b * b + (c * c + d * d) + (e * e + f * f + (g * g + h * h));
      energies[group] = energy;
      // None is larger than the root of all squares together.
      if (energy <= largest * largest) continue;
      for (let i = k; i < k + GROUP; i += 1) {
        const size = Math.abs(samples[i] as number);
        if (size > largest) largest = size;
      }
    }
    sums.fill(0, whole);
    energies.fill(0, whole);
    for (let k = whole * GROUP; k < samples.length; k += 1) {
      const sample = samples[k] as number;
      sums[whole] = (sums[whole] as number) + sample;
      energies[whole] = (energies[whole] as number) + sample * sample;
      largest = Math.max(largest, Math.abs(sample));
    }
    if (largest > this.peak) this.peak = largest;
    return largest;
  }
}
