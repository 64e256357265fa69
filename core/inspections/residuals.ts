import { tTwoSided } from '../distributions/index.ts';
import { byText } from '../model/in-order.ts';
import type { Observation } from '../observations/observation.ts';
import { moments } from '../summary/moments.ts';
import type { InspectedMeasurand } from './inspection.ts';

/** A reading that counts, less the mean of its item at its setting. */
export interface Residual {
  observation: Observation;
  value: number;
}

/** What is left of each reading once its item and setting are taken off, in the order taken; cells of one give none. */
export function residuals({ cells }: InspectedMeasurand): { residuals: Residual[]; cells: number } {
  const filled = cells.filter(({ kept }) => kept.length > 1);
  const found = filled.flatMap(({ kept }) => {
    const { mean } = moments(kept.map(({ value }) => value as number));
    return kept.map((observation) => ({ observation, value: (observation.value as number) - mean }));
  });
  found.sort(
    (a, b) => a.observation.place - b.observation.place || byText(a.observation.id, b.observation.id),
  );
  return { residuals: found, cells: filled.length };
}

/**
 * The slope of readings along something, within cells: both are taken as distances from their cell's mean.
 * @param along one value for each reading, grouped by the cell that `cellOf` names
 * @returns undefined where there are too few, or nothing varies
 * @source analysis of covariance: Fisher (1932), Statistical Methods for Research Workers, 4th edition
 */
export function slopeWithin(
  readings: readonly { cell: string; along: number; value: number }[],
): { slope: number; se: number; df: number; p: number } | undefined {
  const cells = new Map<string, { along: number[]; value: number[] }>();
  for (const { cell, along, value } of readings) {
    const known = cells.get(cell) ?? { along: [], value: [] };
    known.along.push(along);
    known.value.push(value);
    cells.set(cell, known);
  }
  let [sxx, sxy, syy, n] = [0, 0, 0, 0];
  for (const { along, value } of cells.values()) {
    const [x, y] = [moments(along), moments(value)];
    along.forEach((figure, i) => {
      sxy += (figure - x.mean) * ((value[i] as number) - y.mean);
    });
    sxx += x.sumOfSquares;
    syy += y.sumOfSquares;
    n += along.length;
  }
  const df = n - cells.size - 1;
  if (df < 4 || sxx === 0 || syy === 0) return undefined;
  const slope = sxy / sxx;
  const se = Math.sqrt(Math.max(0, syy - slope * sxy) / df / sxx);
  return { slope, se, df, p: se === 0 ? 0 : tTwoSided(slope / se, df) };
}

/**
 * Whether two groups differ in their mean, by Welch's test.
 * @source Welch (1947), Biometrika 34
 */
export function groupsDiffer(
  a: readonly number[],
  b: readonly number[],
): { difference: number; p: number } | undefined {
  const [ofA, ofB] = [moments(a), moments(b)];
  if (ofA.n < 2 || ofB.n < 2) return undefined;
  const [va, vb] = [ofA.sumOfSquares / (ofA.n - 1) / ofA.n, ofB.sumOfSquares / (ofB.n - 1) / ofB.n];
  const variance = va + vb;
  if (variance === 0) return undefined;
  const df = variance ** 2 / (va ** 2 / (ofA.n - 1) + vb ** 2 / (ofB.n - 1));
  const difference = ofA.mean - ofB.mean;
  return { difference, p: tTwoSided(difference / Math.sqrt(variance), df) };
}
