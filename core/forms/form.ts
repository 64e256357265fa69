import type { Measurand, ReadingPart } from '../model/parts.ts';

export type FormContext = Pick<Measurand, 'unit'>;

/** How one reading is taken and what value comes of it. One file each; the folder's index lists them once. */
export interface ReadingForm {
  name: string;
  label: string;
  /** The parts that the bench asks for, in order. */
  parts: readonly { name: string; label: string }[];
  /**
   * Understands what was typed, part by part.
   * @throws never; what is not understood comes back as a sentence and the part's name
   */
  read(
    texts: Readonly<Record<string, string>>,
    measurand: FormContext,
  ): { parts: ReadingPart[] } | { problem: string; part: string };
  /** The reading's value from its parts, in the measurand's unit; null where a part is missing. */
  value(parts: readonly ReadingPart[]): number | null;
}
