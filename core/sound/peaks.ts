import { decibels } from './decibels.ts';
import { TruePeak } from './true-peak.ts';

/** So many samples in a row at full scale are clipped. */
const CLIPPED_RUN = 2;
const FULL = 1 - 2 ** -15;

/** What of one channel is largest, unfiltered; dB relative to a sample of 1, −Infinity where it is silent. */
export interface Peaks {
  /** The largest sample, and the largest value between samples too. */
  samplePeak: number;
  truePeak: number;
  /** Samples in runs at full scale. */
  clipped: number;
}

/** Looks for the largest sample, for more between samples, and for clipped ones. */
export class PeakFinder {
  private readonly between = new TruePeak();
  private largest = 0;
  private run = 0;
  private clipped = 0;

  push(samples: Float64Array): void {
    const largest = this.between.push(samples);
    if (largest > this.largest) this.largest = largest;
    if (largest < FULL) this.run = 0;
    else this.countClipped(samples);
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

  /** What all that came has largest; nothing comes after it. */
  peaks(): Peaks {
    return {
      samplePeak: decibels(this.largest ** 2),
      truePeak: decibels(this.between.end() ** 2),
      clipped: this.clipped,
    };
  }
}
