import type { RunningFilter } from './running-filter.ts';
import { type Section, gainOf, sectionFilter } from './sections.ts';

/** Names of the thirds of an octave, Hz; each stands for an exact one beside it. */
export const BANDS = [
  ...['25', '31.5', '40', '50', '63', '80', '100', '125', '160', '200', '250', '315', '400', '500', '630'],
  ...['800', '1000', '1250', '1600', '2000', '2500', '3150', '4000', '5000', '6300', '8000', '10000'],
  ...['12500', '16000', '20000'],
] as const;
export type Band = (typeof BANDS)[number];

/**
 * Centre of a band, Hz.
 * @source IEC 61260-1:2014, clause 5 (from memory): 1000·10^(n/10)
 */
export const centreOf = (band: Band): number =>
  1000 * 10 ** (Math.round(10 * Math.log10(Number(band) / 1000)) / 10);

/** The two ends of a band, Hz: a twentieth of a decade to either side. */
export const edgesOf = (band: Band): [low: number, high: number] => [
  centreOf(band) * 10 ** -0.05,
  centreOf(band) * 10 ** 0.05,
];

/** Whether the whole of a band is in what was sampled so often. */
export const holdsBand = (band: Band, sampleRate: number): boolean => edgesOf(band)[1] < 0.48 * sampleRate;

/** A pole of the analog filter, and its partner below the axis, by the bilinear transform; zeros at 0 Hz and at half the rate. */
function sectionOf(re: number, im: number): Section {
  // z = (1 + s)/(1 − s)
  const below = (1 - re) ** 2 + im ** 2;
  const [zRe, zIm] = [(1 - re * re - im * im) / below, (2 * im) / below];
  return { b0: 1, b1: 0, b2: -1, a1: -2 * zRe, a2: zRe * zRe + zIm * zIm };
}

/** The square root of a complex number, with its real part above 0. */
function root(re: number, im: number): [number, number] {
  const size = Math.hypot(re, im);
  const [a, b] = [Math.sqrt((size + re) / 2), Math.sqrt((size - re) / 2)];
  return [a, im < 0 ? -b : b];
}

/**
 * Butterworth's band pass of the sixth order between two frequencies.
 * @source Butterworth 1930; the bilinear transform with both ends put where they are; checked with SciPy
 */
function bandSections(low: number, high: number, sampleRate: number): Section[] {
  const [first, last] = [low, high].map((hz) => Math.tan((Math.PI * hz) / sampleRate)) as [number, number];
  const [width, square] = [last - first, first * last];
  // Each pole p of the low pass becomes the two solutions of s² − p·width·s + square = 0.
  const [pRe, pIm] = [-0.5, Math.sqrt(0.75)];
  const [bRe, bIm] = [pRe * width, pIm * width];
  const [dRe, dIm] = root(bRe * bRe - bIm * bIm - 4 * square, 2 * bRe * bIm);
  return [
    sectionOf(-width / 2, Math.sqrt(Math.max(0, square - (width * width) / 4))),
    sectionOf((bRe + dRe) / 2, (bIm + dIm) / 2),
    sectionOf((bRe - dRe) / 2, (bIm - dIm) / 2),
  ];
}

/**
 * Lets a third of an octave through, 0 dB at its centre and −3 dB at its ends.
 * @source IEC 61260-1:2014 (from memory): within the limits of class 1, below it by up to 12 dB on the lower side where the
 * centre is above a quarter of the sample rate
 * @throws RangeError where the sample rate is too low for the band
 */
export class BandFilter {
  private readonly sections: readonly Section[];
  private readonly scale: number;
  readonly running: RunningFilter;

  constructor(
    band: Band,
    private readonly sampleRate: number,
  ) {
    if (!holdsBand(band, sampleRate)) throw new RangeError(`No band of ${band} Hz at this sample rate.`);
    this.sections = bandSections(...edgesOf(band), sampleRate);
    this.scale = 1 / gainOf(this.sections, centreOf(band), sampleRate);
    this.running = sectionFilter(this.sections, this.scale);
  }

  /** How much of a sine of a frequency comes through, dB. */
  decibelsAt(hz: number): number {
    return 20 * Math.log10(this.scale * gainOf(this.sections, hz, this.sampleRate));
  }

  /** Filters samples in place, going on from the block before. */
  filter(samples: Float64Array): void {
    this.running.filter(samples);
  }
}
