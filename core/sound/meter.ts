import { Filters, type SoundFilters } from './filters.ts';
import { MOST } from './kernel/kernel.ts';
import { PeakFinder, type Peaks } from './peaks.ts';
import { type Levels, RunningLevels } from './running-levels.ts';

/** Levels of one channel. */
export interface SoundLevels extends Levels, Peaks {}

/** Takes the samples of some channels as they come, from −1 to 1, and says what it found of each at the end. */
export interface Meter<Found> {
  /** @param blocks of equal length, one for each channel; they are not changed */
  push: (blocks: readonly Float64Array[]) => void;
  found: () => Found[];
}

const LANES = 2;

/** Levels of channels, which are filtered two at a time. */
export class LevelMeter implements Meter<Levels> {
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

  push(blocks: readonly Float64Array[]): void {
    const length = blocks[0]?.length ?? 0;
    for (let from = 0; from < length; from += MOST) {
      this.filters.forEach((filters, pair) => {
        const first = LANES * pair;
        const two = blocks.slice(first, first + LANES).map((block) => block.subarray(from, from + MOST));
        this.running[pair]?.push(filters.filtered(two));
      });
    }
  }

  found(): Levels[] {
    return this.running.flatMap((running) => [running.levels(0), running.levels(1)]).slice(0, this.channels);
  }
}

/** Peaks of channels, and what is clipped. */
export class PeakMeter implements Meter<Peaks> {
  private readonly finders: readonly PeakFinder[];

  constructor(channels: number) {
    this.finders = Array.from({ length: channels }, () => new PeakFinder());
  }

  push(blocks: readonly Float64Array[]): void {
    this.finders.forEach((finder, channel) => {
      finder.push(blocks[channel] as Float64Array);
    });
  }

  found(): Peaks[] {
    return this.finders.map((finder) => finder.peaks());
  }
}

/** Both. */
export class SoundMeter implements Meter<SoundLevels> {
  private readonly levels: LevelMeter;
  private readonly peaks: PeakMeter;

  /** @throws RangeError where the sample rate is too low for the band */
  constructor(filters: SoundFilters, sampleRate: number, channels: number) {
    this.levels = new LevelMeter(filters, sampleRate, channels);
    this.peaks = new PeakMeter(channels);
  }

  push(blocks: readonly Float64Array[]): void {
    this.levels.push(blocks);
    this.peaks.push(blocks);
  }

  found(): SoundLevels[] {
    const peaks = this.peaks.found();
    return this.levels.found().map((levels, channel) => ({ ...levels, ...(peaks[channel] as Peaks) }));
  }
}
