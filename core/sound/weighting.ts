import { turningPoint } from '../distributions/halving.ts';
import { RunningFilter } from './running-filter.ts';
import { type Section, gainOf } from './sections.ts';

/** How the ear, or a rule, weighs frequencies: A, C, or not at all. */
export const WEIGHTINGS = ['A', 'C', 'Z'] as const;
export type Weighting = (typeof WEIGHTINGS)[number];

/** Poles of the A and C curves, Hz. */
const [LOW, A_FIRST, A_SECOND, HIGH] = [20.598997, 107.65265, 737.86223, 12194.217];
const REFERENCE_HZ = 1000;

/** A first-order section: y = b0·x + b1·x₋₁ + p·y₋₁. */
interface Half {
  b0: number;
  b1: number;
  p: number;
}

/** s/(s + ω) by the bilinear transform, with the pole where it is. */
function highPass(hz: number, sampleRate: number): Half {
  const k = Math.tan((Math.PI * hz) / sampleRate);
  const b0 = 1 / (1 + k);
  return { b0, b1: -b0, p: (1 - k) / (1 + k) };
}

const asSection = ({ b0, b1, p }: Half): Section => ({ b0, b1, b2: 0, a1: -p, a2: 0 });

/**
 * ω/(s + ω), exact at 0 Hz, at half the sample rate, where the bilinear transform would give 0, and at its pole or, where
 * that lies too high, at a third of the sample rate.
 */
function lowPass(hz: number, sampleRate: number): Half {
  const analog = (there: number) => 1 / Math.sqrt(1 + (there / hz) ** 2);
  const top = analog(sampleRate / 2);
  const between = Math.min(hz, sampleRate / 3);
  const halfOf = (p: number): Half => {
    const [sum, difference] = [1 - p, (1 + p) * top];
    return { b0: (sum + difference) / 2, b1: (sum - difference) / 2, p };
  };
  // The larger the pole, the lower the size between.
  const isTooHigh = (p: number) => gainOf([asSection(halfOf(p))], between, sampleRate) > analog(between);
  return halfOf(turningPoint(-0.999, 0.999, isTooHigh));
}

/** The sections of a curve: those for low and for high frequencies are there twice, what is in the middle is in A alone. */
interface Curve {
  low: Half;
  middle: [Half, Half] | [];
  high: Half;
}

const curveOf = (weighting: 'A' | 'C', sampleRate: number): Curve => ({
  low: highPass(LOW, sampleRate),
  middle: weighting === 'C' ? [] : [highPass(A_FIRST, sampleRate), highPass(A_SECOND, sampleRate)],
  high: lowPass(HIGH, sampleRate),
});

const halvesOf = ({ low, middle, high }: Curve): Half[] => [low, low, ...middle, high, high];

/** The curve as the kernel has it: each section begins with 1 there, and those for low frequencies take off the sample before. */
function runningOf(weighting: 'A' | 'C', curve: Curve, scale: number): RunningFilter {
  const { low, middle, high } = curve;
  const [first = low, second = low] = middle;
  return new RunningFilter(
    weighting === 'A' ? 'weighA' : 'weighC',
    [low.p, first.p, second.p, high.b1 / high.b0, high.p],
    halvesOf(curve).reduce((product, { b0 }) => product * b0, scale),
  );
}

/**
 * A digital filter with the A or C curve of IEC 61672-1, 0 dB at 1 kHz; Z lets everything through.
 * @source poles of IEC 61672-1:2013, annex E (from memory); at 44.1 kHz and above within
 * 0.4 dB of its table up to 12.5 kHz and 1.2 dB up to 20 kHz, where class 1 allows 1.5 dB and more
 */
export class WeightingFilter {
  private readonly sections: readonly Section[];
  private readonly scale: number;
  readonly running: RunningFilter;

  constructor(
    weighting: 'A' | 'C',
    private readonly sampleRate: number,
  ) {
    const curve = curveOf(weighting, sampleRate);
    this.sections = halvesOf(curve).map(asSection);
    this.scale = 1 / gainOf(this.sections, REFERENCE_HZ, sampleRate);
    this.running = runningOf(weighting, curve, this.scale);
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
