import { quantile, sorted } from '../summary/quantile.ts';
import { decibels } from './decibels.ts';
import { STEP, forgetTraces, kernel } from './kernel/kernel.ts';

/** Time weightings of a sound level meter, s. */
const [FAST_S, SLOW_S] = [0.125, 1];
/** The fast level is looked at so often for what it is exceeded by, s. */
const LOOK_S = 0.1;
/** Bytes of two samples beside each other. */
const FRAME = 16;

/** Levels of the filtered sound of one channel, dB relative to a sample of 1; −Infinity where it is silent. */
export interface Levels {
  seconds: number;
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
}

/**
 * The energy and the running levels of two channels, once they are filtered.
 * @source IEC 61672-1:2013, clauses 3 and 5 (from memory): exponential time weighting, time average, exposure
 */
export class RunningLevels {
  /** Fast levels of each channel. */
  private readonly looks: [number[], number[]] = [[], []];
  private readonly lookEvery: number;
  /** Frames that came. */
  private n = 0;
  private nextLook: number;
  /** As the kernel has them: shares of a step, running levels, highest ones, sums of squares, largest squares. */
  private readonly running = new Float64Array(2 * 8);
  /** The samples of a step that is begun. */
  private readonly begun = new Float64Array(2 * STEP);

  constructor(private readonly sampleRate: number) {
    const shareOf = (seconds: number) => 1 - Math.exp(-STEP / (sampleRate * seconds));
    this.running.fill(shareOf(FAST_S), 0, 2);
    this.running.fill(shareOf(SLOW_S), 2, 4);
    this.lookEvery = Math.max(STEP, LOOK_S * sampleRate);
    this.nextLook = this.lookEvery;
  }

  /**
   * Goes on with samples of two channels beside each other in the kernel’s memory. The running levels follow the mean square
   * of sixteen samples at a time: at 8 kHz of 2 ms, which is 0.04 dB at most.
   */
  push(woven: Float64Array): void {
    const { step, levels } = kernel();
    levels.set(this.running);
    const frames = woven.length / 2;
    const there = this.n % STEP;
    const missing = there === 0 ? 0 : Math.min(frames, STEP - there);
    if (missing > 0) this.begun.set(woven.subarray(0, 2 * missing), 2 * there);
    if (there > 0 && there + missing === STEP) {
      step.set(this.begun);
      this.n -= there;
      this.steps(step.byteOffset, 1);
    } else this.n += missing;
    const whole = Math.floor((frames - missing) / STEP);
    this.steps(woven.byteOffset + FRAME * missing, whole);
    const rest = frames - missing - whole * STEP;
    if (rest > 0) this.begun.set(woven.subarray(2 * (frames - rest)));
    this.n += rest;
    this.running.set(levels);
    forgetTraces(this.running);
  }

  /** Follows whole steps, and looks at the fast levels in between. */
  private steps(place: number, count: number): void {
    const { levels, follow } = kernel();
    for (let done = 0; done < count;) {
      const some = Math.min(count - done, Math.max(1, Math.ceil((this.nextLook - this.n) / STEP)));
      follow(place + FRAME * STEP * done, some);
      done += some;
      this.n += some * STEP;
      if (this.n < this.nextLook) continue;
      this.looks.forEach((looks, lane) => looks.push(levels[4 + lane] as number));
      this.nextLook += this.lookEvery;
    }
  }

  /** The levels of all that came of the first channel or the second. */
  levels(lane: 0 | 1): Levels {
    const { n, sampleRate } = this;
    const [highestFast = 0, highestSlow = 0, sum = 0, largest = 0] = [8, 10, 12, 14].map(
      (place) => this.running[place + lane],
    );
    const begun = Array.from({ length: n % STEP }, (_, k) => (this.begun[2 * k + lane] as number) ** 2);
    const squares = begun.reduce((all, square) => all + square, sum);
    const looks = sorted(this.looks[lane]);
    const exceeded = (share: number) =>
      decibels(looks.length === 0 ? Number.NaN : quantile(looks, 1 - share));
    return {
      seconds: n / sampleRate,
      weightedPeak: decibels(Math.max(largest, ...begun)),
      equivalent: decibels(squares / n),
      highestFast: decibels(highestFast),
      highestSlow: decibels(highestSlow),
      exposure: decibels(squares / sampleRate),
      l10: exceeded(0.1),
      l50: exceeded(0.5),
      l90: exceeded(0.9),
    };
  }
}
