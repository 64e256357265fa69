import { Matrix, solve } from 'ml-matrix';
import type { CompleteRounds } from './complete-rounds.ts';

/** Readings of items in rounds, gaps allowed: what drifts between rounds is shared within one. */
export interface Blocks {
  items: number;
  rounds: number;
  /** Round by round, one cell an item: the mean of what was read of it in that round, NaN where nothing was. */
  cells: Float64Array;
}

/**
 * Puts readings into rounds. A reading whose round is NaN belongs to none.
 * @param kept readings of each item that count
 * @param rounds the round of each, undefined where an item's readings have none
 * @returns undefined where no two items share a round twice
 */
export function blocksOf(
  kept: readonly Float64Array[],
  rounds: readonly (Float64Array | undefined)[],
): Blocks | undefined {
  const k = kept.length;
  if (k < 2) return undefined;
  const rows = new Map<number, number>();
  for (const ofItem of rounds) {
    if (!ofItem) continue;
    for (let i = 0; i < ofItem.length; i += 1) {
      const round = ofItem[i] as number;
      if (!Number.isNaN(round) && !rows.has(round)) rows.set(round, rows.size);
    }
  }
  if (rows.size < 2) return undefined;
  const cells = new Float64Array(rows.size * k).fill(Number.NaN);
  let counts: Float64Array | undefined;
  for (let item = 0; item < k; item += 1) {
    const ofItem = rounds[item];
    const values = kept[item] as Float64Array;
    if (!ofItem) continue;
    for (let i = 0; i < ofItem.length; i += 1) {
      const row = rows.get(ofItem[i] as number);
      if (row === undefined) continue;
      const cell = row * k + item;
      if (Number.isNaN(cells[cell])) cells[cell] = values[i] as number;
      else {
        counts ??= new Float64Array(cells.length).fill(1);
        counts[cell] = (counts[cell] as number) + 1;
        cells[cell] =
          (cells[cell] as number) + ((values[i] as number) - (cells[cell] as number)) / counts[cell];
      }
    }
  }
  const blocks = { items: k, rounds: rows.size, cells };
  return sharesTwoRounds(blocks) ? blocks : undefined;
}

/** Whether some pair of items was read together in two rounds or more. */
function sharesTwoRounds({ items, rounds, cells }: Blocks): boolean {
  const seen = new Set<number>();
  for (let round = 0; round < rounds; round += 1) {
    const present: number[] = [];
    for (let item = 0; item < items; item += 1) {
      if (!Number.isNaN(cells[round * items + item])) present.push(item);
    }
    for (let i = 0; i < present.length; i += 1) {
      for (let j = i + 1; j < present.length; j += 1) {
        const pair = (present[i] as number) * items + (present[j] as number);
        if (seen.has(pair)) return true;
        seen.add(pair);
      }
    }
  }
  return false;
}

/** The rounds in which every item was read, one row a round. */
export function completeRounds({ items, rounds, cells }: Blocks): CompleteRounds {
  const rows: Float64Array[] = [];
  for (let round = 0; round < rounds; round += 1) {
    const row = cells.subarray(round * items, (round + 1) * items);
    let whole = true;
    for (let item = 0; item < items; item += 1) whole &&= !Number.isNaN(row[item]);
    if (whole) rows.push(row);
  }
  return rows;
}

/** What two items differ by in the rounds that they share, in the readings' unit. */
export interface RoundDifferences {
  /** Rounds that they share. */
  n: number;
  /** Mean of b − a. */
  mean: number;
  /** Variance of b − a; NaN below two rounds. */
  variance: number;
  /** Mean and variance of a + b, for comparing distances from a target. */
  sum: number;
  sumVariance: number;
}

/** Differences and sums of two items over the rounds that they share; two passes, so that digits stay. */
export function roundDifferences({ items, rounds, cells }: Blocks, a: number, b: number): RoundDifferences {
  let n = 0;
  let difference = 0;
  let sum = 0;
  for (let round = 0, start = 0; round < rounds; round += 1, start += items) {
    const d = (cells[start + b] as number) - (cells[start + a] as number);
    if (d !== d) continue;
    n += 1;
    difference += d;
    sum += (cells[start + b] as number) + (cells[start + a] as number);
  }
  const mean = difference / n;
  const meanSum = sum / n;
  let squares = 0;
  let sumSquares = 0;
  for (let round = 0, start = 0; round < rounds; round += 1, start += items) {
    const d = (cells[start + b] as number) - (cells[start + a] as number);
    if (d !== d) continue;
    squares += (d - mean) ** 2;
    sumSquares += ((cells[start + b] as number) + (cells[start + a] as number) - meanSum) ** 2;
  }
  const df = n - 1;
  return {
    n,
    mean,
    variance: df > 0 ? squares / df : Number.NaN,
    sum: meanSum,
    sumVariance: df > 0 ? sumSquares / df : Number.NaN,
  };
}

/**
 * Least-squares means of *item + round*: each item's mean as if it had been read in every round. In complete rounds
 * they are the plain means.
 * @returns one mean per item in the readings' unit; undefined where the rounds do not tie all items together
 * @source Yates (1933), Journal of Agricultural Science 23; as R's lm(value ~ item + round)
 */
export function leastSquaresMeans({ items, rounds, cells }: Blocks): Float64Array | undefined {
  const origin = cells.find((value) => !Number.isNaN(value)) as number;
  if (!cells.some(Number.isNaN)) return plainMeans({ items, rounds, cells }, origin);
  const roundCounts = new Float64Array(rounds);
  const roundMeans = new Float64Array(rounds);
  for (let round = 0; round < rounds; round += 1) {
    for (let item = 0; item < items; item += 1) {
      const value = cells[round * items + item] as number;
      if (Number.isNaN(value)) continue;
      roundCounts[round] = (roundCounts[round] as number) + 1;
      roundMeans[round] = (roundMeans[round] as number) + (value - origin);
    }
    roundMeans[round] = (roundMeans[round] as number) / (roundCounts[round] as number);
  }
  const right = new Float64Array(items);
  const left = Matrix.zeros(items, items);
  for (let round = 0; round < rounds; round += 1) {
    const row = cells.subarray(round * items, (round + 1) * items);
    for (let item = 0; item < items; item += 1) {
      if (Number.isNaN(row[item])) continue;
      right[item] =
        (right[item] as number) + ((row[item] as number) - origin) - (roundMeans[round] as number);
      left.set(item, item, left.get(item, item) + 1);
      for (let other = 0; other < items; other += 1) {
        if (Number.isNaN(row[other])) continue;
        left.set(item, other, left.get(item, other) - 1 / (roundCounts[round] as number));
      }
    }
  }
  if (!isTiedTogether({ items, rounds, cells })) return undefined;
  // Effects are measured from their own mean: adding one to every cell makes the equations regular without changing that.
  const effects = solve(left.add(1), Matrix.columnVector(right)).to1DArray();
  const level =
    roundMeans.reduce((sum, mean, round) => {
      let present = 0;
      for (let item = 0; item < items; item += 1) {
        if (!Number.isNaN(cells[round * items + item])) present += effects[item] as number;
      }
      return sum + mean - present / (roundCounts[round] as number);
    }, 0) / rounds;
  return Float64Array.from(effects, (effect) => origin + level + effect);
}

/** The mean of each item over rounds without a gap. */
function plainMeans({ items, rounds, cells }: Blocks, origin: number): Float64Array {
  const sums = new Float64Array(items);
  for (let round = 0, cell = 0; round < rounds; round += 1) {
    for (let item = 0; item < items; item += 1, cell += 1) {
      sums[item] = (sums[item] as number) + ((cells[cell] as number) - origin);
    }
  }
  return sums.map((sum) => origin + sum / rounds);
}

/** Whether every item can be reached from every other through rounds that two of them share. */
function isTiedTogether({ items, rounds, cells }: Blocks): boolean {
  const group = Array.from({ length: items }, (_, item) => item);
  const root = (item: number): number => {
    let found = item;
    while (group[found] !== found) found = group[found] as number;
    return found;
  };
  for (let round = 0; round < rounds; round += 1) {
    let first = -1;
    for (let item = 0; item < items; item += 1) {
      if (Number.isNaN(cells[round * items + item])) continue;
      if (first === -1) first = root(item);
      else group[root(item)] = first;
    }
  }
  return group.every((_, item) => root(item) === root(0));
}
