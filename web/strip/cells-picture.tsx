import { type CellMaps, extremeCells } from '../../core/analysis/cell-maps.ts';
import { markColour, markOutline } from '../../core/model/marks.ts';
import type { Item } from '../../core/model/parts.ts';
import { formatNumber, withUnit } from '../../core/quantity/format.ts';
import { cellDecimals, cellsIn, drawnMaps } from '../../core/report/cells.ts';
import type { CellsView } from '../../core/report/report.ts';
import { useWidth } from '../ui/use-width.ts';
import { Drawing, shortened } from './drawing.tsx';

/** Numbers of cells, row by row; null where one is empty. */
type Values = readonly (number | null)[];

const WIDTH = 860;
/** A cell’s size in px, and the width that a map would like to have. */
const CELL = { most: 44, least: 9, wanted: 232 };
/** The width of a digit in px, and the room around a number. */
const DIGIT = 8.4;
const AROUND = 9;
/** The narrowest map, so that its item’s name can be read. */
const NARROWEST = 120;
const GAP = 28;
const HEAD = 30;
const SCALE = { height: 46, width: 180, bar: 12 };
/** How dark the least and the greatest cell are. */
const SHADE = { least: 0.06, greatest: 0.62 };

/**
 * Where the maps stand: all beside each other where their numbers still have room, else in lines of about as many.
 * @param room that a number needs, px
 */
function places(count: number, columns: number, width: number, room: number) {
  const widest = (width - 1) / columns;
  const inOneLine = (width - GAP * (count - 1)) / (count * columns);
  const wanted = Math.min(CELL.most, Math.max(CELL.wanted / columns, room), widest);
  const cell = Math.max(CELL.least, inOneLine >= room ? Math.min(wanted, inOneLine) : wanted);
  const mapWidth = Math.max(cell * columns, NARROWEST);
  const most = Math.max(1, Math.min(count, Math.floor((width + GAP) / (mapWidth + GAP))));
  return { cell, mapWidth, across: Math.ceil(count / Math.ceil(count / most)), hasNumbers: cell >= room };
}

const where = ({ row, column }: { row: number; column: number }): string =>
  `row ${String(row + 1)}, column ${String(column + 1)}`;

/** What readers hear of a map. */
function mapWords(name: string, values: Values, columns: number, told: (value: number) => string): string {
  const extremes = extremeCells(values, columns);
  if (!extremes) return `${name}: no cell`;
  const { least, greatest } = extremes;
  return `${name}: least ${told(least.value)} at ${where(least)}, greatest ${told(greatest.value)} at ${where(greatest)}`;
}

/** How numbers are printed and shaded: all maps on one scale. */
function scaleOf(maps: readonly Values[], view: CellsView, unit: string) {
  const all = maps.flat().filter((value) => value !== null);
  const low = all.reduce((least, value) => Math.min(least, value), Number.POSITIVE_INFINITY);
  const high = all.reduce((most, value) => Math.max(most, value), Number.NEGATIVE_INFINITY);
  const decimals = view === 'share' ? 0 : cellDecimals(all);
  const shown = (value: number) => formatNumber(value, decimals);
  return {
    shown,
    words: (value: number) => withUnit(shown(value), view === 'share' ? '%' : unit),
    shade: (value: number) =>
      SHADE.least + (SHADE.greatest - SHADE.least) * (high > low ? (value - low) / (high - low) : 0.5),
    ...{ low, high, longest: all.reduce((most, value) => Math.max(most, shown(value).length), 0) },
  };
}

/** The grids of items, cell by cell, on one scale: a map for each. */
export function CellsPicture({
  label,
  cells,
  view,
  caption,
}: {
  label: string;
  cells: CellMaps;
  view: CellsView;
  caption: string;
}) {
  const [frame, width] = useWidth<HTMLElement>(WIDTH);
  const { rows, columns, unit } = cells;
  const maps = drawnMaps(cells).map((map) => ({ item: map.item, values: cellsIn(map, view) }));
  const { low, high, longest, shown, words, shade } = scaleOf(
    maps.map(({ values }) => values),
    view,
    unit,
  );
  const { cell, mapWidth, across, hasNumbers } = places(
    maps.length,
    columns,
    width,
    AROUND + DIGIT * longest,
  );
  const mapHeight = HEAD + cell * rows;
  const bottom = Math.ceil(maps.length / across) * (mapHeight + GAP);
  return (
    <Drawing
      frame={frame}
      width={width}
      height={bottom + SCALE.height}
      label={`${label}: ${maps.map(({ item, values }) => mapWords(item.name, values, columns, words)).join('; ')}`}
      caption={caption}
    >
      {maps.map(({ item, values }, i) => (
        <g
          key={item.id}
          transform={`translate(${((i % across) * (mapWidth + GAP)).toFixed(1)} ${String(Math.floor(i / across) * (mapHeight + GAP))})`}
        >
          <MapHead item={item} width={mapWidth} />
          <g transform={`translate(0 ${String(HEAD)})`}>
            <MapCells
              columns={columns}
              cell={cell}
              values={values}
              shade={shade}
              told={words}
              shown={hasNumbers ? shown : undefined}
            />
          </g>
        </g>
      ))}
      <ShadeScale y={bottom} low={words(low)} high={words(high)} />
    </Drawing>
  );
}

function MapHead({ item: { name, mark }, width }: { item: Item; width: number }) {
  return (
    <>
      <path d={markOutline(mark)} fill={markColour(mark)} transform="translate(8 13) scale(6)" />
      <text className="strong" x={22} y={18}>
        {shortened(name, Math.floor((width - 22) / 7.6))}
      </text>
    </>
  );
}

/** The cells of one map, row by row; one that nobody filled has a broken edge. */
function MapCells({
  columns,
  cell,
  values,
  shade,
  told,
  shown,
}: {
  columns: number;
  cell: number;
  values: Values;
  shade: (value: number) => number;
  /** A number with its unit, for whoever points at a cell. */
  told: (value: number) => string;
  /** undefined where there is no room for numbers. */
  shown: ((value: number) => string) | undefined;
}) {
  return values.map((value, i) => {
    const [row, column] = [Math.floor(i / columns), i % columns];
    const [x, y] = [column * cell, row * cell];
    return (
      <g key={i}>
        <title>{`${where({ row, column })}: ${value === null ? 'empty' : told(value)}`}</title>
        <rect
          x={x + 1}
          y={y + 1}
          width={cell - 2}
          height={cell - 2}
          rx={Math.min(4, cell / 8)}
          fill={value === null ? 'none' : 'var(--fern)'}
          fillOpacity={value === null ? undefined : shade(value).toFixed(3)}
          stroke={value === null ? 'var(--quiet)' : 'none'}
          strokeDasharray="3 3"
        />
        {shown && (
          <text className="figure" x={x + cell / 2} y={y + cell / 2 + 5} textAnchor="middle">
            {value === null ? '–' : shown(value)}
          </text>
        )}
      </g>
    );
  });
}

/** Which shade is the least, and which the greatest. */
function ShadeScale({ y, low, high }: { y: number; low: string; high: string }) {
  const steps = 20;
  return (
    <g transform={`translate(0 ${String(y)})`}>
      {Array.from({ length: steps }, (_, i) => (
        <rect
          key={i}
          x={(i * SCALE.width) / steps}
          width={SCALE.width / steps}
          height={SCALE.bar}
          shapeRendering="crispEdges"
          fill="var(--fern)"
          fillOpacity={(SHADE.least + ((SHADE.greatest - SHADE.least) * i) / (steps - 1)).toFixed(3)}
        />
      ))}
      <text className="quiet" y={SCALE.bar + 17}>
        {low}
      </text>
      <text className="quiet" x={SCALE.width} y={SCALE.bar + 17} textAnchor="end">
        {high}
      </text>
    </g>
  );
}
