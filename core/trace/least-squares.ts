import { Matrix, inverse, solve } from 'ml-matrix';

/**
 * A curve with parameters: its height at x.
 * @param gradient how the height follows each parameter is written into it, where it is given
 */
export type Curve = (x: number, parameters: readonly number[], gradient?: Float64Array) => number;

export interface CurveFit {
  parameters: number[];
  /** Standard deviation of each parameter; NaN without a degree of freedom. */
  sds: number[];
  /** Sum of squared residuals. */
  residualSquares: number;
  df: number;
}

const MOST_STEPS = 200;
/** A step that changes no parameter by more than this share of it is the last. */
const STILL = 1e-9;

interface NormalEquations {
  products: Matrix;
  pull: readonly number[];
  squares: number;
}

/** The normal equations at a place: gradients times gradients, gradients times residuals, and the squared residuals. */
function normalEquations(
  xs: Float64Array,
  ys: Float64Array,
  curve: Curve,
  parameters: readonly number[],
): NormalEquations {
  const p = parameters.length;
  const sums = new Float64Array(p * p);
  const pull = new Float64Array(p);
  const gradient = new Float64Array(p);
  let squares = 0;
  for (let i = 0; i < xs.length; i += 1) {
    const residual = (ys[i] as number) - curve(xs[i] as number, parameters, gradient);
    squares += residual * residual;
    for (let row = 0; row < p; row += 1) {
      const slope = gradient[row] as number;
      pull[row] = (pull[row] as number) + slope * residual;
      for (let column = 0; column < p; column += 1) {
        const place = row * p + column;
        sums[place] = (sums[place] as number) + slope * (gradient[column] as number);
      }
    }
  }
  return { products: Matrix.from1DArray(p, p, [...sums]), pull: [...pull], squares };
}

const squaresOf = (xs: Float64Array, ys: Float64Array, curve: Curve, parameters: readonly number[]) => {
  let squares = 0;
  for (let i = 0; i < xs.length; i += 1)
    squares += ((ys[i] as number) - curve(xs[i] as number, parameters)) ** 2;
  return squares;
};

/** Products scaled so that their diagonal is 1, and the scale of each parameter. */
function scaled(products: Matrix): { scales: number[]; matrix: Matrix } | undefined {
  const scales = products.diagonal().map(Math.sqrt);
  if (scales.some((scale) => !(scale > 0) || !Number.isFinite(scale))) return undefined;
  const matrix = new Matrix(
    products
      .to2DArray()
      .map((row, i) => row.map((entry, j) => entry / ((scales[i] as number) * (scales[j] as number)))),
  );
  return { scales, matrix };
}

/**
 * Fits a curve by nonlinear least squares (Levenberg and Marquardt).
 * @param start where the search begins
 * @returns undefined where the search finds no place to rest, or the data do not settle each parameter
 * @source D. W. Marquardt, SIAM J. Appl. Math. 11 (1963) 431–441; checked with the certified sets of NIST StRD
 */
export function fitCurve(
  xs: Float64Array,
  ys: Float64Array,
  curve: Curve,
  start: readonly number[],
): CurveFit | undefined {
  let parameters = [...start];
  let damping = 1e-3;
  let equations = normalEquations(xs, ys, curve, parameters);
  let rested = false;
  for (let step = 0; step < MOST_STEPS && !rested; step += 1) {
    const frame = scaled(equations.products);
    if (!frame || !Number.isFinite(equations.squares)) return undefined;
    const { scales, matrix } = frame;
    const pull = Matrix.columnVector(scales.map((scale, i) => (equations.pull[i] as number) / scale));
    for (let tries = 0; ; tries += 1) {
      if (tries > 40) return undefined;
      const damped = Matrix.add(matrix, Matrix.eye(scales.length).mul(damping));
      const move = solve(damped, pull)
        .to1DArray()
        .map((part, i) => part / (scales[i] as number));
      const next = parameters.map((parameter, i) => parameter + (move[i] as number));
      const squares = squaresOf(xs, ys, curve, next);
      const still = move.every((part, i) => Math.abs(part) <= STILL * Math.abs(parameters[i] as number));
      if (squares <= equations.squares || still) {
        if (squares <= equations.squares) parameters = next;
        rested = still;
        damping = Math.max(1e-15, damping / 10);
        break;
      }
      damping *= 10;
    }
    equations = normalEquations(xs, ys, curve, parameters);
  }
  const frame = scaled(equations.products);
  if (!rested || !frame) return undefined;
  const { scales, matrix } = frame;
  const df = xs.length - parameters.length;
  let spread: Matrix;
  try {
    spread = inverse(matrix);
  } catch {
    return undefined;
  }
  const variance = df > 0 ? equations.squares / df : Number.NaN;
  return {
    parameters,
    sds: scales.map((scale, i) => Math.sqrt(variance * spread.get(i, i)) / scale),
    residualSquares: equations.squares,
    df,
  };
}
