import { kindOfColumn } from '../conditions/index.ts';
import { readingForm } from '../forms/index.ts';
import { NAME_LIMIT, UNIT_LIMIT } from '../model/limits.ts';
import type { Item } from '../model/parts.ts';
import type { PlanPattern } from '../plan/pattern.ts';
import { counted, listed, quoted } from '../quantity/format.ts';
import { csvNumber } from './csv-read.ts';
import { type ReadingsTable, plainName } from './readings-table.ts';
import { CALLED_BY_HEAD, type StudyColumn, type StudyMatching, filled, headOf } from './study-columns.ts';

/** Texts that are the same but for case and spaces, in the order in which they come. */
function distinct(cells: readonly string[]): { names: string[]; merged: string[] } {
  const spelt = new Map<string, Set<string>>();
  for (const cell of cells) {
    const name = cell.trim().replace(/\s+/g, ' ');
    if (name === '') continue;
    const key = name.toLowerCase();
    spelt.set(key, (spelt.get(key) ?? new Set()).add(name));
  }
  const all = [...spelt.values()].map((spellings) => [...spellings]);
  return {
    names: all.map(([name]) => name as string),
    merged: all
      .filter(({ length }) => length > 1)
      .map((spellings) => listed(spellings.map((name) => `“${name}”`))),
  };
}

/** The number in a cell, by the table's decimal sign. */
export const numberOf = (cell: string, decimal: '.' | ','): number | undefined =>
  csvNumber(cell.trim(), decimal === ',' ? ';' : ',');

/** How a measurand is read, by its unit and by how its readings are written. */
function formFor(unit: string, cells: readonly string[]): string {
  if (cells.length > 0 && cells.every((cell) => /^\d+:\d/.test(cell))) return 'timed';
  return unit.startsWith('dB') ? 'level' : 'value';
}

/** A table with what its columns hold, as the parts of a plan are made of it. */
interface MatchedTable
  extends Pick<ReadingsTable, 'columns' | 'rows'>, Pick<StudyMatching, 'roles' | 'decimal'> {
  /** What was understood in a way that should be known. */
  notices: string[];
}

/** Columns with a role. */
const placesOf = ({ roles }: Pick<MatchedTable, 'roles'>, role: StudyColumn): number[] =>
  roles.flatMap((other, place) => (other === role ? [place] : []));

/** The name of an item in a cell, with single spaces. */
export const nameIn = (cell: string | undefined): string => (cell ?? '').trim().replace(/\s+/g, ' ');

/** Figures that are the same wherever an item is named. */
function attributesOf(table: MatchedTable): (item: string) => Item['attributes'] {
  const { columns, rows, decimal, notices } = table;
  const [items = -1] = placesOf(table, 'item');
  const attributes = placesOf(table, 'attribute').map((place) => {
    const said = new Map<string, Set<string>>();
    for (const row of rows) {
      const key = nameIn(row[items]).toLowerCase();
      const cell = (row[place] ?? '').trim();
      if (cell !== '') said.set(key, (said.get(key) ?? new Set()).add(cell));
    }
    return { ...headOf(columns[place] as string), said };
  });
  return (item) =>
    attributes.map(({ name, unit, said }) => {
      const [first = '', ...others] = said.get(item.toLowerCase()) ?? [];
      if (others.length > 0) notices.push(`${name} of ${item} is not always the same; ${first} is taken.`);
      return { name, unit, value: numberOf(first, decimal) ?? null };
    });
}

/** The items: the names in their column, or the heads of the columns that are one each. */
function itemsOf(table: MatchedTable): NonNullable<PlanPattern['items']> {
  const { columns, rows, notices } = table;
  const wide = placesOf(table, 'readings-of-item');
  if (wide.length > 0) return wide.map((place) => ({ name: headOf(columns[place] as string).name }));
  const { names, merged } = distinct(filled(rows, placesOf(table, 'item')[0] ?? -1));
  for (const spellings of merged) notices.push(`${spellings} are taken as one item.`);
  const attributes = attributesOf(table);
  return names.map((name) => ({ name, attributes: attributes(name) }));
}

/** What was read: of columns that are called so, of those that are an item each, or as a column names it row by row. */
function measurandsOf(table: MatchedTable, matching: StudyMatching): PlanPattern['measurands'] {
  const { columns, rows, notices } = table;
  const made = (name: string, unit: string, cells: readonly string[]) => {
    const form = formFor(unit, cells);
    const direction = { kind: matching.direction, target: null };
    return { name, form, unit: readingForm(form)?.unit || unit, direction };
  };
  const wide = placesOf(table, 'readings-of-item');
  if (wide.length > 0) {
    const cells = wide.flatMap((place) => filled(rows, place));
    return [made(matching.measurand.trim(), matching.unit.trim(), cells)];
  }
  const [named, units, readings] = (['measurand', 'unit', 'readings'] as const).map(
    (role) => placesOf(table, role)[0] ?? -1,
  ) as [number, number, number];
  if (named === -1) {
    return placesOf(table, 'readings').map((place) => {
      const { name, unit } = headOf(columns[place] as string);
      return made(name, unit, filled(rows, place));
    });
  }
  return distinct(filled(rows, named)).names.map((said) => {
    const mine = rows.filter((row) => nameIn(row[named]).toLowerCase() === said.toLowerCase());
    const { name, unit } = units === -1 ? headOf(said) : { name: said, unit: '' };
    const [first, ...others] = distinct(filled(mine, units)).names;
    if (first !== undefined && others.length > 0) {
      notices.push(`${name} has several units: ${listed([first, ...others])}. All are read as ${first}.`);
    }
    return made(name, first ?? unit, filled(mine, readings));
  });
}

/** What was varied: the levels of each column in order, numbers by their size. */
function factorsOf(table: MatchedTable): NonNullable<PlanPattern['factors']> {
  const { columns, rows, decimal } = table;
  return placesOf(table, 'level').map((place) => {
    const { name, unit } = headOf(columns[place] as string);
    const levels = distinct(filled(rows, place)).names.map((level) => ({
      name: level,
      value: numberOf(level, decimal) ?? null,
    }));
    const numeric = levels.length > 1 && levels.every(({ value }) => value !== null);
    if (numeric) levels.sort((a, b) => (a.value as number) - (b.value as number));
    return {
      ...{ name, unit: numeric ? unit : '', kind: numeric ? ('numeric' as const) : ('treatment' as const) },
      levels: levels.map((level, i) => ({
        ...level,
        value: numeric ? level.value : null,
        baseline: i === 0,
      })),
    };
  });
}

/** The plan that a table shows. */
export function planOf(table: ReadingsTable, matching: StudyMatching, notices: string[]): PlanPattern {
  const matched: MatchedTable = { ...table, roles: matching.roles, decimal: matching.decimal, notices };
  return {
    question: '',
    study: { rounds: 1 },
    items: itemsOf(matched),
    measurands: measurandsOf(matched, matching),
    factors: factorsOf(matched),
    conditions: placesOf(matched, 'condition').map((place) => {
      const { name, unit } = headOf(table.columns[place] as string);
      const isNumber = (cell: string) => numberOf(cell, matching.decimal) !== undefined;
      const kind = kindOfColumn(filled(table.rows, place), isNumber);
      return { quantity: name, kind: kind.name, unit: kind.isQuantity ? unit : '' };
    }),
  };
}

/** Names that stand twice in a plan, signs and case aside: nobody could say to which of them a cell goes. */
export function repeated({ items = [], measurands, factors = [] }: PlanPattern): string | undefined {
  const lists = [
    { word: 'item', parts: items, same: (name: string) => name.trim().toLowerCase() },
    { word: 'measurand', parts: measurands, same: plainName },
    { word: 'factor', parts: factors, same: (name: string) => name.trim().toLowerCase() },
  ];
  for (const { word, parts, same } of lists) {
    const names = parts.map(({ name }) => same(name));
    const twice = parts.find((_, i) => names.indexOf(names[i] as string) !== i);
    if (twice) return `Two columns would be the ${word} “${twice.name}”. Ignore one of them.`;
  }
  return undefined;
}

/** Most different texts that a column may hold which makes parts of a plan, and how long each may be. */
const MOST: Partial<Record<StudyColumn, { count: number; length: number; word: string }>> = {
  item: { count: 500, length: NAME_LIMIT, word: 'item' },
  measurand: { count: 40, length: NAME_LIMIT, word: 'measurand' },
  level: { count: 100, length: NAME_LIMIT, word: 'level' },
  unit: { count: 40, length: UNIT_LIMIT, word: 'unit' },
};

/** What cannot be a part of a plan: far too many of one kind, or a name or unit that is far too long. */
export function unfit({ columns, rows }: ReadingsTable, { roles, unit }: StudyMatching): string | undefined {
  const asks = 'Does this column hold something else?';
  for (const [place, role] of roles.entries()) {
    const column = columns[place] ?? '';
    if (role !== 'ignore' && column.length > NAME_LIMIT) {
      return `The head of column ${String(place + 1)} has more than ${String(NAME_LIMIT)} characters. Ignore it, or shorten it.`;
    }
    if (column === '' && CALLED_BY_HEAD.includes(role)) {
      return `Column ${String(place + 1)} has no head to call it by. Ignore it, or give it one.`;
    }
    const most = MOST[role];
    if (!most) continue;
    const { names } = distinct(filled(rows, place));
    if (names.length > most.count) {
      return `“${column}” would make ${counted(names.length, most.word)}. ${asks}`;
    }
    const long = names.find(({ length }) => length > most.length);
    if (long !== undefined) {
      return `“${column}” holds ${quoted(long)}, longer than the ${String(most.length)} characters of ${most.word === 'item' ? 'an' : 'a'} ${most.word}. ${asks}`;
    }
  }
  return unit.length > UNIT_LIMIT ? `A unit has at most ${String(UNIT_LIMIT)} characters.` : undefined;
}
