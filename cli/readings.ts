import type { ItemReadings } from '../core/analysis/analyse.ts';
import { type CsvHeader, csvNumber, readCsv } from '../core/formats/csv-read.ts';
import { FileProblem } from '../core/formats/file-problem.ts';
import { quoted } from '../core/quantity/format.ts';
import { stepTyped } from '../core/summary/step-typed.ts';
import type { CommandOptions } from './options.ts';

/** More items than this in one column is taken for the wrong column. */
const MOST_ITEMS = 300;

export interface FileReadings extends ItemReadings {
  values: number[];
  rounds?: number[];
  /** Finest step as written, 0 where a number says nothing of it. */
  step: number;
  /** Line of each reading in the file. */
  lines: number[];
  missing: number;
  /** The reference of each reading, NaN where it has none; undefined where no column of references was named. */
  references?: number[];
  /** The levels of each reading, one per factor. */
  levels: string[][];
}

/** The finest step as written in the file; undefined where no number says anything of it. */
export function stepWritten(readings: readonly FileReadings[]): number | undefined {
  const steps = readings.flatMap(({ step }) => (step > 0 ? [step] : []));
  return steps.length === 0 ? undefined : Math.min(...steps);
}

/** Names of the columns. */
type Named = Pick<CommandOptions, 'item' | 'value' | 'round' | 'reference' | 'factors'>;

/** Where the columns stand, -1 for one that is not there. */
interface Columns extends Pick<CsvHeader, 'delimiter'> {
  item: number;
  value: number;
  round: number;
  reference: number;
  factors: number[];
}

function columnsIn(header: CsvHeader, { item, value, round, reference, factors }: Named): Columns {
  const place = (name: string, required: boolean) => {
    const column = header.columns.indexOf(name);
    if (column === -1 && required) {
      throw new FileProblem(
        `there is no column “${name}”; the columns are ${header.columns.join(', ')}.`,
        header.line,
      );
    }
    return column;
  };
  return {
    delimiter: header.delimiter,
    item: place(item, true),
    value: place(value, true),
    round: place(round ?? 'round', round !== undefined),
    reference: reference === undefined ? -1 : place(reference, true),
    factors: factors.map((factor) => place(factor, true)),
  };
}

function numberIn(cell: string, column: string, delimiter: CsvHeader['delimiter'], line: number): number {
  const number = csvNumber(cell, delimiter);
  if (number === undefined) {
    throw new FileProblem(`column “${column}” is not a number: ${quoted(cell.trim())}.`, line);
  }
  return number;
}

/** What a cell of names says. */
function nameIn(cell: string, column: string, line: number): string {
  const name = cell.trim();
  if (name === '') throw new FileProblem(`column “${column}” is empty.`, line);
  return name;
}

const decimalsWritten = (cell: string): number => {
  const sign = Math.max(cell.lastIndexOf('.'), cell.lastIndexOf(','));
  return sign === -1 ? 0 : cell.length - sign - 1;
};

/** Gives the same label the same number, counted from 0. */
function numberOf(numbers: Map<string, number>, label: string): number {
  let number = numbers.get(label);
  if (number === undefined) {
    number = numbers.size;
    numbers.set(label, number);
  }
  return number;
}

/** The readings of an item, empty ones where it is met for the first time. */
function readingsOf(
  byItem: Map<string, FileReadings>,
  name: string,
  { columns, named, line }: { columns: Columns; named: Named; line: number },
): FileReadings {
  const known = byItem.get(name);
  if (known) return known;
  if (byItem.size === MOST_ITEMS) {
    throw new FileProblem(
      `column “${named.item}” has more than ${String(MOST_ITEMS)} different items. Is it the right column?`,
      line,
    );
  }
  const readings: FileReadings = { item: name, values: [], lines: [], missing: 0, step: 0, levels: [] };
  if (columns.round >= 0) readings.rounds = [];
  if (columns.reference >= 0) readings.references = [];
  byItem.set(name, readings);
  return readings;
}

/**
 * The readings of a CSV file in long format, by item, in the order of the file.
 * @throws FileProblem that names the line and column of whatever cannot be used
 */
export function readReadings(text: string, named: Named): FileReadings[] {
  const { item, value, reference = '', factors } = named;
  const byItem = new Map<string, FileReadings>();
  const roundNumbers = new Map<string, number>();
  let columns: Columns = { item: -1, value: -1, round: -1, reference: -1, factors: [], delimiter: ',' };
  /** Most decimals written so far; −1 before the first number. */
  let decimals = -1;
  readCsv(
    text,
    (header) => {
      columns = columnsIn(header, named);
    },
    (fields, line) => {
      const cellIn = (column: number) => fields[column] as string;
      const name = nameIn(cellIn(columns.item), item, line);
      const readings = readingsOf(byItem, name, { columns, named, line });
      const cell = cellIn(columns.value);
      if (cell.trim() === '') {
        readings.missing += 1;
        return;
      }
      const number = numberIn(cell, value, columns.delimiter, line);
      // Only a number with more decimals than any before it can say more of the step.
      const written = decimalsWritten(cell);
      if (written > decimals) {
        decimals = written;
        const step = stepTyped(cell.trim());
        if (step !== undefined && (readings.step === 0 || step < readings.step)) readings.step = step;
      }
      readings.values.push(number);
      readings.lines.push(line);
      if (factors.length > 0)
        readings.levels.push(
          factors.map((factor, i) => nameIn(cellIn(columns.factors[i] as number), factor, line)),
        );
      if (readings.references) {
        const beside = cellIn(columns.reference);
        // Where its cell is empty it has none.
        readings.references.push(
          beside.trim() === '' ? Number.NaN : numberIn(beside, reference, columns.delimiter, line),
        );
      }
      readings.rounds?.push(numberOf(roundNumbers, cellIn(columns.round).trim()));
    },
  );
  if (byItem.size === 0) throw new FileProblem('The file has a header and no readings.');
  return [...byItem.values()];
}
