import Papa from 'papaparse';
import { screenedOf } from '../analysis/observed.ts';
import { settingsRead } from '../analysis/settings.ts';
import { itemsInOrder, measurandsInOrder } from '../model/in-order.ts';
import type { Item, Measurand } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import type { Observation } from '../observations/observation.ts';
import { factorLevels } from '../plan/grid.ts';
import { harmlessCell } from './cells.ts';

export const CSV_LAYOUTS = ['long', 'wide'] as const;
export const CSV_UNITS = ['names', 'line'] as const;

export interface PlainCsvOptions {
  /** One reading a row, or a column for each item. */
  layout: (typeof CSV_LAYOUTS)[number];
  /** Of a wide table, which has one measurand; the first one when left out. */
  measurandId?: string | undefined;
  decimal: '.' | ',';
  /** Of a wide table: units in brackets behind the names, or in a line of their own under them. */
  units: (typeof CSV_UNITS)[number];
  /** Whether readings that do not count are in it. */
  leftOut: boolean;
}

type Row = (string | number)[];

/** A head with its unit: “Speed (m/s)”. */
const withUnit = (name: string, unit: string) => (unit === '' ? name : `${name} (${unit})`);

interface Table {
  head: Row;
  /** Units under the head, where they have a line of their own. */
  units?: Row;
  rows: Iterable<Row>;
}

/** The names of the levels at each setting, in the order of the factors. */
const levelNames = (document: StudyDocument): ReadonlyMap<string, string[]> =>
  new Map(settingsRead(document).map(({ key, levels }) => [key, levels.map(({ name }) => name)]));

const taken = (document: StudyDocument, measurand: Measurand, leftOut: boolean): Observation[] =>
  screenedOf(document, measurand).observations.filter(
    ({ use, value }) => value !== null && (leftOut || use.is === 'kept'),
  );

function longTable(document: StudyDocument, { leftOut }: PlainCsvOptions): Table {
  const items = new Map<string, Item>(document.items.map((item) => [item.id, item]));
  const factors = factorLevels(document).map(({ factor }) => withUnit(factor.name, factor.unit));
  const levels = levelNames(document);
  function* rows(): Generator<Row> {
    for (const measurand of measurandsInOrder(document)) {
      for (const { itemId, setting, round, value, use, takenAt } of taken(document, measurand, leftOut)) {
        yield [
          ...[items.get(itemId)?.name ?? '', measurand.name, measurand.unit, value as number, round],
          ...(levels.get(setting) ?? factors.map(() => '')),
          ...(leftOut ? (use.is === 'left out' ? ['yes', use.reason] : ['no', '']) : []),
          takenAt,
        ];
      }
    }
  }
  return {
    head: [
      ...['item', 'measurand', 'unit', 'value', 'round', ...factors],
      ...(leftOut ? ['left out', 'reason'] : []),
      'taken at',
    ],
    rows: rows(),
  };
}

/** A row for each round of each setting; where an item was read more than once in one, more rows. */
function wideTable(document: StudyDocument, { measurandId, units, leftOut }: PlainCsvOptions): Table {
  const measurands = measurandsInOrder(document);
  const measurand = measurands.find(({ id }) => id === measurandId) ?? measurands[0];
  const items = itemsInOrder(document);
  const factors = factorLevels(document);
  const levels = levelNames(document);
  const cells = new Map<string, { setting: string; round: number; values: Map<string, number[]> }>();
  for (const { itemId, setting, round, value } of measurand ? taken(document, measurand, leftOut) : []) {
    const key = `${setting} ${String(round)}`;
    const cell = cells.get(key) ?? { setting, round, values: new Map<string, number[]>() };
    cells.set(key, cell);
    cell.values.set(itemId, [...(cell.values.get(itemId) ?? []), value as number]);
  }
  const rows = [...cells.values()].flatMap(({ setting, round, values }) => {
    const most = Math.max(...[...values.values()].map(({ length }) => length));
    return Array.from({ length: most }, (_, time): Row => [
      ...[...(levels.get(setting) ?? factors.map(() => '')), round],
      ...items.map(({ id }) => values.get(id)?.[time] ?? ''),
    ]);
  });
  const unit = measurand?.unit ?? '';
  const named = units === 'names';
  return {
    head: [
      ...factors.map(({ factor }) => (named ? withUnit(factor.name, factor.unit) : factor.name)),
      'round',
      ...items.map(({ name }) => (named ? withUnit(name, unit) : name)),
    ],
    ...(named ? {} : { units: [...factors.map(({ factor }) => factor.unit), '', ...items.map(() => unit)] }),
    rows,
  };
}

/** Rows that are made into text at a time. */
const ROWS_AT_A_TIME = 2000;

/**
 * Readings as a table that holds nothing else: no comment lines, RFC 4180, texts that a spreadsheet would run made harmless.
 * With a decimal comma a semicolon stands between the columns.
 */
export function* plainCsv(document: StudyDocument, options: PlainCsvOptions): Generator<string> {
  const { head, units, rows } = (options.layout === 'wide' ? wideTable : longTable)(document, options);
  const delimiter = options.decimal === ',' ? ';' : ',';
  const cellOf = (cell: string | number): string =>
    typeof cell === 'string'
      ? harmlessCell(cell)
      : options.decimal === ','
        ? String(cell).replace('.', ',')
        : String(cell);
  const write = (lines: Row[]) =>
    `${Papa.unparse(
      lines.map((line) => line.map(cellOf)),
      { newline: '\r\n', header: false, delimiter },
    )}\r\n`;
  yield write([head, ...(units ? [units] : [])]);
  let lines: Row[] = [];
  for (const row of rows) {
    lines.push(row);
    if (lines.length < ROWS_AT_A_TIME) continue;
    yield write(lines);
    lines = [];
  }
  if (lines.length > 0) yield write(lines);
}
