import { type Section, SectionFilter, gainOf } from './sections.ts';

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
  // The larger the pole, the lower the size between: found by halving.
  let [low, high] = [-0.999, 0.999];
  for (let step = 0; step < 60; step += 1) {
    const middle = (low + high) / 2;
    if (gainOf([asSection(halfOf(middle))], between, sampleRate) > analog(between)) low = middle;
    else high = middle;
  }
  return halfOf((low + high) / 2);
}

/** Two first-order sections, one after the other. */
const together = (first: Half, second: Half): Section => ({
  b0: first.b0 * second.b0,
  b1: first.b0 * second.b1 + first.b1 * second.b0,
  b2: first.b1 * second.b1,
  a1: -(first.p + second.p),
  a2: first.p * second.p,
});

function sectionsOf(weighting: Weighting, sampleRate: number): Section[] {
  if (weighting === 'Z') return [];
  const [low, high] = [highPass(LOW, sampleRate), lowPass(HIGH, sampleRate)];
  const shared = [together(low, low), together(high, high)];
  if (weighting === 'C') return shared;
  return [...shared, together(highPass(A_FIRST, sampleRate), highPass(A_SECOND, sampleRate))];
}

/**
 * A digital filter with the A or C curve of IEC 61672-1, 0 dB at 1 kHz; Z lets everything through.
 * @source poles of IEC 61672-1:2013, annex E (from memory); at 44.1 kHz and above within
 * 0.4 dB of its table up to 12.5 kHz and 1.2 dB up to 20 kHz, where class 1 allows 1.5 dB and more
 */
export class WeightingFilter {
  private readonly sections: readonly Section[];
  private readonly scale: number;
  readonly running: SectionFilter;

  constructor(
    weighting: Weighting,
    private readonly sampleRate: number,
  ) {
    this.sections = sectionsOf(weighting, sampleRate);
    this.scale = 1 / gainOf(this.sections, REFERENCE_HZ, sampleRate);
    this.running = new SectionFilter(this.sections, this.scale);
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
