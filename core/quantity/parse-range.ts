import { parseQuantity } from './parse.ts';

/** A range that a text was understood to be, or a sentence that says why it was not. */
export type UnderstoodRange = { low: number | null; high: number | null } | { problem: string };

const OPEN = /^\s*(>=|≥|>|more than|over|at least|<=|≤|<|less than|under|at most|up to)\s*(\S.*)$/i;
/** What stands between two ends. A dash does behind a figure only, where it is no sign. */
const BETWEEN = /\.\.+|…|–|—|\bto\b|(?<=\d ?)-(?= ?[-\d.,])/i;
const DOWNWARD = /^(?:<|≤|less|under|at most|up to)/i;

/**
 * Understands what is known of a figure: “>8”, “at most 3”, “1 to 1.6”, or “5”, which is a range of one figure.
 * @param unit numbers with another unit are converted to it
 */
export function parseRange(text: string, unit: string): UnderstoodRange {
  const open = OPEN.exec(text);
  if (open) {
    const [, word = '', figure = ''] = open;
    const end = parseQuantity(figure, unit);
    if ('problem' in end) return end;
    return DOWNWARD.test(word) ? { low: null, high: end.number } : { low: end.number, high: null };
  }
  const found = BETWEEN.exec(text);
  if (!found) {
    const only = parseQuantity(text, unit);
    return 'problem' in only ? only : { low: only.number, high: only.number };
  }
  const [first, last] = [text.slice(0, found.index), text.slice(found.index + found[0].length)];
  const [from, to] = [parseQuantity(first, unit), parseQuantity(last, unit)];
  if ('problem' in from) return from;
  if ('problem' in to) return to;
  return from.number > to.number
    ? { problem: `“${text.trim()}” runs from the larger to the smaller: the lower end comes first.` }
    : { low: from.number, high: to.number };
}
