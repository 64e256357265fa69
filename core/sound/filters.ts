import { type Band, BandFilter } from './bands.ts';
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

/** The filters of a channel, one after the other; they go on from block to block. */
export class Filters {
  private readonly filters: readonly { filter: (samples: Float64Array) => void }[];
  private room = new Float64Array(0);

  /** @throws RangeError where the sample rate is too low for the band */
  constructor({ weighting, band }: SoundFilters, sampleRate: number) {
    this.filters = [
      ...(weighting === 'Z' ? [] : [new WeightingFilter(weighting, sampleRate)]),
      ...(band === undefined ? [] : [new BandFilter(band, sampleRate)]),
    ];
  }

  /** @returns the samples filtered, which the next call overwrites; those that were given stay */
  filtered(samples: Float64Array): Float64Array {
    if (this.filters.length === 0) return samples;
    if (this.room.length < samples.length) this.room = new Float64Array(samples.length);
    const room = this.room.subarray(0, samples.length);
    room.set(samples);
    for (const filter of this.filters) filter.filter(room);
    return room;
  }
}
