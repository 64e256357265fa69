/**
 * A Williams design: a Latin square in which every item follows every other equally often. An even number of items
 * needs one square of k rows, an odd number two, 2k rows.
 * @param k number of items, ≥ 1
 * @returns rows of item numbers from 0; each row holds every item once, each place over the rows equally often
 * @source Williams (1949), Australian Journal of Scientific Research A 2; construction by the zigzag 0, 1, k−1, 2, …
 * @example williamsSquare(4)[0] // [0, 1, 3, 2]
 */
export function williamsSquare(k: number): number[][] {
  const first = Array.from({ length: k }, (_, place) =>
    place === 0 ? 0 : place % 2 === 1 ? (place + 1) / 2 : k - place / 2,
  );
  const square = Array.from({ length: k }, (_, row) => first.map((item) => (item + row) % k));
  return k % 2 === 0 || k === 1 ? square : [...square, ...square.map((row) => [...row].reverse())];
}
