const MINUS = '\u2212';
/** Thin, and not broken at the end of a line. */
export const THIN_SPACE = '\u202f';

const formatters = new Map<string, Intl.NumberFormat>();

/** Formatters are kept: making one takes longer than printing a hundred numbers. */
function formatter(locale: string, decimals: number, useGrouping: boolean): Intl.NumberFormat {
  const key = `${locale}/${String(decimals)}/${String(useGrouping)}`;
  let found = formatters.get(key);
  if (!found) {
    found = new Intl.NumberFormat(locale, {
      minimumFractionDigits: decimals,
      maximumFractionDigits: decimals,
      useGrouping,
    });
    formatters.set(key, found);
  }
  return found;
}

/**
 * A number as text: a real minus sign, thin spaces from five digits on, a fixed number of decimals.
 * @param decimals digits behind the decimal sign, 0 to 12
 * @param locale for the decimal sign
 */
export function formatNumber(value: number, decimals: number, locale = 'en'): string {
  const size = Math.abs(value);
  if (size !== 0 && (size >= 1e12 || size < 1e-9)) {
    return value.toExponential(3).replace('-', MINUS).replace('e+', 'e');
  }
  const text = formatter(locale, decimals, size >= 10000).format(size);
  const grouped = locale === 'en' ? text.replaceAll(',', THIN_SPACE) : text;
  return value < 0 && Number(size.toFixed(decimals)) !== 0 ? `${MINUS}${grouped}` : grouped;
}

/**
 * Decimals for a result: two significant figures of its uncertainty.
 * @source GUM, JCGM 100:2008, 7.2.6
 * @example decimalsFor(0.0374) // 3
 */
export function decimalsFor(uncertainty: number): number {
  if (!(uncertainty > 0) || !Number.isFinite(uncertainty)) return 0;
  // Rounding first lets 0.0996 count as 0.10.
  const exponent = Math.floor(Math.log10(Number(uncertainty.toPrecision(2))));
  return Math.min(12, Math.max(0, 1 - exponent));
}

/** Decimals that a number needs to be shown as it was given, at most nine. */
export function decimalsOf(value: number): number {
  const text = String(Number(value.toPrecision(12)));
  const [mantissa, exponent] = text.split('e') as [string, string | undefined];
  const behind = mantissa.split('.')[1]?.length ?? 0;
  return Math.min(9, Math.max(0, behind - Number(exponent ?? 0)));
}

/** A number with as many decimals as it has, and no more than twelve figures. */
export const formatPlain = (value: number, locale = 'en'): string =>
  formatNumber(value, decimalsOf(value), locale);

/** More figures than this nobody typed: the number was worked out, and four are shown of it. */
const MOST_TYPED_FIGURES = 7;

/**
 * One reading: as it was given; a quotient such as a yield with four figures.
 * @example formatReading(1013.25) // '1013.25'
 * @example formatReading(100 / 3) // '33.33'
 */
export function formatReading(value: number, locale = 'en'): string {
  const figures = value.toExponential().split('e')[0]?.replace(/[-.]/g, '').length as number;
  return formatPlain(figures > MOST_TYPED_FIGURES ? Number(value.toPrecision(4)) : value, locale);
}

/**
 * A reading as it is shown: a time as it was typed, with its unit in it; anything else as its value.
 * @param parts of the reading, the first of which gives the value
 * @example readingWords({ value: 258.6, parts: [{ text: '4:18.6' }] }, 's') // '4:18.6'
 */
export function readingWords(
  { value, parts, read }: { value: number | null; parts: readonly { text: string }[]; read?: number },
  unit: string,
): string {
  if (value === null) return 'no number';
  // What was set right is no more as it was typed.
  if (read !== undefined && read !== value)
    return withUnit(formatReading(Number(value.toPrecision(8))), unit);
  const typed = parts[0]?.text.trim() ?? '';
  return /^\d+(:\d\d){1,2}([.,]\d+)?$/.test(typed) ? typed : withUnit(formatReading(value), unit);
}

/** A number and its unit, held together by a thin space. */
export const withUnit = (figure: string, unit: string): string =>
  unit === '' ? figure : `${figure}${THIN_SPACE}${unit}`;

const percent = (share: number): string => `${formatNumber(100 * share, 0)}${THIN_SPACE}%`;
const LITTLE = `<${THIN_SPACE}1${THIN_SPACE}%`;
const NEARLY_ALL = `>${THIN_SPACE}99${THIN_SPACE}%`;

/** A share as per cent, without false certainty at either end: 99.99 % becomes “> 99 %”. */
export function formatShare(share: number): string {
  if (share > 0 && share < 0.01) return LITTLE;
  if (share < 1 && share > 0.99) return NEARLY_ALL;
  return percent(share);
}

/** A share of draws as per cent: draws are never certain, so neither 0 % nor 100 % is printed. */
export function formatChance(share: number): string {
  if (share < 0.01) return LITTLE;
  return share > 0.99 ? NEARLY_ALL : percent(share);
}

/** “A”, “A and B”, “A, B and C”. */
export function listed(words: readonly string[], conjunction = 'and'): string {
  if (words.length < 2) return words[0] ?? '';
  return `${words.slice(0, -1).join(', ')} ${conjunction} ${words[words.length - 1] as string}`;
}

/** “1 reading”, “3 readings”. */
export const counted = (count: number, word: string, plural = `${word}s`): string =>
  `${formatNumber(count, 0)} ${count === 1 ? word : plural}`;

/** The form of a word that goes with a number of things: “is” with one of them, “are” with more. */
export const wordFor = (count: number, single: string, several: string): string =>
  count === 1 ? single : several;

/** Signs of what was typed that show what it is. */
const SHOWN = 40;

/** What was typed or read, between quotation marks; of a long text its beginning. */
export const quoted = (text: string): string =>
  `“${text.length > SHOWN ? `${text.slice(0, SHOWN)}…` : text}”`;

/** With a capital in front: the start of a sentence. */
export const capital = (text: string): string => text.slice(0, 1).toUpperCase() + text.slice(1);
