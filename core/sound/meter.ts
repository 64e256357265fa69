import { Filters, type SoundFilters } from './filters.ts';
import { MOST, someOf } from './kernel/kernel.ts';
import { PeakFinder, type Peaks } from './peaks.ts';
import { type Levels, RunningLevels } from './running-levels.ts';

/** Levels of one channel. */
export interface SoundLevels extends Levels, Peaks {}

const LANES = 2;

/** Levels of channels, which are filtered two at a time. */
export class LevelMeter {
  private readonly filters: readonly Filters[];
  private readonly running: readonly RunningLevels[];

  /** @throws RangeError where the sample rate is too low for the band */
  constructor(
    filters: SoundFilters,
    sampleRate: number,
    private readonly channels: number,
  ) {
    const pairs = Math.ceil(channels / LANES);
    this.filters = Array.from({ length: pairs }, () => new Filters(filters, sampleRate));
    this.running = this.filters.map(() => new RunningLevels(sampleRate));
  }

  /** @param blocks from −1 to 1, of equal length, one for each channel; they are not changed */
  push(blocks: readonly Float64Array[]): void {
    const length = blocks[0]?.length as number;
    for (let from = 0; from < length; from += MOST) {
      this.filters.forEach((filters, pair) => {
        const first = LANES * pair;
        const two = blocks.slice(first, first + LANES).map((block) => someOf(block, from, MOST));
        this.running[pair]?.push(filters.filtered(two));
      });
    }
  }

  found(): Levels[] {
    return this.running.flatMap((running) => [running.levels(0), running.levels(1)]).slice(0, this.channels);
  }
}

/** Levels and peaks of some channels, whose samples come little by little. */
export class SoundMeter {
  private readonly levels: LevelMeter;
  private readonly peaks: readonly PeakFinder[];

  /** @throws RangeError where the sample rate is too low for the band */
  constructor(filters: SoundFilters, sampleRate: number, channels: number) {
    this.levels = new LevelMeter(filters, sampleRate, channels);
    this.peaks = Array.from({ length: channels }, () => new PeakFinder());
  }

  /** @param blocks from −1 to 1, of equal length, one for each channel; they are not changed */
  push(blocks: readonly Float64Array[]): void {
    this.levels.push(blocks);
    this.peaks.forEach((finder, channel) => {
      finder.push(blocks[channel] as Float64Array);
    });
  }

  /** What was found of each channel. */
  found(): SoundLevels[] {
    return this.levels
      .found()
      .map((levels, channel) => ({ ...levels, ...(this.peaks[channel] as PeakFinder).peaks() }));
  }
}
