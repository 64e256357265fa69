import { type Band, BandFilter } from './bands.ts';
import { kernel, someOf } from './kernel/kernel.ts';
import type { RunningFilter } from './running-filter.ts';
import { type Weighting, WeightingFilter } from './weighting.ts';

/** What of a sound is measured. */
export interface SoundFilters {
  weighting: Weighting;
  /** A third of an octave; all of the sound where undefined. */
  band?: Band | undefined;
}

/** Filters in a word, by which two of them are known as the same. */
export const filtersText = ({ weighting, band }: SoundFilters): string =>
  band === undefined ? weighting : `${weighting} ${band}`;

/** The filters of one or two channels, one after the other; they go on from block to block. */
export class Filters {
  private readonly filters: readonly RunningFilter[];

  /** @throws RangeError where the sample rate is too low for the band */
  constructor({ weighting, band }: SoundFilters, sampleRate: number) {
    this.filters = [
      ...(weighting === 'Z' ? [] : [new WeightingFilter(weighting, sampleRate).running]),
      ...(band === undefined ? [] : [new BandFilter(band, sampleRate).running]),
    ];
  }

  /**
   * @param blocks of one channel or two, at most `MOST` samples; they stay
   * @returns the samples of two channels beside each other, filtered, in the kernel’s room for this
   */
  filtered(blocks: readonly Float64Array[]): Float64Array {
    const { work, weaveIn } = kernel();
    const length = blocks[0]?.length as number;
    const [first, ...others] = this.filters;
    if (first) first.filterIn(blocks);
    else weaveIn(blocks);
    for (const filter of others) filter.filterAgain(length);
    return someOf(work, 0, 2 * length);
  }
}
