import type { FormSettings } from '../model/parts.ts';
import { uniformity } from '../summary/uniformity.ts';
import type { ReadingForm } from './form.ts';
import { READ_UNIT, readParts, readUnit, setting } from './read-parts.ts';

/** More cells than this a reading cannot hold. */
export const MOST_CELLS = 900;

const ROWS = { kind: 'whole', name: 'rows', label: 'Rows', fallback: 5, low: 1, high: 60 } as const;
const COLUMNS = { kind: 'whole', name: 'columns', label: 'Columns', fallback: 5, low: 1, high: 60 } as const;
const STATISTIC = {
  kind: 'choice',
  name: 'statistic',
  label: 'Value of the grid',
  changesMeaning: true,
  fallback: 'mean',
  options: [
    { value: 'mean', label: 'Mean of the cells' },
    { value: 'christiansen', label: 'Christiansen’s uniformity', help: '100 % is perfectly even' },
    { value: 'lowQuarter', label: 'Low-quarter uniformity', help: 'the driest quarter against the mean' },
    { value: 'cv', label: 'Coefficient of variation' },
    { value: 'maxToMin', label: 'Largest to smallest' },
    { value: 'minToMean', label: 'Smallest to mean' },
  ],
} as const;

/** Evenness is better high, unevenness low. */
const LOWER_IS_BETTER: readonly string[] = ['cv', 'maxToMin'];

const RATIOS: readonly string[] = ['maxToMin', 'minToMean'];

export const gridSize = (settings: FormSettings): { rows: number; columns: number } => ({
  rows: setting(ROWS, settings),
  columns: setting(COLUMNS, settings),
});

/** Name of the part that holds a cell; rows and columns from 0. */
export const cellName = (row: number, column: number): string => `r${String(row + 1)}c${String(column + 1)}`;

/** One quantity read in rows and columns of places: catch cups, points of light on a wall. */
export const grid: ReadingForm = {
  name: 'grid',
  label: 'Grid',
  help: 'rows and columns of one quantity: how much, and how evenly',
  entry: 'cells',
  cells: gridSize,
  direction: 'higher',
  directionOf: (settings) => (LOWER_IS_BETTER.includes(setting(STATISTIC, settings)) ? 'lower' : 'higher'),
  unit: '',
  settings: [ROWS, COLUMNS, STATISTIC, READ_UNIT],
  valueUnit: (settings) => {
    const statistic = setting(STATISTIC, settings);
    return statistic === 'mean' ? undefined : RATIOS.includes(statistic) ? '' : '%';
  },
  wrongSettings: (settings) => {
    const { rows, columns } = gridSize(settings);
    return rows * columns > MOST_CELLS
      ? {
          name: 'columns',
          message: `${String(rows)} × ${String(columns)} are ${String(rows * columns)} cells; a grid has at most ${String(MOST_CELLS)}.`,
        }
      : undefined;
  },
  typicalS: ({ settings }) => {
    const { rows, columns } = gridSize(settings);
    return 60 + 8 * rows * columns;
  },
  parts({ unit, settings }) {
    const { rows, columns } = gridSize(settings);
    const read = setting(STATISTIC, settings) === 'mean' ? unit : readUnit({ settings });
    return Array.from({ length: rows * columns }, (_, i) => {
      const [row, column] = [Math.floor(i / columns), i % columns];
      return {
        name: cellName(row, column),
        label: `Row ${String(row + 1)}, column ${String(column + 1)}`,
        unit: read,
        optional: true as const,
      };
    });
  },
  read(texts, context) {
    const read = readParts(this.parts(context), texts);
    return 'parts' in read && read.parts.length === 0
      ? { problem: 'Fill in at least one cell.', part: cellName(0, 0) }
      : read;
  },
  value(parts, { settings }) {
    const cells = parts.flatMap(({ number }) => (number === null ? [] : [number]));
    const found = uniformity(cells);
    return found?.[setting(STATISTIC, settings) as 'mean'] ?? null;
  },
};
