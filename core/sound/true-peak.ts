/** Samples between two of the file, and taps of the filter that finds them. */
const PHASES = 4;
const TAPS = 24;
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
/** What lies between samples is at most so many times the largest of those around it. */
const MOST_GAIN = Math.max(...FILTERS.map((taps) => taps.reduce((sum, tap) => sum + Math.abs(tap), 0)));

/**
 * The largest size of a signal between its samples too, at four times the sample rate.
 * @source the idea of ITU-R BS.1770-4, annex 2, with a longer filter
 */
export class TruePeak {
  /** The end of the block before; in front of the signal it is silent. */
  private held = new Float64Array(TAPS - 1);
  peak = 0;

  push(samples: Float64Array): void {
    const all = new Float64Array(this.held.length + samples.length);
    all.set(this.held);
    all.set(samples, this.held.length);
    this.look(all);
    this.held = all.slice(Math.max(0, all.length - (TAPS - 1)));
  }

  /** The end of the signal, behind which it is silent. */
  end(): number {
    this.push(new Float64Array(HALF));
    return this.peak;
  }

  private look(samples: Float64Array): void {
    for (let k = 0; k < samples.length; k += 1)
      this.peak = Math.max(this.peak, Math.abs(samples[k] as number));
    // Nothing between quiet samples can be louder than what there was.
    const enough = this.peak / MOST_GAIN;
    let loudUntil = -1;
    for (let k = 0; k < samples.length; k += 1) {
      if (Math.abs(samples[k] as number) > enough) loudUntil = k + TAPS;
      if (k >= loudUntil || k < TAPS - 1) continue;
      const start = k - (TAPS - 1);
      for (const taps of FILTERS) {
        let sum = 0;
        for (let i = 0; i < TAPS; i += 1) sum += (taps[i] as number) * (samples[start + i] as number);
        if (Math.abs(sum) > this.peak) this.peak = Math.abs(sum);
      }
    }
  }
}
