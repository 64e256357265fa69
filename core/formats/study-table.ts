import { readingForm } from '../forms/index.ts';
import { NAME_LIMIT } from '../model/limits.ts';
import type { Item, Measurand, Reading, Session } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { newSession } from '../plan/new-parts.ts';
import { type PlanPattern, studyFromPattern } from '../plan/pattern.ts';
import { counted, listed } from '../quantity/format.ts';
import { knownUnit } from '../quantity/units.ts';
import { ALL_NUMBER, readInstant } from './cells.ts';
import {
  type ReadingsTable,
  type TableProblem,
  type TableReading,
  guessDecimal,
  plainName,
  readReadingsTable,
} from './readings-table.ts';

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

export interface StudyTableContext {
  title: string;
  seed: number;
  newId: () => string;
  now: string;
}

export interface StudyTableOutcome {
  /** The study with all its readings; undefined where the columns make none. */
  document: StudyDocument | undefined;
  readings: number;
  /** Cells that cannot be read. */
  problems: TableProblem[];
  /** What was understood in a way that should be known: names that became one, columns that are not taken. */
  notices: string[];
  /** Why columns matched so make no study. */
  refused: string | undefined;
}

/** Name and unit of a column's head: “Speed (m/s)”, “Speed [m/s]”, “Speed in m/s”. */
export function headOf(column: string): { name: string; unit: string } {
  const bracketed = /[([]([^()[\]\s]{0,16})[)\]]$/.exec(column);
  const before = column.slice(0, bracketed?.index ?? 0).trim();
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

const filled = (rows: readonly string[][], place: number): string[] =>
  rows.map((row) => (row[place] ?? '').trim()).filter((cell) => cell !== '');
const isNumber = (cell: string) => ALL_NUMBER.test(cell) || /^\d+(:\d{1,2}){1,2}([.,]\d+)?$/.test(cell);

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
  const dated = columns.filter(({ place }) => roles[place] === 'date' || roles[place] === 'moment');
  return {
    ...{ roles, decimal: guessDecimal(table), measurand: 'Reading', unit: '', direction: 'higher' },
    dates: datesOf(dated.flatMap(({ cells }) => cells)),
  };
}

const OTHER_DATE = /^(\d{1,2})[./-](\d{1,2})[./-](\d{4})(?!\d)/;

/** What comes first in dates that end with the year; undefined where that cannot be told. */
function datesOf(cells: readonly string[]): StudyMatching['dates'] {
  const parts = cells.flatMap((cell) => {
    const found = OTHER_DATE.exec(cell);
    return found ? [found.slice(1, 3).map(Number)] : [];
  });
  if (parts.some(([first]) => (first ?? 0) > 12)) return 'day';
  if (parts.some(([, second]) => (second ?? 0) > 12)) return 'month';
  // With points between them the day comes first everywhere.
  return cells.some((cell) => /^\d{1,2}\.\d{1,2}\.\d{4}/.test(cell)) ? 'day' : undefined;
}

/** A date with the year first. */
const yearFirst = (text: string, dates: StudyMatching['dates']): string =>
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

const numberOf = (cell: string, decimal: '.' | ','): number | undefined => {
  const text = decimal === ',' ? cell.trim().replace(',', '.') : cell.trim();
  return ALL_NUMBER.test(text) && Number.isFinite(Number(text)) ? Number(text) : undefined;
};

/** How a measurand is read, by its unit and by how its readings are written. */
function formFor(unit: string, cells: readonly string[]): string {
  if (cells.length > 0 && cells.every((cell) => /^\d+:\d/.test(cell))) return 'timed';
  return unit.startsWith('dB') ? 'level' : 'value';
}

/** The table with one value a row. */
interface LongTable {
  table: ReadingsTable;
  /** Of each row, the line and column of the text that it comes from. */
  from: { line: number; column: string }[];
  /** Cells without a value. */
  empty: number;
}

/** When a row was read, as it says. */
function momentWritten(row: readonly string[], { roles, dates }: StudyMatching): string {
  const cell = (role: StudyColumn) => (row[roles.indexOf(role)] ?? '').trim();
  const text = roles.includes('moment')
    ? cell('moment')
    : [cell('date'), cell('clock')].filter(Boolean).join(' ');
  return yearFirst(text, dates);
}

function longTable({ columns, rows, lines, delimiter }: ReadingsTable, matching: StudyMatching): LongTable {
  const { roles } = matching;
  const placeOf = (role: StudyColumn) => roles.indexOf(role);
  const places = (...wanted: StudyColumn[]) =>
    roles.flatMap((role, column) => (wanted.includes(role) ? [column] : []));
  const values = places('readings', 'readings-of-item');
  const levels = places('level');
  const found: LongTable = {
    table: {
      ...{ delimiter, rows: [], lines: [] },
      columns: [
        'item',
        'measurand',
        'value',
        'round',
        'time',
        ...levels.map((column) => columns[column] as string),
      ],
    },
    from: [],
    empty: 0,
  };
  const times = new Map<string, number>();
  rows.forEach((row, i) => {
    const cell = (column: number) => (column === -1 ? '' : (row[column] ?? '').trim());
    const item = nameIn(row[placeOf('item')]);
    // Without a round the n-th row of an item at a setting is its n-th reading.
    const key = [item.toLowerCase(), cell(placeOf('measurand')).toLowerCase(), ...levels.map(cell)].join(
      '\t',
    );
    const time = (times.get(key) ?? 0) + 1;
    times.set(key, time);
    for (const column of values) {
      if (cell(column) === '') {
        found.empty += 1;
        continue;
      }
      const head = columns[column] as string;
      found.table.lines.push(found.from.length);
      found.table.rows.push([
        roles[column] === 'readings-of-item' ? headOf(head).name : item,
        placeOf('measurand') === -1 ? String(column) : cell(placeOf('measurand')),
        cell(column),
        placeOf('round') === -1 ? String(time) : cell(placeOf('round')),
        momentWritten(row, matching),
        ...levels.map(cell),
      ]);
      found.from.push({ line: lines[i] as number, column: head });
    }
  });
  return found;
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
const nameIn = (cell: string | undefined): string => (cell ?? '').trim().replace(/\s+/g, ' ');

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
  return names.map((name) => ({ name: name.slice(0, NAME_LIMIT), attributes: attributes(name) }));
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
    if (numeric) levels.sort((a, b) => (a.value ?? 0) - (b.value ?? 0));
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
function planOf(table: ReadingsTable, matching: StudyMatching, notices: string[]): PlanPattern {
  const matched: MatchedTable = { ...table, roles: matching.roles, decimal: matching.decimal, notices };
  return {
    question: '',
    study: { rounds: 1 },
    items: itemsOf(matched),
    measurands: measurandsOf(matched, matching),
    factors: factorsOf(matched),
    conditions: placesOf(matched, 'condition').map((place) => {
      const { name, unit } = headOf(table.columns[place] as string);
      return { quantity: name, unit };
    }),
  };
}

/** Names that stand twice in a plan, signs and case aside: a cell could not be told to go to one of them. */
function repeated(pattern: PlanPattern): string | undefined {
  const lists: [string, string[]][] = [
    ['item', (pattern.items ?? []).map(({ name }) => name.trim().toLowerCase())],
    ['measurand', pattern.measurands.map(({ name }) => plainName(name))],
    ['factor', (pattern.factors ?? []).map(({ name }) => name.trim().toLowerCase())],
  ];
  for (const [word, names] of lists) {
    const twice = names.find((name, i) => names.indexOf(name) !== i);
    if (twice !== undefined) return `Two columns would be the ${word} “${twice}”. Ignore one of them.`;
  }
  return undefined;
}

/** Most different texts that a column may hold which makes parts of a plan. */
const MOST: Partial<Record<StudyColumn, readonly [number, string]>> = {
  item: [500, 'item'],
  measurand: [40, 'measurand'],
  level: [100, 'level'],
};

/** A column that holds so many different texts that it must be something else. */
function tooMany({ columns, rows }: ReadingsTable, { roles }: StudyMatching): string | undefined {
  for (const [place, role] of roles.entries()) {
    const most = MOST[role];
    if (!most) continue;
    const { length } = distinct(filled(rows, place)).names;
    if (length > most[0]) {
      return `“${columns[place] ?? ''}” would make ${counted(length, most[1])}. Does this column hold something else?`;
    }
  }
  return undefined;
}

/** Sessions by the day of the reading, with the conditions that stand beside the readings. */
function sessionsOf(
  document: StudyDocument,
  readings: readonly Reading[],
  conditions: readonly { takenAt: string; conditionId: string; text: string; number: number }[],
  { newId, now }: Pick<StudyTableContext, 'newId' | 'now'>,
): Session[] {
  const days = [...new Set(readings.map(({ takenAt }) => takenAt.slice(0, 10)))].sort();
  return days.map((day) => {
    const times = readings.filter(({ takenAt }) => takenAt.startsWith(day)).map(({ takenAt }) => takenAt);
    const startedAt = times.reduce((first, time) => (time < first ? time : first));
    const endedAt = times.reduce((last, time) => (time > last ? time : last));
    const last = new Map<string, number>();
    const read = conditions
      .filter(({ takenAt }) => takenAt.startsWith(day))
      .flatMap((condition): Session['conditions'] => {
        const before = last.get(condition.conditionId);
        // It is noted when it is first read, and wherever it has changed.
        if (before === condition.number) return [];
        last.set(condition.conditionId, condition.number);
        return [{ ...condition, at: before === undefined ? 'start' : 'during' }];
      })
      .slice(0, 500);
    return {
      ...{ id: newId(), studyId: document.study.id, version: 1, createdAt: now, updatedAt: now },
      ...newSession(startedAt),
      ...{ kind: 'import', endedAt, conditions: read, note: 'read in from a table' },
    };
  });
}

/** What stands beside each row as a condition, with what is wrong with it. */
function conditionsRead(
  table: ReadingsTable,
  { roles, decimal }: StudyMatching,
  document: StudyDocument,
  momentOf: (row: readonly string[]) => string,
): { read: Parameters<typeof sessionsOf>[2]; problems: TableProblem[] } {
  const problems: TableProblem[] = [];
  const places = roles.flatMap((role, place) => (role === 'condition' ? [place] : []));
  const read = places.flatMap((place, i) =>
    table.rows.flatMap((row, index) => {
      const text = (row[place] ?? '').trim();
      const number = numberOf(text, decimal);
      if (text === '') return [];
      if (number === undefined) {
        const message = `“${text.slice(0, 40)}” is no number.`;
        problems.push({
          line: table.lines[index] as number,
          column: table.columns[place] as string,
          message,
        });
        return [];
      }
      const conditionId = document.conditions[i]?.id ?? '';
      return [{ takenAt: momentOf(row), conditionId, text: text.slice(0, 60), number }];
    }),
  );
  return { read, problems };
}

/**
 * Makes a study of a table: items, measurands, factors, attributes and conditions as its columns show them, and a reading of every
 * cell that can be read. What cannot be read is said, line by line, and its row gives nothing.
 * @param onProgress told the share that is done, now and then
 */
export function studyFromTable(
  table: ReadingsTable,
  matching: StudyMatching,
  context: StudyTableContext,
  onProgress?: (share: number) => void,
): StudyTableOutcome {
  const nothing = { document: undefined, readings: 0, problems: [], notices: [] };
  const wrong = studyMatchingProblem(matching);
  if (wrong !== undefined) return { ...nothing, refused: wrong };
  const notices: string[] = [];
  const crowded = tooMany(table, matching);
  if (crowded !== undefined) return { ...nothing, refused: crowded };
  const pattern = planOf(table, matching, notices);
  const refused =
    repeated(pattern) ??
    (matching.dates === undefined && table.rows.some((row) => OTHER_DATE.test(momentWritten(row, matching)))
      ? 'Say whether the day or the month comes first in the dates.'
      : undefined) ??
    (pattern.measurands.length === 0 ? 'No column names what was read.' : undefined);
  if (refused !== undefined) return { ...nothing, notices, refused };
  const document = studyFromPattern(pattern, context);
  const long = longTable(table, matching);
  // Items are found by their names alone: a code that was made for one may be the name of another.
  const byName = { ...document, items: document.items.map((item) => ({ ...item, code: item.name })) };
  const outcome = readReadingsTable(byName, ...asReadings(document, long, matching), onProgress);
  const problems = outcome.problems.map(({ line, column, message }): TableProblem => {
    const place = long.from[line];
    return { line: place?.line ?? 0, column: column === 'value' ? (place?.column ?? '') : column, message };
  });
  const momentOf = (row: readonly string[]) => readInstant(momentWritten(row, matching)) ?? context.now;
  document.study.rounds = outcome.readings.reduce(
    (most, { round }) => Math.max(most, Math.min(500, round)),
    1,
  );
  const readings = readingsOf(document, outcome.readings, context);
  const conditions = conditionsRead(table, matching, document, momentOf);
  document.sessions = sessionsOf(document, readings, conditions.read, context);
  const sessionOf = new Map(document.sessions.map(({ id, startedAt }) => [startedAt.slice(0, 10), id]));
  document.readings = readings.map((reading) => ({
    ...reading,
    sessionId: sessionOf.get(reading.takenAt.slice(0, 10)) ?? null,
  }));
  notices.push(...understood(matching, long));
  if (!matching.roles.includes('round') && matching.roles.includes('item'))
    document.study.runOrder = 'full-shuffle';
  const unused = table.columns.filter((_, place) => matching.roles[place] === 'ignore');
  if (unused.length > 0) notices.push(`Not taken: ${listed(unused.map((column) => `“${column}”`))}.`);
  return {
    document: readings.length > 0 ? document : undefined,
    readings: readings.length,
    problems: [...problems, ...conditions.problems],
    notices,
    refused: undefined,
  };
}

/** How rows and cells were understood where the table does not say it. */
function understood({ roles }: StudyMatching, { empty }: LongTable): string[] {
  return [
    ...(empty > 0 ? [`${counted(empty, 'empty cell')}: readings that were not taken.`] : []),
    ...(roles.includes('round')
      ? []
      : roles.includes('item')
        ? ['No column says the round, so readings are compared as if they were taken in any order.']
        : ['Each row is taken as a round.']),
  ];
}

/** The table as readings of the study that was made of it. */
function asReadings(
  document: StudyDocument,
  { table }: LongTable,
  matching: StudyMatching,
): [ReadingsTable, { roles: string[]; valueMeasurand: string; decimal: '.' | ',' }] {
  const named = matching.roles.includes('measurand');
  // Columns of readings name their measurand by their place; the study has them in the same order.
  const places = matching.roles.flatMap((role, place) => (role === 'readings' ? [String(place)] : []));
  const nameOf = (said: string) =>
    document.measurands[places.indexOf(said)]?.name ?? document.measurands[0]?.name ?? '';
  const roles = [
    'item',
    'measurand',
    'value',
    'round',
    'time',
    ...document.factors.map(({ id }) => `factor/${id}`),
  ];
  return [
    named
      ? table
      : { ...table, rows: table.rows.map((row) => row.map((cell, i) => (i === 1 ? nameOf(cell) : cell))) },
    { roles, valueMeasurand: '', decimal: matching.decimal },
  ];
}

/** The readings as a study holds them, in the order of their time, or of the table. */
function readingsOf(
  { study, items, measurands }: StudyDocument,
  read: readonly TableReading[],
  { newId, now }: Pick<StudyTableContext, 'newId' | 'now'>,
): Reading[] {
  const measurandOf = new Map<string, Measurand>(measurands.map((measurand) => [measurand.id, measurand]));
  const known = new Map<string, Item>(items.map((item) => [item.id, item]));
  const inTime = read.every(({ takenAt }) => takenAt !== null)
    ? [...read].sort((a, b) => ((a.takenAt ?? '') < (b.takenAt ?? '') ? -1 : 1))
    : read;
  return inTime.flatMap((reading, place): Reading[] => {
    const measurand = measurandOf.get(reading.measurandId);
    const form = measurand && readingForm(measurand.form);
    const parts = measurand && form?.read(reading.texts, measurand);
    if (!parts || 'problem' in parts || !known.has(reading.itemId)) return [];
    return [
      {
        ...{ id: newId(), studyId: study.id, version: 1, createdAt: now, updatedAt: now },
        ...{ itemId: reading.itemId, measurandId: reading.measurandId, sessionId: null },
        ...{ round: reading.round, place, levels: reading.levels, parts: parts.parts },
        ...{ source: 'import', takenAt: reading.takenAt ?? now },
      },
    ];
  });
}
