import type { ItemReadings } from '../core/analysis/analyse.ts';
import { type CsvHeader, csvNumber, readCsv } from '../core/formats/csv-read.ts';
import { FileProblem } from '../core/formats/file-problem.ts';
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

/** What a reference reads; NaN where its cell is empty. */
function referenceIn(
  cell: string,
  column: string | undefined,
  delimiter: CsvHeader['delimiter'],
  line: number,
): number {
  if (cell.trim() === '') return Number.NaN;
  const number = csvNumber(cell, delimiter);
  if (number === undefined) {
    throw new FileProblem(`column “${column ?? ''}” is not a number: “${cell.trim().slice(0, 40)}”.`, line);
  }
  return number;
}

/**
 * The readings of a CSV file in long format, by item, in the order of the file.
 * @throws FileProblem that names the line and column of whatever cannot be used
 */
export function readReadings(
  text: string,
  {
    item,
    value,
    round,
    reference,
    factors,
  }: Pick<CommandOptions, 'item' | 'value' | 'round' | 'reference' | 'factors'>,
): FileReadings[] {
  const byItem = new Map<string, FileReadings>();
  const roundNumbers = new Map<string, number>();
  let columns = { item: -1, value: -1, round: -1, reference: -1, factors: [] as number[] };
  let delimiter: CsvHeader['delimiter'] = ',';
  /** Most decimals written so far; −1 before the first number. */
  let decimals = -1;
  readCsv(
    text,
    (header) => {
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
      delimiter = header.delimiter;
      columns = {
        item: place(item, true),
        value: place(value, true),
        round: place(round ?? 'round', round !== undefined),
        reference: reference === undefined ? -1 : place(reference, true),
        factors: factors.map((factor) => place(factor, true)),
      };
    },
    (fields, line) => {
      const name = (fields[columns.item] as string).trim();
      if (name === '') throw new FileProblem(`column “${item}” is empty.`, line);
      let readings = byItem.get(name);
      if (!readings) {
        if (byItem.size === MOST_ITEMS) {
          throw new FileProblem(
            `column “${item}” has more than ${String(MOST_ITEMS)} different items. Is it the right column?`,
            line,
          );
        }
        readings = { item: name, values: [], lines: [], missing: 0, step: 0, levels: [] };
        if (columns.round >= 0) readings.rounds = [];
        if (columns.reference >= 0) readings.references = [];
        byItem.set(name, readings);
      }
      const cell = fields[columns.value] as string;
      if (cell.trim() === '') {
        readings.missing += 1;
        return;
      }
      const number = csvNumber(cell, delimiter);
      if (number === undefined) {
        throw new FileProblem(`column “${value}” is not a number: “${cell.trim().slice(0, 40)}”.`, line);
      }
      // Only a number with more decimals than any before it can say more of the step.
      const sign = Math.max(cell.lastIndexOf('.'), cell.lastIndexOf(','));
      const behind = sign === -1 ? 0 : cell.length - sign - 1;
      if (behind > decimals) {
        decimals = behind;
        const step = stepTyped(cell.trim());
        if (step !== undefined && (readings.step === 0 || step < readings.step)) readings.step = step;
      }
      readings.values.push(number);
      readings.lines.push(line);
      if (factors.length > 0) {
        readings.levels.push(
          factors.map((factor, i) => {
            const level = (fields[columns.factors[i] as number] as string).trim();
            if (level === '') throw new FileProblem(`column “${factor}” is empty.`, line);
            return level;
          }),
        );
      }
      readings.references?.push(referenceIn(fields[columns.reference] as string, reference, delimiter, line));
      if (readings.rounds) {
        const label = (fields[columns.round] as string).trim();
        let roundNumber = roundNumbers.get(label);
        if (roundNumber === undefined) {
          roundNumber = roundNumbers.size;
          roundNumbers.set(label, roundNumber);
        }
        readings.rounds.push(roundNumber);
      }
    },
  );
  if (byItem.size === 0) throw new FileProblem('The file has a header and no readings.');
  return [...byItem.values()];
}
