import { quoted } from './format.ts';
import { convert, isTemperature, isTime, knownUnit } from './units.ts';

/**
 * What a typed text was understood to be, or a sentence that says why it was not. `plain` tells a number as it
 * stands from one that was worked out: a fraction, a time, another unit.
 */
export type Understood = { number: number; plain: boolean } | { problem: string };

const SPACES = /[\s\u00a0\u2007\u2009\u202f]+/g;
const PLAIN = /^[+-]?(\d+(\.\d*)?|\.\d+)(e[+-]?\d{1,4})?$/i;
/** Short enough to be finite, and no negative zero. */
const ORDINARY = /^-?(?!0)\d{1,15}(\.\d{1,15})?$|^0(\.\d{1,15})?$/;
const FRACTION = /^([+-]?)(?:(\d{1,9}) +)?(\d{1,9})\/(\d{1,9})$/;
const CLOCK = /^(-?)(?:(\d{1,4}):)?(\d{1,6}):(\d{1,2}(?:[.,]\d{1,6})?)$/;
/** A number, and a unit behind it that begins with a letter or a sign of its own. */
const WITH_UNIT =
  /^([-+\d.,:/\s\u00a0\u2007\u2009\u202f]*\d[.,]?(?:e[+-]?\d{1,4})?)\s*([\p{L}%‰°′″"Ω℃℉µ].*)$/iu;
const MULTIPLES: Record<string, number> = { k: 1e3, K: 1e3, M: 1e6 };
const VULGAR = /[¼-¾⅐-⅞]/g;

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

/** A number as it stands, or a fraction; undefined for anything else. */
function figure(text: string): { number: number; plain: boolean } | 'zero below' | undefined {
  const fraction = FRACTION.exec(text.replace(SPACES, ' ').trim());
  if (fraction) {
    const [, sign, whole = '0', above, below] = fraction;
    if (Number(below) === 0) return 'zero below';
    const size = Number(whole) + Number(above) / Number(below);
    return { number: (sign === '-' ? -1 : 1) * size, plain: false };
  }
  const digits = withDecimalPoint(text.replace(SPACES, ''));
  if (digits === undefined || !PLAIN.test(digits)) return undefined;
  return { number: Number(digits), plain: true };
}

/** m:ss.s or h:mm:ss in seconds; a sentence where minutes or seconds are past 59. */
function clock(text: string): { seconds: number } | { problem: string } | undefined {
  const found = CLOCK.exec(text.replace(SPACES, ''));
  if (!found) return undefined;
  const [, sign, hours, minutes, seconds] = found as unknown as [string, string, string?, string?, string?];
  const s = Number((seconds ?? '0').replace(',', '.'));
  const m = Number(minutes);
  if (s >= 60) return { problem: `“${text}” has more than 59 seconds behind the colon.` };
  if (hours !== undefined && m >= 60) return { problem: `“${text}” has more than 59 minutes.` };
  return { seconds: (sign === '-' ? -1 : 1) * (Number(hours ?? 0) * 3600 + m * 60 + s) };
}

/** A lone C or F, where a temperature is meant. */
const meant = (written: string, unit: string): string =>
  /^[CF]$/i.test(written) && isTemperature(unit) ? `°${written.toUpperCase()}` : written;

/** A number, and the unit that is written behind it; the one expected where none is. */
function numberAndUnit(rest: string, expected: string): { body: string; written: string } {
  let body = rest;
  let written = expected;
  if (expected !== '' && rest.toLowerCase().endsWith(expected.toLowerCase())) {
    const before = rest.slice(0, rest.length - expected.length).trimEnd();
    if (/[\d.,]$/.test(before)) body = before;
  }
  if (body === rest) {
    const found = WITH_UNIT.exec(rest);
    if (found && !PLAIN.test(rest.replace(SPACES, ''))) {
      body = (found[1] as string).trim();
      written = (found[2] as string).trim();
    }
  }
  return { body, written };
}

/**
 * Understands one number as people write it: decimal point or comma, a real minus sign, spaces between digits,
 * fractions (2 5/8), times (4:18.6), thousands (1.2k), the measurand's own unit or another one behind it.
 * @param text as typed
 * @param unit of the measurand, in which the number comes back
 * @example parseQuantity('12,5 m/s', 'm/s') // { number: 12.5, plain: true }
 */
export function parseQuantity(text: string, unit: string): Understood {
  const expected = unit.trim();
  // Most of what is typed, and nearly all of a table, is a number as it stands.
  if (ORDINARY.test(text) && !/\d$/.test(expected)) return { number: Number(text), plain: true };
  const shown = quoted(text.trim());
  const notANumber = { problem: `${shown} is not a number${expected === '' ? '' : ` in ${expected}`}.` };
  const rest = text
    .replace(VULGAR, (sign) => ` ${sign.normalize('NFKC').replace('\u2044', '/')}`)
    .trim()
    .replace(/[\u2212\u2013]/g, '-');
  if (rest === '') return { problem: 'Type a number.' };

  const { body, written } = numberAndUnit(rest, expected);
  const time = clock(body);
  if (time) {
    if ('problem' in time) return time;
    const wanted = written === expected ? expected : written;
    if (wanted !== '' && !isTime(wanted))
      return { problem: `${shown} is a time; a number in ${expected} is wanted.` };
    const number = expected === '' ? time.seconds : convert(time.seconds, 's', expected);
    return number === undefined
      ? { problem: `${shown} is a time; a number in ${expected} is wanted.` }
      : { number, plain: false };
  }

  const read = figure(body);
  if (read === 'zero below') return { problem: `${shown} divides by zero.` };
  if (read === undefined) return notANumber;
  let { number, plain } = read;
  if (written !== expected) {
    const multiple = MULTIPLES[written];
    const prefix = /^[kKM]\s+/.exec(written)?.[0].trim();
    const bare = meant(written, expected);
    const converted = expected === '' ? undefined : convert(number, bare, expected);
    if (converted !== undefined) number = converted;
    else if (multiple !== undefined) number = Number((number * multiple).toPrecision(12));
    else if (prefix !== undefined && written.slice(1).trim().toLowerCase() === expected.toLowerCase()) {
      number = Number((number * (MULTIPLES[prefix] as number)).toPrecision(12));
    } else if (!knownUnit(bare) && written !== '%') return notANumber;
    else {
      return {
        problem:
          expected === ''
            ? `${shown} has the unit ${written}, and this is measured without a unit.`
            : `${shown} cannot be turned into ${expected}.`,
      };
    }
    plain = false;
  }
  if (!Number.isFinite(number)) return { problem: `${shown} is too large a number.` };
  return { number: number === 0 ? 0 : number, plain };
}
