import { listed } from '../quantity/format.ts';
import { type ConditionKind, changed, isSameWord } from './kind.ts';

export const WORD: ConditionKind = {
  name: 'word',
  label: 'A word',
  isQuantity: false,
  takesWords: true,
  choices: ({ words }) => words,
  fits: (cells, isNumber) => cells.filter(isNumber).length < cells.length / 2,
  read: (text, { words, quantity }) => {
    const known = words.find((word) => isSameWord(word, text));
    return words.length > 0 && known === undefined
      ? { problem: `${quantity} is ${listed(words, 'or')}, and not “${text}”.` }
      : { text: known ?? text, number: null };
  },
  shown: ({ text }) => text,
  warnings: changed,
};
