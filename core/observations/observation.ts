import type { ReadingPart } from '../model/parts.ts';
import type { NamedInterval } from '../summary/counted.ts';

export type LeftOutBy = 'rule' | 'hand' | 'misfire' | 'again' | 'source' | 'correction';

/** How an observation came to count, or not. */
export type Use =
  | { is: 'kept'; /** Why it counts whatever the rule says. */ insisted?: string }
  | {
      is: 'left out';
      /** A rule, the tester's hand, a misfire, being taken again, a reading that it was worked out from, or a correction that cannot be made. */
      by: LeftOutBy;
      reason: string;
      /** What the rule judged by, where it gives a statistic. */
      statistic?: number;
      limit?: number;
      judged?: 'reading' | 'distance';
    };

/**
 * A standard uncertainty in the unit of the value that all observations with the same source share; negative where the
 * value falls when the source is higher.
 */
export interface SharedDoubt {
  source: string;
  u: number;
}

/** What the analysis sees of a reading: one value of one measurand of an item, and where it comes from. */
export interface Observation {
  /** The reading's; of a derived observation, made from those that it comes from. */
  id: string;
  itemId: string;
  /** Key of the setting; '' without factors. */
  setting: string;
  round: number;
  /** Whether others were read in the same round: not so of an added run, nor where all runs are shuffled. */
  sharesRound: boolean;
  place: number;
  sessionId: string | null;
  takenAt: string;
  note: string;
  parts: readonly ReadingPart[];
  /** In the measurand's unit; null for a misfire without a number. */
  value: number | null;
  /** What was read, where the value is that set right. */
  read?: number;
  /** What the value may be off by together with others; none where nothing was set right, or it is taken as exact. */
  doubts?: readonly SharedDoubt[];
  /** A correction rests on what the tester thinks that the surroundings were. */
  estimated?: boolean;
  /** Step of the value, in its unit; 0 where none is known. */
  step: number;
  /** Interval of this one value where the form's own statistics give one, and what it is called. */
  interval?: NamedInterval;
  /** Ids of the observations that it was worked out from; none for a reading. */
  sources: readonly string[];
  use: Use;
}

/** Whether an observation was worked out from others; such a one cannot be judged, only those that it comes from. */
export const isDerived = ({ sources }: Pick<Observation, 'sources'>): boolean => sources.length > 0;

/** The id of what was worked out from others. @param from ids of those, or of the item where it comes from attributes alone */
export const derivedId = (measurandId: string, from: readonly string[]): string =>
  ['derived', measurandId, ...from].join('/');
