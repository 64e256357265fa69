import Papa from 'papaparse';
import { readingForm } from '../forms/index.ts';
import { itemsInOrder } from '../model/in-order.ts';
import type { Factor, Level, Measurand, Reading, RunRef } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { measurandsRead, settingKey } from '../plan/grid.ts';
import { runQueue } from '../bench/queue.ts';
import { runOfReading } from '../bench/run-records.ts';
import { counted, formatNumber, quoted } from '../quantity/format.ts';
import { readInstant, readRound } from './cells.ts';
import { type CsvHeader, guessDelimiter } from './csv-read.ts';

/** Readings in one table at most. */
export const MOST_ROWS = 200000;
const MOST_COLUMNS = 200;

export type Delimiter = CsvHeader['delimiter'];

/** A table of readings as it was read, before anything is made of it. */
export interface ReadingsTable {
  delimiter: Delimiter;
  columns: string[];
  rows: string[][];
  /** Line of the text on which each row begins, from 1. */
  lines: number[];
}

/**
 * What a column holds: nothing of use, the item, the round, the time, the name of a measurand, its value, a level of a
 * factor (`factor/<id>`), or a part of a measurand (`part/<measurand id>/<part>`).
 */
export type ColumnRole = string;

export interface Matching {
  roles: ColumnRole[];
  /** The measurand of the value column where no column names it. */
  valueMeasurand: string;
  decimal: '.' | ',';
}

/** Something wrong in the table, with its place. */
export interface TableProblem {
  line: number;
  /** Name of the column; empty where the whole row is meant. */
  column: string;
  message: string;
}

/** One reading that the table holds. */
export interface TableReading {
  itemId: string;
  measurandId: string;
  levels: Reading['levels'];
  round: number;
  texts: Record<string, string>;
  takenAt: string | null;
  line: number;
}

export interface TableOutcome {
  readings: TableReading[];
  problems: TableProblem[];
  /** Rows that hold at least one problem; nothing of them is taken. */
  badRows: number;
}

/**
 * Takes a table of readings apart.
 * @param delimiter guessed from the header where it is not given
 * @returns the table, or in one sentence why it is none
 */
export function parseReadingsTable(text: string, delimiter?: Delimiter): ReadingsTable | { problem: string } {
  const marked = text.replace(/^\ufeff/, '');
  const body = marked.includes('\n') ? marked : marked.replaceAll('\r', '\n');
  if (body.trim() === '') return { problem: 'There is nothing to read.' };
  if (body.includes('\u0000')) return { problem: 'This is not text.' };
  const chosen = delimiter ?? guessDelimiter(/^(?:#.*\r?\n|\s*\n)*(.*)/.exec(body)?.[1] ?? '');
  const lines: number[] = [];
  const rows: string[][] = [];
  let line = 1;
  let before = 0;
  let broken: number | undefined;
  Papa.parse<string[]>(body, {
    delimiter: chosen,
    comments: '#',
    step({ data, errors, meta }) {
      const inner = data.reduce(
        (sum, cell) => sum + (cell.includes('\n') ? cell.split('\n').length - 1 : 0),
        0,
      );
      const end = Math.max(before, meta.cursor - 1);
      for (
        let place = body.indexOf('\n', before);
        place !== -1 && place < end;
        place = body.indexOf('\n', place + 1)
      )
        line += 1;
      before = end;
      if (errors.some(({ type }) => type === 'Quotes')) broken ??= line - inner;
      if (data.some((cell) => cell.trim() !== '')) {
        lines.push(line - inner);
        rows.push(data);
      }
    },
  });
  if (broken !== undefined) return { problem: `Line ${String(broken)}: a quote is opened and not closed.` };
  const columns = rows.shift()?.map((cell) => cell.trim().replace(/\s+/g, ' ')) ?? [];
  lines.shift();
  if (columns.length < 2) {
    return { problem: 'Only one column was found. Is another sign between the columns?' };
  }
  if (columns.length > MOST_COLUMNS)
    return { problem: `At most ${String(MOST_COLUMNS)} columns can be read.` };
  const twice = columns.find((name, place) => name !== '' && columns.indexOf(name) !== place);
  if (twice !== undefined) return { problem: `The column “${twice}” is there twice.` };
  if (rows.length === 0) return { problem: 'There is a header and no row.' };
  if (rows.length > MOST_ROWS) {
    return {
      problem: `The table has ${formatNumber(rows.length, 0)} rows; ${formatNumber(MOST_ROWS, 0)} can be read at a time.`,
    };
  }
  return { delimiter: chosen, columns, rows, lines };
}

/** What is wrong with a row of another length than the head. */
export const raggedWords = (cells: number, columns: number): string =>
  `${counted(cells, 'cell')}, where the header has ${String(columns)}.`;

/** A name without case, signs, and what is in brackets. */
export const plainName = (text: string): string =>
  text
    .toLowerCase()
    .replace(/[([][^()[\]]*[)\]]/g, ' ')
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

/** Parts of a measurand that a column can hold. */
export const partRoles = (measurand: Measurand): { role: ColumnRole; label: string }[] => {
  const parts = (readingForm(measurand.form)?.parts(measurand) ?? []).filter(({ made }) => !made);
  const needed = parts.filter(({ optional }) => !optional);
  return parts.map(({ name, label }) => ({
    role: `part/${measurand.id}/${name}`,
    label: needed.length === 1 && needed[0]?.name === name ? measurand.name : `${measurand.name}: ${label}`,
  }));
};

const GUESSES: readonly (readonly [ColumnRole, RegExp])[] = [
  ['item', /^(item|name|product|sample|code|item code)$/],
  ['round', /^(round|run|rep|repeat|replicate|pass)$/],
  ['time', /^(time|date|taken at|timestamp|date time|when|measured at)$/],
  ['measurand', /^(measurand|quantity|what|property)$/],
  ['value', /^(value|reading|result|measured)$/],
];

/** Which decimal sign most numbers of a table have. */
export function guessDecimal({ rows, delimiter }: ReadingsTable): '.' | ',' {
  if (delimiter === ',') return '.';
  let points = 0;
  let commas = 0;
  for (const row of rows.slice(0, 1000)) {
    for (const cell of row) {
      if (/^\s*[-+]?\d+\.\d+/.test(cell)) points += 1;
      else if (/^\s*[-+]?\d+,\d+/.test(cell)) commas += 1;
    }
  }
  return commas > points ? ',' : '.';
}

/** A first guess at what the columns hold, by their names. */
export function guessMatching(document: StudyDocument, table: ReadingsTable): Matching {
  const measurands = measurandsRead(document);
  const known = new Map<string, ColumnRole>();
  for (const { id, name } of document.factors) known.set(plainName(name), `factor/${id}`);
  for (const measurand of measurands) {
    for (const { role, label } of partRoles(measurand)) known.set(plainName(label), role);
  }
  const taken = new Set<ColumnRole>();
  const take = (role: ColumnRole | undefined): ColumnRole => {
    if (role === undefined || taken.has(role)) return 'ignore';
    taken.add(role);
    return role;
  };
  const roles = table.columns.map((column) => {
    const name = plainName(column);
    return take(known.get(name) ?? GUESSES.find(([, pattern]) => pattern.test(name))?.[0]);
  });
  return { roles, valueMeasurand: measurands[0]?.id ?? '', decimal: guessDecimal(table) };
}

/** Why columns matched so give no readings; undefined where they do. */
export function matchingProblem(
  document: StudyDocument,
  { roles, valueMeasurand }: Matching,
): string | undefined {
  const has = (role: ColumnRole) => roles.includes(role);
  const twice = roles.find((role, place) => role !== 'ignore' && roles.indexOf(role) !== place);
  if (twice !== undefined) return 'Two columns are said to hold the same.';
  if (!has('item')) return 'Say which column holds the item.';
  const parts = roles.some((role) => role.startsWith('part/'));
  if (!has('value') && !parts)
    return 'Say which column holds the values, or which columns hold the measurands.';
  if (has('measurand') && !has('value')) return 'A column names the measurand, and none holds the value.';
  const single = measurandsRead(document).find(({ id }) => id === valueMeasurand);
  if (has('value') && !has('measurand') && !single) return 'Say which measurand the values are of.';
  const factor = document.factors.find(
    ({ id }) => document.levels.some(({ factorId }) => factorId === id) && !has(`factor/${id}`),
  );
  return factor && `Say which column holds the level of ${factor.name}.`;
}

/** The part that a lone value of a measurand goes to; undefined where it has several. */
function lonePart(measurand: Measurand): string | undefined {
  const needed = (readingForm(measurand.form)?.parts(measurand) ?? []).filter(({ optional }) => !optional);
  return needed.length === 1 ? needed[0]?.name : undefined;
}

const OTHER_SIGN = { '.': /\d,\d/, ',': /\d\.\d/ } as const;

function levelNamed(factor: Factor, levels: readonly Level[], text: string): Level | undefined {
  const wanted = text.trim().toLowerCase();
  const number = Number(wanted.replace(',', '.'));
  const ofFactor = levels.filter(({ factorId }) => factorId === factor.id);
  return (
    ofFactor.find(({ name }) => name.toLowerCase() === wanted) ??
    (wanted === '' ? undefined : ofFactor.find(({ value }) => value !== null && value === number))
  );
}

/** For each item, measurand and setting the rounds that have a reading, and the round from which one may be open. */
class RoundsRead {
  private readonly cells = new Map<string, { read: Set<number>; next: number }>();

  constructor(document: StudyDocument) {
    const mark = ({ itemId, measurandId, levelIds, round }: RunRef) =>
      this.of(itemId, measurandId, settingKey(levelIds)).read.add(round);
    runQueue(document)
      .filter(({ state }) => state === 'done')
      .forEach(mark);
    // Beyond the plan, a round that was read is not read again either.
    document.readings
      .map(runOfReading)
      .filter(({ round }) => round > document.study.rounds)
      .forEach(mark);
  }

  of(itemId: string, measurandId: string, setting: string) {
    const key = `${itemId}/${measurandId}/${setting}`;
    const known = this.cells.get(key) ?? { read: new Set(), next: 1 };
    this.cells.set(key, known);
    return known;
  }
}

/** A study and the columns of a table, as its rows ask for them. */
function lookup(document: StudyDocument, { roles }: Matching) {
  const placeOf = (role: ColumnRole) => roles.indexOf(role);
  const measurands = measurandsRead(document);
  const named = new Map<string, string[]>();
  for (const { id, name, code } of itemsInOrder(document)) {
    for (const word of new Set([name.trim().toLowerCase(), code.toLowerCase()])) {
      named.set(word, [...(named.get(word) ?? []), id]);
    }
  }
  return {
    levels: document.levels,
    column: {
      ...{ item: placeOf('item'), round: placeOf('round'), time: placeOf('time') },
      ...{ measurand: placeOf('measurand'), value: placeOf('value') },
    },
    itemsNamed: named,
    measurandById: new Map(measurands.map((measurand) => [measurand.id, measurand])),
    measurandByName: new Map(measurands.map((measurand) => [plainName(measurand.name), measurand])),
    parts: roles.flatMap((role, column) => {
      const [kind, measurandId, part] = role.split('/');
      return kind === 'part' ? [{ column, measurandId: measurandId as string, part: part as string }] : [];
    }),
    factors: document.factors.flatMap((factor) => {
      const column = placeOf(`factor/${factor.id}`);
      return column === -1 ? [] : [{ factor, column }];
    }),
  };
}
type Lookup = ReturnType<typeof lookup>;

/** A row of a table, and what is wrong with it. */
interface TableRow {
  /** Text of a column, trimmed; '' for a column that there is not. */
  cell: (column: number) => string;
  problems: TableProblem[];
  wrong: (column: number, message: string) => void;
}

function itemOf({ cell, wrong }: TableRow, { column, itemsNamed }: Lookup): string | undefined {
  const text = cell(column.item);
  const items = itemsNamed.get(text.toLowerCase()) ?? [];
  if (text === '') wrong(column.item, 'No item is named.');
  else if (items.length === 0) wrong(column.item, `The study has no item ${quoted(text)}.`);
  else if (items.length > 1)
    wrong(column.item, `${quoted(text)} is the name of one item and the code of another.`);
  return items[0];
}

const levelsOf = ({ cell, wrong }: TableRow, { factors, levels }: Lookup): Reading['levels'] =>
  factors.flatMap(({ factor, column }) => {
    const level = levelNamed(factor, levels, cell(column));
    if (!level) wrong(column, `${factor.name} has no level ${quoted(cell(column))}.`);
    return level ? [{ factorId: factor.id, levelId: level.id }] : [];
  });

/** The round that a row names; undefined where it names none. */
function roundOf({ cell, wrong }: TableRow, { column }: Lookup): number | undefined {
  const text = cell(column.round);
  const round = text === '' ? undefined : readRound(text);
  if (text !== '' && round === undefined)
    wrong(column.round, `${quoted(text)} is no round; rounds are whole numbers from 1.`);
  return round;
}

function timeOf({ cell, wrong }: TableRow, { column }: Lookup): string | null {
  const text = cell(column.time);
  const time = text === '' ? null : (readInstant(text) ?? null);
  if (text !== '' && time === null)
    wrong(column.time, `${quoted(text)} is no date and time such as 2026-07-04 10:30.`);
  return time;
}

/** What stands in a row of a measurand, part by part, and in which column last. */
interface Given {
  texts: Record<string, string>;
  column: number;
}

/** What a row holds of each measurand. */
function givenIn(row: TableRow, found: Lookup, { valueMeasurand, decimal }: Matching): Map<string, Given> {
  const { cell, wrong } = row;
  const { column: columnOf } = found;
  const given = new Map<string, Given>();
  const put = (measurandId: string, part: string, column: number) => {
    const text = cell(column);
    if (text === '') return;
    const texts = { ...given.get(measurandId)?.texts, [part]: text.slice(0, 60) };
    given.set(measurandId, { texts, column });
    if (text.length > 60) wrong(column, 'This is too long for a reading.');
    else if (OTHER_SIGN[decimal].test(text) && !text.includes(':')) {
      wrong(
        column,
        `“${text}” has a decimal ${decimal === '.' ? 'comma' : 'point'}, where the table has ${decimal === '.' ? 'points' : 'commas'}.`,
      );
    }
  };
  if (columnOf.value !== -1) {
    const named = cell(columnOf.measurand);
    const measurand =
      columnOf.measurand === -1
        ? found.measurandById.get(valueMeasurand)
        : found.measurandByName.get(plainName(named));
    const part = measurand && lonePart(measurand);
    if (!measurand) wrong(columnOf.measurand, `The study has no measurand ${quoted(named)} to read.`);
    else if (part === undefined)
      wrong(columnOf.value, `${measurand.name} is read in several parts; give each a column of its own.`);
    else put(measurand.id, part, columnOf.value);
  }
  for (const { column, measurandId, part } of found.parts) put(measurandId, part, column);
  return given;
}

/** A reading of a row, and the rounds of its cell, in which it is not noted yet. */
interface Taken {
  reading: TableReading;
  rounds: ReturnType<RoundsRead['of']>;
}

/** The readings that a row holds; what is wrong with it is said to the row. */
function readingsIn(
  row: TableRow,
  line: number,
  { found, matching, read }: { found: Lookup; matching: Matching; read: RoundsRead },
): Taken[] {
  const itemId = itemOf(row, found);
  const levels = levelsOf(row, found);
  const round = roundOf(row, found);
  const takenAt = timeOf(row, found);
  const given = givenIn(row, found, matching);
  const setting = levels.length === 0 ? '' : settingKey(levels.map(({ levelId }) => levelId));
  if (given.size === 0 && row.problems.length === 0) row.wrong(-1, 'The row holds no value.');
  return [...given].flatMap(([measurandId, { texts, column }]): Taken[] => {
    const measurand = found.measurandById.get(measurandId);
    const form = measurand && readingForm(measurand.form);
    if (!measurand || !form || itemId === undefined) return [];
    const understood = form.read(texts, measurand);
    if ('problem' in understood) {
      row.wrong(column, understood.problem);
      return [];
    }
    const rounds = read.of(itemId, measurandId, setting);
    let next = round ?? rounds.next;
    if (round === undefined) while (rounds.read.has(next)) next += 1;
    else if (rounds.read.has(round)) {
      row.wrong(
        found.column.round,
        `${row.cell(found.column.item)} has a reading of ${measurand.name} in round ${String(round)} already.`,
      );
    }
    return [{ reading: { itemId, measurandId, levels, round: next, texts, takenAt, line }, rounds }];
  });
}

/**
 * Makes readings of a table. A row with anything wrong gives none, and says what and where; nothing is guessed at.
 * @param onProgress hears the share that is done, now and then
 */
export function readReadingsTable(
  document: StudyDocument,
  table: ReadingsTable,
  matching: Matching,
  onProgress?: (share: number) => void,
): TableOutcome {
  const context = { found: lookup(document, matching), matching, read: new RoundsRead(document) };
  const problems: TableProblem[] = [];
  const readings: TableReading[] = [];
  let badRows = 0;
  table.rows.forEach((row, i) => {
    if (onProgress && i % 5000 === 0) onProgress(i / table.rows.length);
    const line = table.lines[i] as number;
    const asked: TableRow = {
      problems: [],
      cell: (column) => (column === -1 ? '' : (row[column] ?? '').trim()),
      wrong: (column, message) => {
        asked.problems.push({ line, column: table.columns[column] ?? '', message });
      },
    };
    if (row.length !== table.columns.length) asked.wrong(-1, raggedWords(row.length, table.columns.length));
    const taken = readingsIn(asked, line, context);
    if (asked.problems.length > 0) {
      badRows += 1;
      problems.push(...asked.problems);
      return;
    }
    for (const { reading, rounds } of taken) {
      rounds.read.add(reading.round);
      rounds.next = reading.round + 1;
      readings.push(reading);
    }
  });
  onProgress?.(1);
  return { readings, problems, badRows };
}

/** Readings in the short form in which they are sent: each points to its item, measurand and setting by number. */
export function packReadings(readings: readonly TableReading[]) {
  const numbers = <T>() => {
    const known = new Map<string, number>();
    const values: T[] = [];
    return {
      values,
      of: (key: string, value: T): number => {
        let number = known.get(key);
        if (number === undefined) {
          number = values.length;
          known.set(key, number);
          values.push(value);
        }
        return number;
      },
    };
  };
  const items = numbers<string>();
  const measurands = numbers<string>();
  const settings = numbers<Reading['levels']>();
  const rows = readings.map(({ itemId, measurandId, levels, round, texts, takenAt }) => ({
    item: items.of(itemId, itemId),
    measurand: measurands.of(measurandId, measurandId),
    setting: settings.of(levels.map(({ levelId }) => levelId).join('/'), levels),
    round,
    texts,
    takenAt,
  }));
  return { items: items.values, measurands: measurands.values, settings: settings.values, rows };
}
