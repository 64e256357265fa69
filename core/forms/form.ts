import type { Corrections, FormSettings, Measurand, ReadingPart } from '../model/parts.ts';
import type { DIRECTIONS } from '../model/words.ts';
import type { Counted, NamedInterval } from '../summary/counted.ts';

/** A way to set a value right after it was read. */
export type CorrectionKind = keyof Corrections;

/** What a form needs to know of its measurand. */
export type FormContext = Pick<Measurand, 'unit' | 'settings'>;

/** One thing that a form can be told in the plan, such as the rows of a grid. */
export type FormSetting = {
  name: string;
  label: string;
  help?: string;
  /** Whether it matters with the others as they are; always when left out. */
  when?: (settings: FormSettings) => boolean;
  /** Another choice makes another quantity of the reading, for which direction, margin and limits do not hold. */
  changesMeaning?: true;
} & (
  | { kind: 'whole'; fallback: number; low: number; high: number }
  | { kind: 'number'; fallback: number; unit: (settings: FormSettings) => string }
  | { kind: 'choice'; fallback: string; options: readonly { value: string; label: string; help?: string }[] }
  | { kind: 'yes'; fallback: boolean }
  | { kind: 'unit'; fallback: string }
  | { kind: 'lines'; fallback: readonly string[]; fewest: number }
);

/** One number (or word) that the bench asks for. */
export interface AskedPart {
  name: string;
  label: string;
  unit: string;
  /** May be left empty. */
  optional?: true;
  /** Comes with the value from a file: nobody is asked for it. */
  made?: true;
  /** Words and no number. */
  words?: true;
}

/** The widget that takes the parts; the bench has one for each. */
export type EntryKind = 'number' | 'numbers' | 'tally' | 'clock' | 'cells' | 'marks' | 'trace' | 'recording';

export type ReadParts = { parts: ReadingPart[] } | { problem: string; part: string };
export type PartTexts = Readonly<Record<string, string | undefined>>;

/** How one reading is taken and what value comes of it. One file each; the folder's index lists them once. */
export interface ReadingForm {
  name: string;
  label: string;
  /** When it suits, in a few words. */
  help: string;
  entry: EntryKind;
  /** Which direction is better unless the tester says otherwise; “unranked” where that is not evident. */
  direction: (typeof DIRECTIONS)[number];
  /** The same where it depends on what the settings make of the reading. */
  directionOf?: (settings: FormSettings) => (typeof DIRECTIONS)[number];
  /** Unit of a new measurand of this form; the tester may have another where the form does not fix it. */
  unit: string;
  settings: readonly FormSetting[];
  /** The unit of the value where the form fixes it whatever the parts are in: “%” of a yield. */
  valueUnit?: (settings: FormSettings) => string | undefined;
  /** How levels are averaged: by energy where the value is in decibels. */
  average?: 'energy';
  /** Values are ordered marks: only tests by rank make sense. */
  ranksOnly?: true;
  /** Values are errors: items are ranked by their size, since signed ones would cancel. */
  rankedBySize?: true;
  /** Values are per cent of what was put in, so that none can be over 100. */
  isYield?: true;
  /** The part that is filled in with a part of the reading before, where the settings say so. */
  filledFrom?: (settings: FormSettings) => { part: string; before: string } | undefined;
  /** How the value can be set right after it was read; not at all when left out. */
  corrects?: readonly CorrectionKind[];
  /** What one reading is likely to take, seconds. */
  typicalS: (context: FormContext) => number;
  /** The parts that the bench asks for, in order. */
  parts: (context: FormContext) => readonly AskedPart[];
  /**
   * Understands what was typed, part by part.
   * @throws never; what is not understood comes back as a sentence and the part's name
   */
  read: (texts: PartTexts, context: FormContext) => ReadParts;
  /** The reading's value from its parts, in the value's unit; null where a part is missing. */
  value: (parts: readonly ReadingPart[], context: FormContext) => number | null;
  /** What looks odd about the parts themselves, in one sentence: a yield over 100 %, a second release below the first. */
  doubt?: (parts: readonly ReadingPart[], context: FormContext) => string | undefined;
  /** The rows and columns of places that one reading covers; its parts are named row by row (`cellName`). */
  cells?: (settings: FormSettings) => { rows: number; columns: number };
  /** What a trusted instrument said, in the unit of the value; null where the value is not told in its unit. */
  reference?: (parts: readonly ReadingPart[], settings: FormSettings) => number | null;
  /** The same reading told in another way beside its value: the relative error of an error. */
  also?: (
    parts: readonly ReadingPart[],
    context: FormContext,
  ) => { number: number; unit: string } | undefined;
  /** The settings that a value is worked out from a file with, as one text: a value from others does not count. */
  how?: (settings: FormSettings) => string;
  /** What is wrong with the settings taken together. */
  wrongSettings?: (settings: FormSettings) => { name: string; message: string } | undefined;
  /** An interval for this one reading that came with it, and what it is called: that of a fit. */
  interval?: (parts: readonly ReadingPart[]) => NamedInterval | undefined;
  /** What some readings of an item counted together, where they count something; undefined where they do not. */
  counted?: (readings: readonly (readonly ReadingPart[])[], context: FormContext) => Counted | undefined;
}
