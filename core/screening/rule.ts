import type { Limits, RuleInForce } from '../model/parts.ts';
import type { Trim } from '../summary/winsorized.ts';

export type RuleName = RuleInForce['name'];

/** In force unless the study says otherwise. */
export const DEFAULT_RULE: RuleInForce = {
  name: 'generalized-esd',
  parameter: null,
  level: 'study',
  judges: 'distance',
};

/** One reading that a rule leaves out, with what it was judged by. */
export interface LeftOut {
  /** Index into the readings that were screened. */
  index: number;
  /** The rule's statistic and its limit; null for rules that always take the extremes. */
  statistic: number | null;
  limit: number | null;
}

export interface Screening {
  leftOut: LeftOut[];
  /** Why the rule could not be applied, in a sentence; then nothing is left out. */
  notAvailable?: string;
  /** Set by rules that always cut from both ends. */
  trim?: Trim;
}

/** A school of screening. One file each; the folder's index lists them once. */
export interface ScreeningRule {
  name: RuleName;
  label: string;
  /** Who published it, and when. */
  source?: string;
  /** What it does, in one sentence. */
  does: string;
  /** When it suits, in one sentence. */
  suits: string;
  /** What the statistic is called when a left-out reading is explained. */
  statisticName: string;
  /** The parameter that a study or a command may set. */
  parameter?: { label: string; minimum: number; maximum: number; whole: boolean };
  /** Fewer readings of a sample than this are left to the tester's judgement. */
  fewest?: number;
  /** Takes readings out of clean samples too, so that it judges none: nothing can be kept against it. */
  alwaysCuts?: true;
  /** Judges a reading by itself, whatever the others read: neither distances nor steps bear on it. */
  byItself?: true;
  /** Judges nothing at all. */
  keepsAll?: true;
  /** A test at a level, which all samples of a study can share. */
  tests?: true;
  screen(
    values: ArrayLike<number>,
    options: { alpha: number; parameter?: number | null; limits?: Limits },
  ): Screening;
}
