import { quantile, sorted } from '../summary/quantile.ts';
import { Filters, type SoundFilters } from './filters.ts';
import { TruePeak } from './true-peak.ts';

/** Time weightings of a sound level meter, s. */
const [FAST_S, SLOW_S] = [0.125, 1];
/** The fast level is looked at so often for what it is exceeded by, s. */
const LOOK_S = 0.1;
/** The running levels follow the mean square of so many samples at a time: at 8 kHz of 2 ms, which is 0.04 dB at most. */
const STEP = 16;
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
  private readonly filters: Filters;
  private readonly peaks = new TruePeak();
  private readonly looks: number[] = [];
  private readonly fastStep: number;
  private readonly slowStep: number;
  private readonly lookEvery: number;
  private n = 0;
  private nextLook: number;
  private squares = 0;
  /** Of the samples since the running levels went on. */
  private stepSquares = 0;
  private weightedPeak = 0;
  private samplePeak = 0;
  private fast = 0;
  private slow = 0;
  private highestFast = 0;
  private highestSlow = 0;
  private run = 0;
  private clipped = 0;

  constructor(
    filters: SoundFilters,
    private readonly sampleRate: number,
  ) {
    this.filters = new Filters(filters, sampleRate);
    this.fastStep = 1 - Math.exp(-STEP / (sampleRate * FAST_S));
    this.slowStep = 1 - Math.exp(-STEP / (sampleRate * SLOW_S));
    this.lookEvery = Math.max(STEP, LOOK_S * sampleRate);
    this.nextLook = this.lookEvery;
  }

  /** @param samples from −1 to 1; they are not changed */
  push(samples: Float64Array): void {
    const largest = this.peaks.push(samples);
    if (largest > this.samplePeak) this.samplePeak = largest;
    if (largest < FULL) this.run = 0;
    else this.countClipped(samples);
    this.follow(this.filters.filtered(samples));
  }

  /** How many samples are clipped. */
  private countClipped(samples: Float64Array): void {
    for (const sample of samples) {
      if (Math.abs(sample) < FULL) this.run = 0;
      else {
        this.run += 1;
        if (this.run >= CLIPPED_RUN) this.clipped += this.run === CLIPPED_RUN ? CLIPPED_RUN : 1;
      }
    }
  }

  /** Sums up the energy, and goes on with the running levels a step at a time. */
  private follow(weighted: Float64Array): void {
    let peak = this.weightedPeak;
    for (let from = 0; from < weighted.length;) {
      const to = Math.min(weighted.length, from + STEP - (this.n % STEP));
      let squares = 0;
      for (let k = from; k < to; k += 1) {
        const sample = weighted[k] as number;
        const square = sample * sample;
        squares += square;
        if (square > peak) peak = square;
      }
      this.squares += squares;
      this.stepSquares += squares;
      this.n += to - from;
      from = to;
      if (this.n % STEP === 0) this.step();
    }
    this.weightedPeak = peak;
  }

  private step(): void {
    const square = this.stepSquares / STEP;
    this.stepSquares = 0;
    this.fast += this.fastStep * (square - this.fast);
    this.slow += this.slowStep * (square - this.slow);
    if (this.fast > this.highestFast) this.highestFast = this.fast;
    if (this.slow > this.highestSlow) this.highestSlow = this.slow;
    if (this.n < this.nextLook) return;
    this.looks.push(this.fast);
    this.nextLook += this.lookEvery;
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
