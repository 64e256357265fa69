import { CholeskyDecomposition, Matrix } from 'ml-matrix';
import { moments } from '../summary/moments.ts';

/** A grouping of readings whose groups are a sample of all that there could be: sessions, operators. */
export interface Grouping {
  /** Group of each reading, from 0. */
  groups: readonly number[];
  count: number;
}

export interface VarianceComponents {
  /** Variance between the groups of each grouping, in the square of the unit; 0 where there is none to be seen. */
  between: number[];
  /** Variance of a repeat: what no grouping explains. */
  residual: number;
  /** Readings less the fixed means. */
  df: number;
}

/** The sums that the likelihood is made of, less what the fixed means explain. */
interface Sums {
  /** Of each pair of groups, over all groupings in a row. */
  cross: Matrix;
  withValues: Float64Array;
  squares: number;
  /** To which grouping each group belongs. */
  owner: number[];
  df: number;
}

/** Takes the mean of each cell off the values and off what marks the groups. */
function sumsOf(values: readonly number[], cells: readonly number[], groupings: readonly Grouping[]): Sums {
  const counts = new Map<number, number>();
  for (const cell of cells) counts.set(cell, (counts.get(cell) ?? 0) + 1);
  const means = new Map<number, number>();
  for (const cell of counts.keys()) {
    means.set(cell, moments(values.filter((_, i) => cells[i] === cell)).mean);
  }
  const centred = values.map((value, i) => value - (means.get(cells[i] as number) as number));
  const owner = groupings.flatMap(({ count }, grouping) => Array<number>(count).fill(grouping));
  const offsets = groupings.map((_, grouping) => owner.indexOf(grouping));
  const size = owner.length;
  const cross = Matrix.zeros(size, size);
  const withValues = new Float64Array(size);
  /** How many readings of each group lie in each cell. */
  const inCell = new Map<number, Float64Array>();
  centred.forEach((value, i) => {
    const groups = groupings.map(
      ({ groups: of }, grouping) => (offsets[grouping] as number) + (of[i] as number),
    );
    let share = inCell.get(cells[i] as number);
    if (!share) {
      share = new Float64Array(size);
      inCell.set(cells[i] as number, share);
    }
    for (const a of groups) {
      share[a] = (share[a] as number) + 1;
      withValues[a] = (withValues[a] as number) + value;
      for (const b of groups) cross.set(a, b, cross.get(a, b) + 1);
    }
  });
  for (const [cell, share] of inCell) {
    const n = counts.get(cell) as number;
    const there = [...share.keys()].filter((a) => (share[a] as number) > 0);
    for (const a of there) {
      for (const b of there)
        cross.set(a, b, cross.get(a, b) - ((share[a] as number) * (share[b] as number)) / n);
    }
  }
  return {
    ...{ cross, withValues, owner },
    squares: centred.reduce((sum, value) => sum + value * value, 0),
    df: values.length - counts.size,
  };
}

/** What of the squares is left when groups have `ratios` times the variance of a repeat, and the log of the determinant. */
function penalised({ cross, withValues, squares, owner }: Sums, ratios: readonly number[]) {
  const scale = owner.map((grouping) => Math.sqrt(ratios[grouping] as number));
  const size = owner.length;
  const system = Matrix.eye(size, size);
  const right = Matrix.zeros(size, 1);
  for (let a = 0; a < size; a += 1) {
    right.set(a, 0, (scale[a] as number) * (withValues[a] as number));
    for (let b = 0; b < size; b += 1) {
      system.set(a, b, system.get(a, b) + (scale[a] as number) * (scale[b] as number) * cross.get(a, b));
    }
  }
  const factor = new CholeskyDecomposition(system);
  const solved = factor.solve(right);
  let [explained, logDeterminant] = [0, 0];
  for (let a = 0; a < size; a += 1) {
    explained += right.get(a, 0) * solved.get(a, 0);
    logDeterminant += 2 * Math.log(factor.lowerTriangularMatrix.get(a, a));
  }
  return { left: Math.max(squares - explained, 1e-12 * squares), logDeterminant };
}

const GOLDEN = (Math.sqrt(5) - 1) / 2;
/** A ratio of variances is searched for as t/(1 − t), t from 0 up to this. */
const MOST = 1 - 1e-9;
const ROUNDS = 60;

/** Where between two ends a function of one dip is least. */
function least(of: (x: number) => number, low: number, high: number): number {
  let [a, b] = [low, high];
  let [c, d] = [b - GOLDEN * (b - a), a + GOLDEN * (b - a)];
  let [atC, atD] = [of(c), of(d)];
  while (b - a > 1e-7 * (1 - b) + 1e-12) {
    if (atC < atD) {
      [b, d, atD] = [d, c, atC];
      c = b - GOLDEN * (b - a);
      atC = of(c);
    } else {
      [a, c, atC] = [c, d, atD];
      d = a + GOLDEN * (b - a);
      atD = of(d);
    }
  }
  const middle = (a + b) / 2;
  return of(low) <= of(middle) ? low : middle;
}

/**
 * Variance components of readings around fixed means: what groups differ by, and what is left between repeats. By
 * restricted maximum likelihood, so that any counts will do; in a balanced study with no negative estimate it is the
 * analysis of variance by expected mean squares.
 * @param values readings, in any unit
 * @param cells which fixed mean each belongs to: item and setting
 * @param groupings random groupings, crossed or nested as they are
 * @returns undefined without a repeat to go by, and where all readings are equal
 * @source Patterson and Thompson (1971), Biometrika 58; the profile of Bates et al. (2015), Journal of Statistical
 *   Software 67, equation 41
 */
export function varianceComponents(
  values: readonly number[],
  cells: readonly number[],
  groupings: readonly Grouping[],
): VarianceComponents | undefined {
  const sums = sumsOf(values, cells, groupings);
  if (sums.df < 2 || sums.squares === 0) return undefined;
  const criterion = (ratios: readonly number[]): number => {
    const { left, logDeterminant } = penalised(sums, ratios);
    return logDeterminant + sums.df * Math.log(left);
  };
  const ratioAt = (t: number) => t / (1 - t);
  const shares = groupings.map(() => 0.5);
  let best = criterion(shares.map(ratioAt));
  for (let round = 0; round < ROUNDS; round += 1) {
    groupings.forEach((_, grouping) => {
      shares[grouping] = least(
        (t) => criterion(shares.map((there, i) => ratioAt(i === grouping ? t : there))),
        0,
        MOST,
      );
    });
    const found = criterion(shares.map(ratioAt));
    if (best - found < 1e-10 * Math.abs(best)) break;
    best = found;
  }
  const ratios = shares.map(ratioAt);
  const residual = penalised(sums, ratios).left / sums.df;
  return { between: ratios.map((ratio) => ratio * residual), residual, df: sums.df };
}
