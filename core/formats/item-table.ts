import Papa from 'papaparse';
import type { Item } from '../model/parts.ts';
import { counted } from '../quantity/format.ts';
import { parseQuantity } from '../quantity/parse.ts';
import { convert } from '../quantity/units.ts';
import { guessDelimiter } from './csv-read.ts';

/** One cell of a pasted table: a number, nothing, or what is wrong with it. */
export type PastedCell = { value: number | null } | { text: string; problem: string };

export interface PastedRow {
  /** Row of the pasted text, from 1; the header is row 1. */
  row: number;
  name: string;
  /** One per attribute column. */
  cells: PastedCell[];
  /** What is wrong with the row as a whole: it is then skipped. */
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
  for (const [opening, closing] of [
    ['(', ')'],
    ['[', ']'],
  ] as const) {
    if (!line.endsWith(closing)) continue;
    const begin = line.indexOf(opening, line.lastIndexOf(closing, line.length - 2) + 1);
    if (begin !== -1) return { name: line.slice(0, begin).trim(), unit: line.slice(begin + 1, -1).trim() };
  }
  // What stands behind the comma is one word.
  const space = line.lastIndexOf(' ');
  const comma = line[space - 1] === ',' ? space - 1 : line.indexOf(',', space + 1);
  const unit = comma === -1 ? '' : line.slice(comma + 1).trim();
  return unit === '' ? { name: line, unit } : { name: line.slice(0, comma).trim(), unit };
}

/** A column in the unit that the attribute has already, where the header says none or one that can be turned into it. */
function inKnownUnit(
  column: { name: string; unit: string },
  known: readonly { name: string; unit: string }[],
): { name: string; unit: string; read: string } {
  const here = known.find(({ name }) => name.toLowerCase() === column.name.toLowerCase());
  if (!here) return { ...column, read: column.unit };
  const read = column.unit === '' ? here.unit : column.unit;
  const unit = convert(1, read, here.unit) === undefined ? read : here.unit;
  return { name: here.name, unit, read };
}

/**
 * Items and their attributes from a table copied out of a spreadsheet: a header row, the item's name in the first
 * column, one attribute a column. Decimal commas and units behind the numbers are understood.
 * @param known attributes that there are: their columns keep their names, and their units where that is possible
 * @returns never throws; what cannot be used is marked cell by cell and row by row
 */
export function parseItemTable(
  text: string,
  known: readonly { name: string; unit: string }[] = [],
): PastedTable {
  const nothing = (problem: string): PastedTable => ({ attributes: [], rows: [], problem });
  if (text.trim() === '')
    return nothing('Paste a table first: a header row, and the item’s name in the first column.');
  const body = text.replace(/^\ufeff/, '').replace(/^\s*\n/, '');
  const { data, errors } = Papa.parse<string[]>(body, {
    delimiter: guessDelimiter(body.split(/\r?\n/, 1)[0] ?? ''),
    skipEmptyLines: 'greedy',
  });
  const broken = errors.find(({ type }) => type === 'Quotes');
  if (broken)
    return nothing(`A quote is opened and not closed in row ${String((broken.row as number) + 1)}.`);
  const [header, ...lines] = data;
  if (!header || header.length < 2)
    return nothing('The header needs the item’s name and at least one attribute.');
  if (header.length > MOST_COLUMNS)
    return nothing(`At most ${String(MOST_COLUMNS)} columns can be taken over.`);
  if (lines.length === 0) return nothing('There is a header and no row.');
  if (lines.length > MOST_ROWS) return nothing(`At most ${String(MOST_ROWS)} rows can be taken over.`);
  const attributes = header.slice(1).map((cell) => inKnownUnit(splitHeader(cell), known));
  const empty = attributes.findIndex(({ name }) => name === '');
  if (empty !== -1) return nothing(`Column ${String(empty + 2)} has no name.`);
  const twice = attributes.find(
    ({ name }, place) =>
      attributes.findIndex((attribute) => attribute.name.toLowerCase() === name.toLowerCase()) !== place,
  );
  if (twice) return nothing(`The column “${twice.name}” is there twice.`);

  const seen = new Set<string>();
  const rows = lines.map((line, i): PastedRow => {
    const row = i + 2;
    const name = oneLine(line[0] ?? '');
    const cells = attributes.map(({ unit, read }, column): PastedCell => {
      const cell = (line[column + 1] ?? '').trim();
      if (cell === '' || cell === '-' || cell === '–') return { value: null };
      const understood = parseQuantity(cell, read);
      if ('problem' in understood) return { text: cell, problem: understood.problem };
      const value = read === unit ? understood.number : convert(understood.number, read, unit);
      return { value: value === undefined ? understood.number : Number(value.toPrecision(12)) };
    });
    if (line.length !== header.length) {
      return {
        row,
        name,
        cells,
        problem: `${counted(line.length, 'cell')}, where the header has ${String(header.length)}.`,
      };
    }
    if (name === '') return { row, name, cells, problem: 'The item has no name.' };
    const key = name.toLowerCase();
    if (seen.has(key)) return { row, name, cells, problem: `“${name}” is there twice.` };
    seen.add(key);
    return { row, name, cells };
  });
  return { attributes: attributes.map(({ name, unit }) => ({ name, unit })), rows };
}

/** What taking a table over would do to the items that there are. */
export interface PasteEffects {
  /** Items that are not there yet. */
  added: string[];
  /** Values that give way to others. */
  changed: { item: string; attribute: string; before: number; after: number; unit: string }[];
  /** Attributes whose unit gives way to one that measures something else. */
  units: { attribute: string; before: string; after: string }[];
  /** Attributes of each item that is there, as they would be; empty cells leave what there is. */
  attributes: Map<string, Item['attributes']>;
  /** Rows that name an item which is not there, with their attributes. */
  news: { name: string; attributes: Item['attributes'] }[];
}

/** What taking a table over would do, so that it can be said before. */
export function pasteEffects(
  { attributes: columns, rows }: PastedTable,
  items: readonly Pick<Item, 'id' | 'name' | 'attributes'>[],
): PasteEffects {
  const effects: PasteEffects = { added: [], changed: [], units: [], attributes: new Map(), news: [] };
  for (const { name, cells, problem } of rows) {
    if (problem !== undefined) continue;
    const said = columns.flatMap(({ name: attribute, unit }, column) => {
      const cell = cells[column];
      return cell && 'value' in cell && cell.value !== null
        ? [{ name: attribute, unit, value: cell.value }]
        : [];
    });
    const item = items.find((other) => other.name.toLowerCase() === name.toLowerCase());
    if (!item) {
      effects.added.push(name);
      effects.news.push({ name, attributes: said });
      continue;
    }
    const after = [...item.attributes];
    for (const set of said) {
      const place = after.findIndex((has) => has.name === set.name);
      const has = after[place];
      if (!has) after.push(set);
      else {
        if (has.value !== null && has.value !== set.value) {
          const { unit } = set;
          effects.changed.push({
            item: item.name,
            attribute: set.name,
            before: has.value,
            after: set.value,
            unit,
          });
        }
        if (has.unit !== set.unit && !effects.units.some(({ attribute }) => attribute === set.name)) {
          effects.units.push({ attribute: set.name, before: has.unit, after: set.unit });
        }
        after[place] = set;
      }
    }
    effects.attributes.set(item.id, after);
  }
  return effects;
}
