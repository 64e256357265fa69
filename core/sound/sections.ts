import { RunningFilter } from './running-filter.ts';

/** A second-order section: y = b0·x + b1·x₋₁ + b2·x₋₂ − a1·y₋₁ − a2·y₋₂. */
export interface Section {
  b0: number;
  b1: number;
  b2: number;
  a1: number;
  a2: number;
}

/** A filter runs so many sections at once; one with fewer has some that let everything through. */
const MOST_SECTIONS = 3;
const THROUGH: Section = { b0: 1, b1: 0, b2: 0, a1: 0, a2: 0 };

/** The size of a section at a frequency. */
export function sizeAt({ b0, b1, b2, a1, a2 }: Section, hz: number, sampleRate: number): number {
  const w = (2 * Math.PI * hz) / sampleRate;
  const above = Math.hypot(
    b0 + b1 * Math.cos(w) + b2 * Math.cos(2 * w),
    b1 * Math.sin(w) + b2 * Math.sin(2 * w),
  );
  return (
    above / Math.hypot(1 + a1 * Math.cos(w) + a2 * Math.cos(2 * w), a1 * Math.sin(w) + a2 * Math.sin(2 * w))
  );
}

/** What sections make of a sine of unit size. */
export const gainOf = (sections: readonly Section[], hz: number, sampleRate: number): number =>
  sections.reduce((gain, section) => gain * sizeAt(section, hz, sampleRate), 1);

/** Up to three second-order sections one after the other, behind what samples are multiplied by. */
export function sectionFilter(sections: readonly Section[], scale: number): RunningFilter {
  if (sections.length > MOST_SECTIONS)
    throw new RangeError(`At most ${String(MOST_SECTIONS)} sections run at once.`);
  const all = [...sections, THROUGH, THROUGH, THROUGH].slice(0, MOST_SECTIONS);
  // What all begin with is taken out, so that each begins with 1.
  return new RunningFilter(
    'sections',
    all.flatMap(({ b0, b1, b2, a1, a2 }) => [b1 / b0, b2 / b0, a1, a2]),
    all.reduce((product, { b0 }) => product * b0, scale),
  );
}
