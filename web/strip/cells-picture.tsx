import type { CellMap, CellMaps } from '../../core/analysis/cell-maps.ts';
import { markColour, markOutline } from '../../core/model/marks.ts';
import type { Item } from '../../core/model/parts.ts';
import { formatNumber, withUnit } from '../../core/quantity/format.ts';
import { type CellsView, cellDecimals } from '../../core/report/cells.ts';
import { useWidth } from '../ui/use-width.ts';
import { Drawing, shortened } from './drawing.tsx';

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
function mapWords(map: CellMap, told: (value: number, map: CellMap) => string): string {
  const { item, least, greatest } = map;
  return `${item.name}: least ${told(least.value, map)} at ${where(least)}, greatest ${told(greatest.value, map)} at ${where(greatest)}`;
}

/** The grids of items, cell by cell, on one scale: a map for each. */
export function CellsPicture({
  label,
  cells: { rows, columns, unit, maps },
  view,
  caption,
}: {
  label: string;
  cells: CellMaps;
  view: CellsView;
  caption: string;
}) {
  const [frame, width] = useWidth<HTMLElement>(WIDTH);
  const told = (value: number, { mean }: CellMap) => (view === 'share' ? (100 * value) / mean : value);
  const values = maps.flatMap((map) =>
    map.cells.flatMap((value) => (value === null ? [] : [told(value, map)])),
  );
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const decimals = view === 'share' ? 0 : cellDecimals(values);
  const shown = (value: number) => formatNumber(value, decimals);
  const longest = Math.max(...values.map((value) => shown(value).length));
  const { cell, mapWidth, across, hasNumbers } = places(
    maps.length,
    columns,
    width,
    AROUND + DIGIT * longest,
  );
  const mapHeight = HEAD + cell * rows;
  const lines = Math.ceil(maps.length / across);
  const shade = (value: number) =>
    SHADE.least + (SHADE.greatest - SHADE.least) * (high > low ? (value - low) / (high - low) : 0.5);
  const words = (value: number) => withUnit(shown(value), view === 'share' ? '%' : unit);
  const bottom = lines * (mapHeight + GAP);
  return (
    <Drawing
      frame={frame}
      width={width}
      height={bottom + SCALE.height}
      label={`${label}: ${maps.map((map) => mapWords(map, (value, of) => words(told(value, of)))).join('; ')}`}
      caption={caption}
    >
      {maps.map((map, i) => (
        <g
          key={map.item.id}
          transform={`translate(${((i % across) * (mapWidth + GAP)).toFixed(1)} ${String(Math.floor(i / across) * (mapHeight + GAP))})`}
        >
          <MapHead item={map.item} width={mapWidth} />
          <g transform={`translate(0 ${String(HEAD)})`}>
            <MapCells
              columns={columns}
              cell={cell}
              values={map.cells.map((value) => (value === null ? null : told(value, map)))}
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
  values: readonly (number | null)[];
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
