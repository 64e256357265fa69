/** What a typed text was understood to be, or a sentence that says why it was not. */
export type Understood = { number: number } | { problem: string };

const SPACES = /[\s\u00a0\u2007\u2009\u202f]+/g;
const PLAIN = /^[+-]?(\d+(\.\d*)?|\.\d+)(e[+-]?\d{1,4})?$/i;

/** Settles decimal sign and grouping: the last sign of two kinds is the decimal one; a lone comma is decimal. */
function withDecimalPoint(digits: string): string | undefined {
  const commas = digits.split(',').length - 1;
  const points = digits.split('.').length - 1;
  if (commas === 0) return points > 1 ? undefined : digits;
  if (points === 0 && commas === 1) return digits.replace(',', '.');
  const [group, decimal] = digits.lastIndexOf(',') > digits.lastIndexOf('.') ? ['.', ','] : [',', '.'];
  const pieces = digits.split(decimal);
  if (pieces.length !== 2) return undefined;
  const groups = (pieces[0] as string).split(group);
  const lead = (groups[0] as string).replace(/^[+-]/, '');
  const wellGrouped =
    lead.length >= 1 && lead.length <= 3 && groups.slice(1).every((three) => /^\d{3}$/.test(three));
  if (!wellGrouped || (pieces[1] as string).includes(group)) return undefined;
  return `${groups.join('')}.${pieces[1] as string}`;
}

/**
 * Understands one number as people write it: decimal point or comma, a real minus sign, spaces between digits, the
 * measurand's own unit behind it.
 * @param text as typed
 * @param unit of the measurand; may follow the number
 * @example parseQuantity('12,5 m/s', 'm/s') // { number: 12.5 }
 */
export function parseQuantity(text: string, unit: string): Understood {
  let rest = text.trim().replace(/[\u2212\u2013]/g, '-');
  if (rest === '') return { problem: 'Type a number.' };
  const own = unit.trim();
  if (own !== '' && rest.toLowerCase().endsWith(own.toLowerCase())) {
    const before = rest.slice(0, rest.length - own.length).trimEnd();
    if (/[\d.,]$/.test(before)) rest = before;
  }
  const digits = withDecimalPoint(rest.replace(SPACES, ''));
  if (digits === undefined || !PLAIN.test(digits)) {
    const shown = text.trim().slice(0, 40);
    return { problem: `“${shown}” is not a number${own === '' ? '' : ` in ${own}`}.` };
  }
  const number = Number(digits);
  if (!Number.isFinite(number)) return { problem: `“${text.trim().slice(0, 40)}” is too large a number.` };
  return { number: number === 0 ? 0 : number };
}
