import type { Condition, ConditionReading } from '../model/parts.ts';

/** What was read of a condition. */
export type ConditionSeen = Pick<ConditionReading, 'text' | 'number'>;

/** A kind of condition: what it can be, how it is read and said, and what is to be said of it at once. */
export interface ConditionKind {
  name: Condition['kind'];
  /** As the plan offers it. */
  label: string;
  /** A quantity has a unit, limits, a drift that is tolerable, and a number to reckon with. */
  isQuantity: boolean;
  /** Whether the plan can say in words what it can be. */
  takesWords: boolean;
  /** What it can be; none where anything can be typed. */
  choices: (condition: Condition) => readonly string[];
  /** Whether a column of a table may be of this kind, by its cells; none of them is empty. */
  fits: (cells: readonly string[], isNumber: (cell: string) => boolean) => boolean;
  /** What a text means, trimmed and not empty; a problem where it means nothing. */
  read: (text: string, condition: Condition) => ConditionSeen | { problem: string };
  /** As it is said behind the name of the condition, or beside it. */
  shown: (seen: ConditionSeen, condition: Pick<Condition, 'unit'>) => string;
  /**
   * What is to be said in the moment it is read.
   * @param start what it was when the session began
   * @returns sentences; none where all is well
   */
  warnings: (seen: ConditionSeen, condition: Condition, start?: ConditionSeen) => string[];
}

/** Whether two words are the same, large and small letters aside. */
export const isSameWord = (a: string, b: string): boolean =>
  a.trim().toLocaleLowerCase() === b.trim().toLocaleLowerCase();

/** What is read as a word is said where it is another one than at the start. */
export const changed: ConditionKind['warnings'] = ({ text }, { quantity }, start) =>
  start === undefined || isSameWord(start.text, text)
    ? []
    : [`${quantity} was “${start.text}” at the start, and is “${text}” now.`];
