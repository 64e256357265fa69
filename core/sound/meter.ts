import { quantile, sorted } from '../summary/quantile.ts';
import { TruePeak } from './true-peak.ts';
import { type Weighting, WeightingFilter } from './weighting.ts';

/** Time weightings of a sound level meter, s. */
const [FAST_S, SLOW_S] = [0.125, 1];
/** The fast level is looked at so often for what it is exceeded by, s. */
const LOOK_S = 0.1;
/** So many samples in a row at full scale are clipped. */
const CLIPPED_RUN = 2;
const FULL = 1 - 2 ** -15;

/** Levels of one channel, dB relative to a sample of 1; −Infinity where it is silent. */
export interface SoundLevels {
  seconds: number;
  /** The largest sample, and the largest value between samples too, both unweighted. */
  samplePeak: number;
  truePeak: number;
  /** The largest sample of the weighted signal. */
  weightedPeak: number;
  /** Equivalent level. */
  equivalent: number;
  /** Highest level with the fast and the slow time weighting. */
  highestFast: number;
  highestSlow: number;
  /** Exposure level: all of the energy, as if in one second. */
  exposure: number;
  /** Levels that the fast one exceeds in 10, 50 and 90 per cent of the time. */
  l10: number;
  l50: number;
  l90: number;
  /** Samples in runs at full scale. */
  clipped: number;
}

const decibels = (meanSquare: number): number => 10 * Math.log10(meanSquare);

/**
 * Takes the samples of one channel as they come, and says its levels at the end.
 * @source IEC 61672-1:2013, clauses 3 and 5 (from memory): exponential time weighting, time average, exposure
 */
export class SoundMeter {
  private readonly filter: WeightingFilter;
  private readonly peaks = new TruePeak();
  private readonly looks: number[] = [];
  private readonly fastStep: number;
  private readonly slowStep: number;
  private readonly lookEvery: number;
  private n = 0;
  private squares = 0;
  private weightedPeak = 0;
  private samplePeak = 0;
  private fast = 0;
  private slow = 0;
  private highestFast = 0;
  private highestSlow = 0;
  private run = 0;
  private clipped = 0;

  constructor(
    weighting: Weighting,
    private readonly sampleRate: number,
  ) {
    this.filter = new WeightingFilter(weighting, sampleRate);
    this.fastStep = 1 - Math.exp(-1 / (sampleRate * FAST_S));
    this.slowStep = 1 - Math.exp(-1 / (sampleRate * SLOW_S));
    this.lookEvery = Math.max(1, Math.round(LOOK_S * sampleRate));
  }

  /** @param samples from −1 to 1; they are not changed */
  push(samples: Float64Array): void {
    this.peaks.push(samples);
    this.watch(samples);
    const weighted = samples.slice();
    this.filter.filter(weighted);
    // From one look at the fast level to the next.
    for (let from = 0; from < weighted.length;) {
      const to = Math.min(weighted.length, from + this.lookEvery - (this.n % this.lookEvery));
      this.follow(weighted, from, to);
      this.n += to - from;
      if (this.n % this.lookEvery === 0) this.looks.push(this.fast);
      from = to;
    }
  }

  /** The largest sample, and how many are clipped. */
  private watch(samples: Float64Array): void {
    let peak = this.samplePeak;
    let run = this.run;
    let clipped = this.clipped;
    for (let k = 0; k < samples.length; k += 1) {
      const size = Math.abs(samples[k] as number);
      if (size > peak) peak = size;
      if (size < FULL) run = 0;
      else {
        run += 1;
        if (run >= CLIPPED_RUN) clipped += run === CLIPPED_RUN ? CLIPPED_RUN : 1;
      }
    }
    this.samplePeak = peak;
    this.run = run;
    this.clipped = clipped;
  }

  /** Goes on with the running levels. */
  private follow(weighted: Float64Array, from: number, to: number): void {
    const fastStep = this.fastStep;
    const slowStep = this.slowStep;
    let fast = this.fast;
    let slow = this.slow;
    let squares = 0;
    let peak = this.weightedPeak;
    let highestFast = this.highestFast;
    let highestSlow = this.highestSlow;
    for (let k = from; k < to; k += 1) {
      const sample = weighted[k] as number;
      const square = sample * sample;
      squares += square;
      fast += fastStep * (square - fast);
      slow += slowStep * (square - slow);
      if (fast > highestFast) highestFast = fast;
      if (slow > highestSlow) highestSlow = slow;
      if (square > peak) peak = square;
    }
    this.fast = fast;
    this.slow = slow;
    this.squares += squares;
    this.weightedPeak = peak;
    this.highestFast = highestFast;
    this.highestSlow = highestSlow;
  }

  /** The levels of all that came. */
  levels(): SoundLevels {
    const { n, sampleRate, squares, highestFast, highestSlow, weightedPeak, samplePeak, clipped } = this;
    const seconds = n / sampleRate;
    const looks = sorted(this.looks);
    const exceeded = (share: number) =>
      decibels(looks.length === 0 ? Number.NaN : quantile(looks, 1 - share));
    return {
      seconds,
      samplePeak: decibels(samplePeak ** 2),
      truePeak: decibels(this.peaks.end() ** 2),
      weightedPeak: decibels(weightedPeak),
      equivalent: decibels(squares / n),
      highestFast: decibels(highestFast),
      highestSlow: decibels(highestSlow),
      exposure: decibels(squares / sampleRate),
      l10: exceeded(0.1),
      l50: exceeded(0.5),
      l90: exceeded(0.9),
      clipped,
    };
  }
}
