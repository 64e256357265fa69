import { knownUnit } from '../quantity/units.ts';
import { csvNumber } from './csv-read.ts';
import { type ReadingsTable, guessDecimal } from './readings-table.ts';

/** What a column of a table that becomes a study may hold. */
export const STUDY_COLUMNS = [
  'ignore',
  'item',
  'readings',
  'readings-of-item',
  'measurand',
  'unit',
  'round',
  'level',
  'attribute',
  'condition',
  'moment',
  'date',
  'clock',
] as const;
export type StudyColumn = (typeof STUDY_COLUMNS)[number];

export interface StudyMatching {
  roles: StudyColumn[];
  decimal: '.' | ',';
  /** What was read, where no column says so: its name and unit. */
  measurand: string;
  unit: string;
  direction: 'higher' | 'lower' | 'unranked';
  /** What comes first in dates that do not begin with the year; undefined while nobody has said. */
  dates: 'day' | 'month' | undefined;
}

/** What is called after the head of its column. */
export const CALLED_BY_HEAD: readonly StudyColumn[] = [
  ...(['readings', 'readings-of-item', 'level', 'attribute', 'condition'] as const),
];

/** Name and unit of a column's head: “Speed (m/s)”, “Speed [m/s]”, “Speed in m/s”. */
export function headOf(column: string): { name: string; unit: string } {
  const bracketed = /[([]([^()[\]\s]{0,16})[)\]]$/.exec(column);
  const before = column.slice(0, bracketed?.index).trim();
  if (bracketed && before !== '' && !before.endsWith('dB')) return { name: before, unit: bracketed[1] ?? '' };
  const [, name = '', unit = ''] = /^(.+?)(?:,| in)\s+(\S+)$/.exec(column) ?? [];
  return name !== '' && (knownUnit(unit) !== undefined || unit.startsWith('dB'))
    ? { name: name.trim(), unit }
    : { name: column.trim(), unit: '' };
}

const NAMES: readonly (readonly [StudyColumn, RegExp])[] = [
  ['item', /^(item|name|product|sample|model|device|specimen|what|code)$/i],
  ['round', /^(round|run|rep|repeat|replicate|trial|pass|no|nr|#|n)\.?$/i],
  ['moment', /^(date ?time|date and time|timestamp|taken at|when|measured at)$/i],
  ['date', /^(date|day)$/i],
  ['clock', /^(time|clock|time of day)$/i],
  ['measurand', /^(measurand|quantity|property|test)$/i],
  ['unit', /^(unit|units)$/i],
  ['attribute', /^(price|cost|mass|weight|length|size|power|rated.*|pack.*)$/i],
  [
    'condition',
    /^(air|room|ambient|outside).*|^(temperature|temp|humidity|pressure|wind)( of (air|room))?$/i,
  ],
  ['level', /^(level|setting|speed setting|treatment|position|distance|factor|condition)$/i],
];

/** What stands in a column, empty cells aside. */
export const filled = (rows: readonly string[][], place: number): string[] =>
  rows.map((row) => (row[place] ?? '').trim()).filter((cell) => cell !== '');
const isNumber = (cell: string) =>
  csvNumber(cell, ';') !== undefined || /^\d+(:\d{1,2}){1,2}([.,]\d+)?$/.test(cell);

/** Rows that are looked at to guess what a column holds. */
const LOOKED_AT = 400;

/** What is seen of a column before it is said what it holds. */
interface SeenColumn {
  place: number;
  name: string;
  unit: string;
  /** What its name says that it holds. */
  named: StudyColumn | undefined;
  cells: string[];
  numeric: boolean;
}

function seenColumns({ columns }: ReadingsTable, rows: readonly string[][]): SeenColumn[] {
  return columns.map((column, place) => {
    const cells = filled(rows, place);
    const numbers = cells.filter(isNumber).length;
    const { name, unit } = headOf(column);
    const named = NAMES.find(([, pattern]) => pattern.test(name))?.[0];
    return { place, name, unit, named, cells, numeric: cells.length > 0 && numbers >= 0.7 * cells.length };
  });
}

/** What the names of the columns say that they hold. */
function rolesByName(columns: readonly SeenColumn[], rows: readonly string[][]): StudyColumn[] {
  const roles: StudyColumn[] = columns.map(() => 'ignore');
  const once = new Set<StudyColumn>(['item', 'round', 'moment', 'date', 'clock', 'measurand', 'unit']);
  for (const { place, name, named, numeric, unit } of columns) {
    if (named === undefined || (once.has(named) && roles.includes(named))) continue;
    if ((named === 'attribute' || named === 'condition') && !numeric) continue;
    if (named === 'clock' && unit !== '') continue;
    const set = named === 'condition' && isSet(rows, roles.indexOf('item'), place, name);
    roles[place] = set ? 'level' : named;
  }
  return roles;
}

/** A first guess at what each column of a table holds, by its name and by what is in it. */
export function guessStudyMatching(table: ReadingsTable): StudyMatching {
  const rows = table.rows.slice(0, LOOKED_AT);
  const columns = seenColumns(table, rows);
  const roles = rolesByName(columns, rows);
  const open = () => columns.filter(({ place }) => roles[place] === 'ignore');
  const words = open().filter(({ numeric, cells }) => !numeric && cells.length > 0);
  // The first column of words names the items, and others with few words are levels.
  const [first] = roles.includes('item') ? [] : words;
  if (first) roles[first.place] = 'item';
  const items = roles.indexOf('item');
  for (const { place, cells } of items === -1 ? [] : words.filter((column) => column !== first)) {
    if (new Set(cells).size <= Math.max(12, cells.length / 3)) roles[place] = 'level';
  }
  // “Power (W)” of an item that was read round by round is no attribute.
  for (const { place } of items === -1 ? [] : columns) {
    if (roles[place] === 'attribute' && !isConstant(rows, items, place)) roles[place] = 'readings';
  }
  const named = roles.includes('measurand');
  for (const { place } of open().filter(({ numeric }) => numeric)) {
    // Without a column of items, columns of figures are the items.
    if (items === -1) roles[place] = 'readings-of-item';
    else if (!named || !roles.includes('readings')) roles[place] = 'readings';
  }
  for (const { place, name } of columns) {
    if (name === '' && CALLED_BY_HEAD.includes(roles[place] as StudyColumn)) roles[place] = 'ignore';
  }
  const dated = columns.filter(({ place }) => roles[place] === 'date' || roles[place] === 'moment');
  return {
    ...{ roles, decimal: guessDecimal(table), measurand: 'Reading', unit: '', direction: 'higher' },
    dates: datesOf(dated.flatMap(({ cells }) => cells)),
  };
}

/** A date that ends with the year. */
export const OTHER_DATE = /^(\d{1,2})[./-](\d{1,2})[./-](\d{4})(?!\d)/;

/** What comes first in dates that end with the year; undefined where that is not clear. */
export function datesOf(cells: readonly string[]): StudyMatching['dates'] {
  const parts = cells.flatMap((cell) => {
    const found = OTHER_DATE.exec(cell);
    return found ? [found.slice(1, 3).map(Number)] : [];
  });
  if (parts.some(([first]) => (first as number) > 12)) return 'day';
  if (parts.some(([, second]) => (second as number) > 12)) return 'month';
  // With points between them the day comes first everywhere.
  return cells.some((cell) => /^\d{1,2}\.\d{1,2}\.\d{4}/.test(cell)) ? 'day' : undefined;
}

/** A date with the year first. */
export const yearFirst = (text: string, dates: StudyMatching['dates']): string =>
  dates === undefined
    ? text
    : text.replace(OTHER_DATE, (_all, first: string, second: string, year: string) =>
        dates === 'day' ? `${year}-${second}-${first}` : `${year}-${first}-${second}`,
      );

/** Whether a quantity was set and not only noted: a few values, each of them with several items. */
function isSet(rows: readonly string[][], items: number, place: number, name: string): boolean {
  if (items === -1 || /^(air|room|ambient|outside|humidity|wind)/i.test(name)) return false;
  const met = new Map<string, Set<string>>();
  for (const row of rows) {
    const cell = (row[place] ?? '').trim();
    if (cell !== '') met.set(cell, (met.get(cell) ?? new Set()).add((row[items] ?? '').trim().toLowerCase()));
  }
  return met.size > 1 && met.size <= 8 && [...met.values()].every(({ size }) => size > 1);
}

/** Whether a column says the same wherever an item is named. */
function isConstant(rows: readonly string[][], items: number, place: number): boolean {
  const said = new Map<string, string>();
  let repeated = false;
  for (const row of rows) {
    const [item, cell] = [(row[items] ?? '').trim().toLowerCase(), (row[place] ?? '').trim()];
    if (item === '' || cell === '') continue;
    const before = said.get(item);
    if (before !== undefined) {
      if (before !== cell) return false;
      repeated = true;
    }
    said.set(item, cell);
  }
  return repeated;
}

const ONE_OF: readonly StudyColumn[] = ['item', 'measurand', 'unit', 'round', 'moment', 'date', 'clock'];
const COLUMN_WORDS: Partial<Record<StudyColumn, string>> = {
  item: 'the item',
  measurand: 'the measurand',
  unit: 'the unit',
  round: 'the round',
  moment: 'date and time',
  date: 'the date',
  clock: 'the time of day',
};

/** Why columns matched so make no study; undefined where they do. */
export function studyMatchingProblem({ roles, measurand }: StudyMatching): string | undefined {
  const count = (role: StudyColumn) => roles.filter((other) => other === role).length;
  const twice = ONE_OF.find((role) => count(role) > 1);
  if (twice) return `Two columns are said to hold ${COLUMN_WORDS[twice] ?? twice}.`;
  const wide = count('readings-of-item') > 0;
  if (!wide && count('item') === 0) return 'Say which column holds the item, or that each column is an item.';
  if (wide && count('item') > 0) return 'Either a column names the item, or each column is one; not both.';
  if (wide && count('readings') > 0) return 'Where each column is an item, no other column holds readings.';
  if (!wide && count('readings') === 0) return 'Say which columns hold readings.';
  if (count('measurand') > 0 && count('readings') !== 1)
    return 'Where a column names the measurand, one column holds the readings.';
  if (count('attribute') > 0 && wide) return 'Attributes need a column that names the item.';
  if (wide && measurand.trim() === '') return 'Say what was read.';
  if (count('moment') > 0 && count('date') + count('clock') > 0)
    return 'Date and time are in one column, or in two; not both.';
  if (count('clock') > 0 && count('date') === 0) return 'A time of day needs a column with the date.';
  return undefined;
}
