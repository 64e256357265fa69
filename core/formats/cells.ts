/** What a spreadsheet would run as a formula, or what looks as if it had been made harmless. */
const RUNS = /^[=+\-@\t\r']/;

/** A text as a cell that no spreadsheet runs: a ' stands before what looks like a formula. */
export const harmlessCell = (text: string): string => (RUNS.test(text) ? `'${text}` : text);

/** A text as it stands in HTML, between tags or in a quoted attribute. */
export const htmlText = (text: string): string =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');

/** The text of a cell that was made harmless. */
export const cellText = (cell: string): string =>
  cell.startsWith("'") && RUNS.test(cell.slice(1)) ? cell.slice(1) : cell;

const ISO_TIME =
  /^\d{4}[-/]\d{1,2}[-/]\d{1,2}(?:[T ]+\d{1,2}:\d\d(?::\d\d(?:[.,]\d{1,9})?)?\s*(?:Z|[+-]\d\d:?\d\d)?)?$/;

/**
 * A date, or a date and a time, year first; without a zone it is this machine's.
 * @returns an instant as ISO 8601 writes it, undefined for what is none or could be read in two ways
 */
export function readInstant(cell: string): string | undefined {
  const text = cell.trim();
  if (!ISO_TIME.test(text)) return undefined;
  const time = Date.parse(text.replace(',', '.'));
  return Number.isNaN(time) ? undefined : new Date(time).toISOString();
}

const ROUND = /^\d{1,5}$/;

/** A round: a whole number from 1 to 10,000; undefined for anything else. */
export function readRound(cell: string): number | undefined {
  const round = ROUND.test(cell.trim()) ? Number(cell) : 0;
  return round >= 1 && round <= 10000 ? round : undefined;
}
