/** How many rows a Williams design of k items has: k for an even number, 2k for an odd one. */
export const williamsRows = (k: number): number => (k % 2 === 0 || k === 1 ? k : 2 * k);

/**
 * One row of a Williams design, so that a large square need not be made to read a row of it.
 * @param k number of items, ≥ 1
 * @param row from 0 to williamsRows(k) − 1
 */
export function williamsRow(k: number, row: number): number[] {
  const zigzag = Array.from({ length: k }, (_, place) =>
    place === 0 ? 0 : place % 2 === 1 ? (place + 1) / 2 : k - place / 2,
  ).map((item) => (item + row) % k);
  return row < k ? zigzag : zigzag.reverse();
}

/**
 * A Williams design: a Latin square in which every item follows every other equally often. An even number of items
 * needs one square of k rows, an odd number two, 2k rows.
 * @param k number of items, ≥ 1
 * @returns rows of item numbers from 0; each row holds every item once, each place over the rows equally often
 * @source Williams (1949), Australian Journal of Scientific Research A 2; construction by the zigzag 0, 1, k−1, 2, …
 * @example williamsSquare(4)[0] // [0, 1, 3, 2]
 */
export const williamsSquare = (k: number): number[][] =>
  Array.from({ length: williamsRows(k) }, (_, row) => williamsRow(k, row));
