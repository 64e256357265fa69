import { type ConditionKind, changed } from './kind.ts';

const [YES, NO] = ['yes', 'no'] as const;

/** How they are written. */
const WRITTEN = /^(?:yes|no|y|n|true|false)$/i;

export const YES_NO: ConditionKind = {
  name: 'yes-no',
  label: 'Yes or no',
  isQuantity: false,
  takesWords: false,
  choices: () => [YES, NO],
  fits: (cells) => cells.length > 0 && cells.every((cell) => WRITTEN.test(cell.trim())),
  read: (text, { quantity }) =>
    WRITTEN.test(text)
      ? { text: /^[yt]/i.test(text) ? YES : NO, number: null }
      : { problem: `${quantity} is yes or no, and not “${text}”.` },
  shown: ({ text }) => text,
  warnings: changed,
};
