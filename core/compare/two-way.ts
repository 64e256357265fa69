import { Matrix, SingularValueDecomposition } from 'ml-matrix';
import { fUpper } from '../distributions/index.ts';
import { moments } from '../summary/moments.ts';
import { fromOneOrigin } from './anova.ts';

/** One line of a two-way analysis of variance. */
export interface TwoWayTerm {
  df: number;
  /** Sum of squares, in the readings' unit squared. */
  ss: number;
  f: number | null;
  p: number | null;
}

export interface TwoWay {
  /** What the rows do, after what the columns do. */
  rows: TwoWayTerm;
  /** What the columns do, after what the rows do. */
  columns: TwoWayTerm;
  /** Whether what the columns do depends on the row; undefined where cells are missing so that nothing of it is left. */
  interaction: TwoWayTerm | undefined;
  residual: { df: number; ss: number };
}

/** More cells than this are not taken apart: nobody reads one test of so many. */
const MOST_CELLS = 800;

interface FilledCell {
  row: number;
  column: number;
  n: number;
  mean: number;
}

/** What a model with these columns leaves unexplained of the cells' means, weighted by their counts. */
function leftBy(cells: readonly FilledCell[], design: (cell: FilledCell) => number[]): number {
  const roots = cells.map(({ n }) => Math.sqrt(n));
  const x = new Matrix(cells.map((cell, i) => design(cell).map((value) => value * (roots[i] as number))));
  const y = Matrix.columnVector(cells.map(({ mean }, i) => mean * (roots[i] as number)));
  const fitted = x.mmul(new SingularValueDecomposition(x, { autoTranspose: true }).solve(y));
  return Matrix.sub(y, fitted).norm('frobenius') ** 2;
}

const oneOf = (size: number, index: number): number[] =>
  Array.from({ length: size }, (_, i) => (i === index ? 1 : 0));

/**
 * Two-way analysis of variance with interaction, equal spread assumed; type II where counts differ. Cells may be empty.
 * @param cells readings row by row and column by column, one unit
 * @returns undefined below two rows or columns, without a second reading in any cell, or with more than 800 cells
 * @source Yates (1934), Journal of the American Statistical Association 29; checked against R's aov and anova
 */
export function twoWay(cells: readonly (readonly Float64Array[])[]): TwoWay | undefined {
  const columns = cells[0]?.length as number;
  const from = fromOneOrigin(cells.flat());
  if (from.length > MOST_CELLS) return undefined;
  const parts = from.map(moments);
  const all = parts.flatMap(({ n, mean }, i): FilledCell[] =>
    n > 0 ? [{ row: Math.floor(i / columns), column: i % columns, n, mean }] : [],
  );
  const rowsSeen = [...new Set(all.map(({ row }) => row))];
  const columnsSeen = [...new Set(all.map(({ column }) => column))];
  const residualDf = all.reduce((sum, { n }) => sum + n - 1, 0);
  if (rowsSeen.length < 2 || columnsSeen.length < 2 || residualDf < 1) return undefined;
  const total = all.reduce((sum, { n }) => sum + n, 0);
  const grand = all.reduce((sum, { n, mean }) => sum + n * mean, 0) / total;
  const filled = all.map((cell) => ({ ...cell, mean: cell.mean - grand }));
  const residual = {
    df: residualDf,
    ss: parts.reduce((sum, part) => sum + (part.n > 0 ? part.sumOfSquares : 0), 0),
  };
  const byRow = ({ row }: FilledCell) => oneOf(rowsSeen.length, rowsSeen.indexOf(row));
  const byColumn = ({ column }: FilledCell) => oneOf(columnsSeen.length, columnsSeen.indexOf(column));
  const additive = leftBy(filled, (cell) => [...byRow(cell), ...byColumn(cell)]);
  const term = (df: number, ss: number): TwoWayTerm => {
    const f = residual.ss > 0 ? ss / df / (residual.ss / residual.df) : null;
    return { df, ss, f, p: f === null ? null : fUpper(f, df, residual.df) };
  };
  const interactionDf = filled.length - rowsSeen.length - columnsSeen.length + 1;
  return {
    rows: term(rowsSeen.length - 1, leftBy(filled, byColumn) - additive),
    columns: term(columnsSeen.length - 1, leftBy(filled, byRow) - additive),
    interaction: interactionDf > 0 ? term(interactionDf, additive) : undefined,
    residual,
  };
}
