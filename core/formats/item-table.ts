import Papa from 'papaparse';
import { parseQuantity } from '../quantity/parse.ts';
import { guessDelimiter } from './csv-read.ts';

/** One cell of a pasted table: a number, nothing, or what is wrong with it. */
export type PastedCell = { value: number | null } | { text: string; problem: string };

export interface PastedRow {
  /** Row of the pasted text, from 1; the header is row 1. */
  row: number;
  name: string;
  /** One per attribute column. */
  cells: PastedCell[];
  /** What is wrong with the row as a whole: it is then passed by. */
  problem?: string;
}

export interface PastedTable {
  attributes: { name: string; unit: string }[];
  rows: PastedRow[];
  /** Why nothing of it can be used. */
  problem?: string;
}

const MOST_ROWS = 2000;
const MOST_COLUMNS = 60;

/** A quoted cell may hold line breaks; a name has none. */
const oneLine = (text: string): string => text.trim().replace(/\s+/g, ' ');

/** “Mass (g)”, “Mass [g]” or “Mass, g”: the name and the unit of a column. */
export function splitHeader(header: string): { name: string; unit: string } {
  const line = oneLine(header);
  const found = /^(.*?)\s*(?:\(([^)]*)\)|\[([^\]]*)\]|,\s*(\S+))\s*$/.exec(line);
  if (!found) return { name: line, unit: '' };
  return { name: (found[1] ?? '').trim(), unit: (found[2] ?? found[3] ?? found[4] ?? '').trim() };
}

/**
 * Items and their attributes from a table copied out of a spreadsheet: a header row, the item's name in the first
 * column, one attribute a column. Decimal commas and units behind the numbers are understood.
 * @returns never throws; what cannot be used is marked cell by cell and row by row
 */
export function parseItemTable(text: string): PastedTable {
  const nothing = (problem: string): PastedTable => ({ attributes: [], rows: [], problem });
  if (text.trim() === '')
    return nothing('Paste a table first: a header row, and the item’s name in the first column.');
  const body = text.replace(/^\ufeff/, '').replace(/^\s*\n/, '');
  const { data, errors } = Papa.parse<string[]>(body, {
    delimiter: guessDelimiter(body.split(/\r?\n/, 1)[0] ?? ''),
    skipEmptyLines: 'greedy',
  });
  const broken = errors.find(({ type }) => type === 'Quotes');
  if (broken) return nothing(`A quote is opened and not closed in row ${String((broken.row ?? 0) + 1)}.`);
  const [header, ...lines] = data;
  if (!header || header.length < 2)
    return nothing('The header needs the item’s name and at least one attribute.');
  if (header.length > MOST_COLUMNS)
    return nothing(`At most ${String(MOST_COLUMNS)} columns can be taken over.`);
  if (lines.length === 0) return nothing('There is a header and no row.');
  if (lines.length > MOST_ROWS) return nothing(`At most ${String(MOST_ROWS)} rows can be taken over.`);
  const attributes = header.slice(1).map(splitHeader);
  const empty = attributes.findIndex(({ name }) => name === '');
  if (empty !== -1) return nothing(`Column ${String(empty + 2)} has no name.`);
  const twice = attributes.find(
    ({ name }, at) => attributes.findIndex((one) => one.name.toLowerCase() === name.toLowerCase()) !== at,
  );
  if (twice) return nothing(`The column “${twice.name}” is there twice.`);

  const seen = new Set<string>();
  const rows = lines.map((line, i): PastedRow => {
    const row = i + 2;
    const name = oneLine(line[0] ?? '');
    const cells = attributes.map(({ unit }, column): PastedCell => {
      const cell = (line[column + 1] ?? '').trim();
      if (cell === '' || cell === '-' || cell === '–') return { value: null };
      const understood = parseQuantity(cell, unit);
      return 'problem' in understood
        ? { text: cell, problem: understood.problem }
        : { value: understood.number };
    });
    if (line.length !== header.length) {
      return {
        row,
        name,
        cells,
        problem: `${String(line.length)} cells, where the header has ${String(header.length)}.`,
      };
    }
    if (name === '') return { row, name, cells, problem: 'The item has no name.' };
    const key = name.toLowerCase();
    if (seen.has(key)) return { row, name, cells, problem: `“${name}” is there twice.` };
    seen.add(key);
    return { row, name, cells };
  });
  return { attributes, rows };
}
