import Papa from 'papaparse';
import { counted } from '../quantity/format.ts';
import { FileProblem } from './file-problem.ts';

export interface CsvHeader {
  columns: string[];
  delimiter: ',' | ';' | '\t';
  /** Lines before the header that begin with #, without the sign. */
  comments: string[];
  /** Line of the header, from 1. */
  line: number;
}

/** Whether bytes are the beginning of text in UTF-16, by the mark that stands before it. */
export const isUtf16 = ([first, second]: Uint8Array): boolean =>
  (first === 0xff && second === 0xfe) || (first === 0xfe && second === 0xff);

/**
 * Turns bytes into text.
 * @throws FileProblem when they are not UTF-8 text
 */
export function decodeText(bytes: Uint8Array): string {
  if (isUtf16(bytes)) throw new FileProblem('The file is text in UTF-16. Save it as UTF-8.');
  if (bytes.includes(0)) throw new FileProblem('The file is not text.');
  try {
    return new TextDecoder('utf-8', { fatal: true, ignoreBOM: false }).decode(bytes);
  } catch {
    throw new FileProblem('The file is not text in UTF-8.');
  }
}

/** Signs that no text holds: whatever has one is something else. */
const NO_TEXT = Uint8Array.from({ length: 256 }, (_, sign) =>
  (sign < 32 && ![9, 10, 11, 12, 13, 26].includes(sign)) || sign === 127 ? 1 : 0,
);

/** Whether bytes could be text with a byte for each sign, or UTF-8. */
export function isByteText(bytes: Uint8Array): boolean {
  for (const byte of bytes) if (NO_TEXT[byte] === 1) return false;
  return true;
}

/**
 * Turns bytes into text as instruments write it: UTF-8, UTF-16 with its mark, or one byte for each sign.
 * @returns what is to be said of it too, where it is not UTF-8
 * @throws FileProblem when they are no text
 */
export function decodeAnyText(bytes: Uint8Array): { text: string; remark?: string } {
  if (isUtf16(bytes)) {
    const text = new TextDecoder(bytes[0] === 0xff ? 'utf-16le' : 'utf-16be').decode(bytes);
    return { text, remark: 'The file is text in UTF-16.' };
  }
  if (!isByteText(bytes)) throw new FileProblem('The file is not text.');
  try {
    return { text: decodeText(bytes) };
  } catch {
    return {
      text: new TextDecoder('windows-1252').decode(bytes),
      remark: 'The file is not in UTF-8: its signs are taken for those of Western Europe (Windows-1252).',
    };
  }
}

function countLines(text: string, from: number, to: number, sign: string): number {
  let count = 0;
  for (
    let place = text.indexOf(sign, from);
    place !== -1 && place < to;
    place = text.indexOf(sign, place + 1)
  )
    count += 1;
  return count;
}

/** The separator that the header line has most of, quoted parts aside; a comma where it has none. */
export function guessDelimiter(header: string): CsvHeader['delimiter'] {
  const bare = header.replace(/"[^"]*"/g, '');
  const counts = ([',', ';', '\t'] as const).map((sign) => [sign, bare.split(sign).length] as const);
  return counts.reduce((best, next) => (next[1] > best[1] ? next : best))[0];
}

type TakeRow = (fields: string[], line: number) => void;

/** Without quotes a row is a line and needs no parser, which a million rows feel. */
function eachPlainRow(body: string, newline: string, delimiter: string, take: TakeRow): void {
  let line = 0;
  for (let start = 0; start < body.length;) {
    const end = body.indexOf(newline, start);
    let stop = end === -1 ? body.length : end;
    const next = stop + 1;
    line += 1;
    if (body.charCodeAt(stop - 1) === 13) stop -= 1;
    if (stop > start) {
      const fields: string[] = [];
      let from = start;
      for (
        let place = body.indexOf(delimiter, from);
        place !== -1 && place < stop;
        place = body.indexOf(delimiter, from)
      ) {
        fields.push(body.slice(from, place));
        from = place + 1;
      }
      fields.push(body.slice(from, stop));
      take(fields, line);
    }
    start = next;
  }
}

function eachQuotedRow(body: string, newline: string, delimiter: string, take: TakeRow): void {
  let seen = 0;
  let line = 1;
  let failure: Error | undefined;
  Papa.parse<string[]>(body, {
    delimiter,
    step({ data: fields, errors, meta }, parser) {
      line += countLines(body, seen, meta.cursor - 1, newline);
      seen = Math.max(seen, meta.cursor - 1);
      const inner = fields.reduce((sum, field) => sum + countLines(field, 0, field.length, newline), 0);
      try {
        if (errors[0]) throw new FileProblem('a quote is opened and not closed.', line - inner);
        take(fields, line - inner);
      } catch (problem) {
        failure = problem as Error;
        parser.abort();
      }
    },
  });
  if (failure) throw failure;
}

/**
 * Reads comma, semicolon or tab separated text, row by row.
 * @param text with a header row; lines before it that begin with # are comments
 * @param onHeader hears the columns before the first row
 * @param onRow is given the fields of one row and the line on which it begins
 * @param onRagged hears of lines with more or fewer fields than the header; without it they are refused
 * @throws FileProblem for an empty text, a ragged line, a broken quote, or a column named twice
 */
export function readCsv(
  text: string,
  onHeader: (header: CsvHeader) => void,
  onRow: (fields: string[], line: number) => void,
  onRagged?: (line: number) => void,
): void {
  const body = text.startsWith('\ufeff') ? text.slice(1) : text;
  const newline = body.includes('\n') ? '\n' : '\r';
  const comments: string[] = [];
  let start = 0;
  // Comments before the header are set aside.
  while (start < body.length) {
    const end = body.indexOf(newline, start);
    const line = body.slice(start, end === -1 ? body.length : end).replace(/\r$/, '');
    if (line.startsWith('#')) comments.push(line.slice(1).trim());
    else if (line.trim() !== '') break;
    start = end === -1 ? body.length : end + 1;
  }
  if (start >= body.length) throw new FileProblem('The file is empty.');
  const headerEnd = body.indexOf(newline, start);
  const delimiter = guessDelimiter(body.slice(start, headerEnd === -1 ? body.length : headerEnd));

  let columns: string[] | undefined;
  const take = (fields: string[], line: number) => {
    if (fields.length === 1 && (fields[0] as string).trim() === '') return;
    if (!columns) {
      columns = fields.map((name) => name.trim());
      const twice = columns.find((name, i) => name !== '' && columns?.indexOf(name) !== i);
      if (twice !== undefined) throw new FileProblem(`the column “${twice}” is there twice.`, line);
      onHeader({ columns, delimiter, comments, line });
      return;
    }
    // A # begins a comment where it stands alone, and a cell like any other in a row of the table.
    if (fields.length === 1 && columns.length > 1 && (fields[0] as string).startsWith('#')) return;
    if (fields.length !== columns.length) {
      if (onRagged) {
        onRagged(line);
        return;
      }
      throw new FileProblem(
        `${counted(fields.length, 'field')}, where the header has ${String(columns.length)}.`,
        line,
      );
    }
    onRow(fields, line);
  };
  const before = countLines(body, 0, start, newline);
  const rows = body.slice(start);
  const countedFrom: TakeRow = (fields, line) => {
    take(fields, before + line);
  };
  if (rows.includes('"')) eachQuotedRow(rows, newline, delimiter, countedFrom);
  else eachPlainRow(rows, newline, delimiter, countedFrom);
  if (!columns) throw new FileProblem('The file has no header row.');
}

const POWERS = Array.from({ length: 16 }, (_, i) => 10 ** i);
const [MINUS, COMMA, POINT, ZERO, NINE] = [45, 44, 46, 48, 57] as const;

/**
 * A number of at most 15 figures as most cells hold it, which a million of them feel: a whole number over a power of
 * ten, both exact, so that the quotient is the number as written to the last bit.
 * @returns NaN for anything else
 */
function plainNumber(cell: string, comma: boolean): number {
  const negative = cell.charCodeAt(0) === MINUS;
  let whole = 0;
  let figures = 0;
  let decimals = -1;
  if (cell.length > 17) return Number.NaN;
  for (let i = negative ? 1 : 0; i < cell.length; i += 1) {
    const code = cell.charCodeAt(i);
    if (code >= ZERO && code <= NINE) {
      whole = 10 * whole + (code - ZERO);
      figures += 1;
      if (decimals >= 0) decimals += 1;
    } else if ((code === POINT || (comma && code === COMMA)) && decimals === -1) decimals = 0;
    else return Number.NaN;
  }
  if (figures === 0 || figures > 15) return Number.NaN;
  const size = decimals > 0 ? whole / (POWERS[decimals] as number) : whole;
  return negative ? -size : size;
}

const NUMBER = /^[+-]?(\d+(\.\d*)?|\.\d+)(e[+-]?\d+)?$/i;

/**
 * One number of a CSV cell; a decimal comma is understood where the comma does not separate fields.
 * @returns undefined when the cell is not a finite number
 */
export function csvNumber(cell: string, delimiter: CsvHeader['delimiter']): number | undefined {
  const ordinary = plainNumber(cell, delimiter !== ',');
  if (!Number.isNaN(ordinary)) return ordinary;
  if (NUMBER.test(cell)) {
    const plain = Number(cell);
    return Number.isFinite(plain) ? plain : undefined;
  }
  let text = cell.trim().replace('\u2212', '-');
  if (delimiter !== ',' && text.includes(',')) text = text.replace(',', '.');
  if (!NUMBER.test(text)) return undefined;
  const number = Number(text);
  return Number.isFinite(number) ? number : undefined;
}
