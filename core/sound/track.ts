import { Filters, type SoundFilters } from './filters.ts';
import { MOST } from './kernel/kernel.ts';

/** Time from one level of a track to the next, s. */
export const TRACK_STEP_S = 0.01;
/** What counts as silence, dB relative to full scale. */
const FLOOR = -120;

/** How loud a recording is from moment to moment: a level for each hundredth of a second. */
export class TrackMeter {
  private readonly filters: Filters;
  private readonly levels: Float32Array;
  private n = 0;
  private place = 0;
  private squares = 0;
  private count = 0;

  /** @param frames of the whole recording */
  constructor(
    filters: SoundFilters,
    private readonly sampleRate: number,
    frames: number,
  ) {
    this.filters = new Filters(filters, sampleRate);
    this.levels = new Float32Array(Math.max(1, Math.floor(frames / sampleRate / TRACK_STEP_S))).fill(FLOOR);
  }

  push(samples: Float64Array): void {
    for (let from = 0; from < samples.length; from += MOST)
      this.pushSome(samples.subarray(from, from + MOST));
  }

  private pushSome(samples: Float64Array): void {
    const woven = this.filters.filtered([samples]);
    for (let from = 0; from < samples.length;) {
      const end = Math.round((this.place + 1) * TRACK_STEP_S * this.sampleRate);
      const to = Math.min(samples.length, from + end - this.n);
      for (let k = from; k < to; k += 1) this.squares += (woven[2 * k] as number) ** 2;
      this.count += to - from;
      this.n += to - from;
      from = to;
      if (this.n === end) this.step();
    }
  }

  private step(): void {
    // What would lie behind the last is let go of.
    this.levels[this.place] = Math.max(FLOOR, 10 * Math.log10(this.squares / this.count));
    this.place += 1;
    this.squares = 0;
    this.count = 0;
  }

  /** Levels in dB relative to full scale. */
  track(): Float32Array {
    return this.levels;
  }
}
