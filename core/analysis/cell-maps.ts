import { cellName } from '../forms/grid.ts';
import { cellsRead } from '../forms/index.ts';
import type { Item, ReadingPart } from '../model/parts.ts';
import type { Observation } from '../observations/observation.ts';
import { moments } from '../summary/moments.ts';
import { uniformity } from '../summary/uniformity.ts';
import type { SettingAnalysis } from './analyse-study.ts';

/** Figures of a grid's evenness. */
export const CELL_FIGURES = ['christiansen', 'lowQuarter', 'cv', 'maxToMin', 'minToMean'] as const;
export type CellFigure = (typeof CELL_FIGURES)[number];

/** A cell of a grid, rows and columns from 0. */
export interface PlacedCell {
  row: number;
  column: number;
  value: number;
}

/** What the readings of an item that count say of each cell of their grid. */
export interface CellMap {
  item: Item;
  readings: number;
  /** Mean of each cell over the readings that have it, row by row; null where none has. */
  cells: (number | null)[];
  /** The same of each cell’s share of the mean of its reading, %; none where such a mean is not above 0. */
  shares: (number | null)[] | undefined;
  /** Mean of all cells of all readings, each reading counting alike. */
  mean: number;
  /** Cells that were left empty, in all readings together. */
  empty: number;
  /** Means of the readings’ own figures; null where a reading has none. */
  figures: Record<CellFigure, number | null>;
}

export interface CellMaps {
  rows: number;
  columns: number;
  /** Of the cells. */
  unit: string;
  maps: CellMap[];
}

/** The numbers of a reading’s cells, row by row; null where one was left empty. */
export function cellNumbers(
  { rows, columns }: Pick<CellMaps, 'rows' | 'columns'>,
  parts: readonly ReadingPart[],
): (number | null)[] {
  const numbers = new Map(parts.map(({ name, number }) => [name, number]));
  return Array.from(
    { length: rows * columns },
    (_, i) => numbers.get(cellName(Math.floor(i / columns), i % columns)) ?? null,
  );
}

const mean = (numbers: readonly number[]): number => moments(numbers).mean;

const known = (numbers: readonly (number | null)[]): number[] => numbers.filter((number) => number !== null);

/** The mean of numbers; null where one of them is not known, or there is none. */
function meanOfAll(numbers: readonly (number | null)[]): number | null {
  const all = known(numbers);
  return all.length === 0 || all.length < numbers.length ? null : mean(all);
}

/** The mean of each cell over the grids that have it. */
const cellMeans = (grids: readonly (readonly (number | null)[])[], count: number): (number | null)[] =>
  Array.from({ length: count }, (_, i) => {
    const there = known(grids.map((grid) => grid[i] ?? null));
    return there.length === 0 ? null : mean(there);
  });

function mapOf(
  { rows, columns }: Pick<CellMaps, 'rows' | 'columns'>,
  item: Item,
  readings: readonly Observation[],
): CellMap[] {
  const read = readings.flatMap(({ parts }) => {
    const grid = cellNumbers({ rows, columns }, parts);
    const even = uniformity(known(grid));
    return even ? [{ grid, even }] : [];
  });
  if (read.length === 0) return [];
  const grids = read.map(({ grid }) => grid);
  const shares = read.every(({ even }) => even.mean > 0)
    ? read.map(({ grid, even }) =>
        grid.map((number) => (number === null ? null : (100 * number) / even.mean)),
      )
    : undefined;
  const figure = (name: CellFigure) => meanOfAll(read.map(({ even }) => even[name]));
  return [
    {
      ...{ item, readings: read.length, mean: mean(read.map(({ even }) => even.mean)) },
      cells: cellMeans(grids, rows * columns),
      shares: shares && cellMeans(shares, rows * columns),
      empty: grids.flat().filter((number) => number === null).length,
      figures: Object.fromEntries(CELL_FIGURES.map((name) => [name, figure(name)])) as CellMap['figures'],
    },
  ];
}

/** The least and the greatest of some cells, row by row; undefined where none has a number. */
export function extremeCells(
  cells: readonly (number | null)[],
  columns: number,
): { least: PlacedCell; greatest: PlacedCell } | undefined {
  const placed = cells.flatMap((value, i): PlacedCell[] =>
    value === null ? [] : [{ row: Math.floor(i / columns), column: i % columns, value }],
  );
  const [first] = placed;
  return (
    first && {
      least: placed.reduce((least, cell) => (cell.value < least.value ? cell : least), first),
      greatest: placed.reduce((greatest, cell) => (cell.value > greatest.value ? cell : greatest), first),
    }
  );
}

/**
 * The grids of a measurand at one setting, cell by cell, of the readings that count.
 * @returns undefined where it is not read cell by cell, or no reading counts
 */
export function cellMaps(
  { measurand, readings }: Pick<SettingAnalysis, 'measurand' | 'readings'>,
  items: readonly Item[],
): CellMaps | undefined {
  const size = cellsRead(measurand);
  if (!size) return undefined;
  const counting = readings.filter(({ value, use }) => value !== null && use.is === 'kept');
  const maps = items.flatMap((item) =>
    mapOf(
      size,
      item,
      counting.filter(({ itemId }) => itemId === item.id),
    ),
  );
  return maps.length === 0 ? undefined : { ...size, maps };
}
