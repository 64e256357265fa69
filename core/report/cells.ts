import {
  CELL_FIGURES,
  type CellFigure,
  type CellMap,
  type CellMaps,
  type PlacedCell,
  cellMaps,
  extremeCells,
} from '../analysis/cell-maps.ts';
import { itemsInOrder } from '../model/in-order.ts';
import type { Measurand } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { counted, decimalsOf, formatNumber, wordFor } from '../quantity/format.ts';
import { isTemperature } from '../quantity/units.ts';
import type { CellsView, ReportBlock, ReportTable } from './report.ts';
import type { Reported } from './reported.ts';

/** More cells than this are not drawn. */
const MOST_DRAWN = 10000;

/** The maps that are drawn: all of them, as far as there is room. */
export const drawnMaps = ({ rows, columns, maps }: CellMaps): CellMap[] =>
  maps.slice(0, Math.max(1, Math.floor(MOST_DRAWN / (rows * columns))));

/** The cells of a map as a view tells them. */
export const cellsIn = ({ cells, shares }: CellMap, view: CellsView): (number | null)[] =>
  view === 'share' ? (shares ?? []) : cells;

/** Decimals with which the greatest of some numbers keeps about three figures, and no more than they have. */
export function cellDecimals(numbers: readonly number[]): number {
  const greatest = numbers.reduce((most, number) => Math.max(most, Math.abs(number)), 0);
  const enough = greatest >= 100 ? 0 : greatest >= 10 ? 1 : 2;
  return numbers.reduce((most, number) => Math.min(enough, Math.max(most, decimalsOf(number))), 0);
}

/** The views of cells that make sense, the one that suits the measurand first: per cent of a mean needs a true zero. */
export function cellViews({ unit, maps }: CellMaps, measurand: Pick<Measurand, 'unit'>): CellsView[] {
  if (isTemperature(unit) || maps.some(({ shares }) => !shares)) return ['amount'];
  return unit === measurand.unit ? ['amount', 'share'] : ['share', 'amount'];
}

/** What the shades of cells mean, and how many were left empty. */
export function cellsCaption(maps: CellMaps, view: CellsView): string {
  const { rows, columns, unit } = maps;
  const drawn = drawnMaps(maps);
  const empty = maps.maps.reduce((sum, map) => sum + map.empty, 0);
  const all = maps.maps.reduce((sum, { readings }) => sum + readings * rows * columns, 0);
  return [
    `Mean of each cell over the readings that count, ${view === 'share' ? 'in per cent of the mean of its grid' : unit ? `in ${unit}` : 'as read'}, on one scale for all.`,
    ...(drawn.length < maps.maps.length
      ? [
          `The first ${String(drawn.length)} of ${counted(maps.maps.length, 'item')} are drawn; the table has all.`,
        ]
      : []),
    empty === 0
      ? 'No cell was left empty.'
      : `${String(empty)} of ${counted(all, 'cell')} ${wordFor(empty, 'was', 'were')} left empty.`,
  ].join(' ');
}

const HEADS: Record<CellFigure, string> = {
  christiansen: 'Christiansen, %',
  lowQuarter: 'Low quarter, %',
  cv: 'CV, %',
  maxToMin: 'Max/min',
  minToMean: 'Min/mean',
};
const IN_PER_CENT: readonly CellFigure[] = ['christiansen', 'lowQuarter', 'cv'];

/** How evenly each item covers its grid: the means of the readings’ own figures. */
export function cellTable({ columns, unit, maps }: CellMaps): ReportTable {
  const decimals = cellDecimals(maps.flatMap(({ cells }) => cells.filter((cell) => cell !== null)));
  const placed = (cell: PlacedCell | undefined) =>
    cell
      ? `${formatNumber(cell.value, decimals)} (${String(cell.row + 1)}, ${String(cell.column + 1)})`
      : '–';
  const figure = ({ figures }: CellMap, name: CellFigure) => {
    const value = figures[name];
    return value === null ? '–' : formatNumber(value, IN_PER_CENT.includes(name) ? 1 : 2);
  };
  return {
    caption: 'Evenness of the grid: means over the readings that count; in brackets row and column',
    figures: [1, 2, ...CELL_FIGURES.map((_, i) => 3 + i), 8, 9],
    head: [
      ...['Item', 'Readings', `Mean${unit && `, ${unit}`}`, ...CELL_FIGURES.map((name) => HEADS[name])],
      ...['Least cell', 'Greatest cell'],
    ],
    rows: maps.map((map) => {
      const extremes = extremeCells(map.cells, columns);
      return [
        { text: map.item.name, mark: map.item.mark },
        { text: String(map.readings) },
        { text: formatNumber(map.mean, decimals) },
        ...CELL_FIGURES.map((name) => ({ text: figure(map, name) })),
        { text: placed(extremes?.least) },
        { text: placed(extremes?.greatest) },
      ];
    }),
  };
}

/** The grid of a measurand that is read cell by cell at its only setting: a map for each item, and how even they are. */
export function cellBlocks(document: StudyDocument, { measurand, setting, all }: Reported): ReportBlock[] {
  const cells = all.length > 0 ? undefined : cellMaps(setting, itemsInOrder(document));
  const [view] = cells ? cellViews(cells, measurand) : [];
  if (!cells || !view) return [];
  return [
    {
      kind: 'picture',
      picture: { of: 'cells', measurandId: measurand.id, settingKey: setting.setting.key, view },
      caption: cellsCaption(cells, view),
    },
    { kind: 'table', table: cellTable(cells) },
  ];
}
