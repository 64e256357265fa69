/** Up to here counting beats sorting. */
const FEW = 32;

/**
 * Ranks from 1, ties share their mean rank.
 * @returns the rank of each value, and Σ(t³ − t) over the ties, as the tie corrections want it
 * @source Kruskal and Wallis (1952)
 * @example ranks([10, 20, 20]) // { ranks: [1, 2.5, 2.5], ties: 6 }
 */
export function ranks(values: ArrayLike<number>): { ranks: Float64Array; ties: number } {
  const n = values.length;
  const result = new Float64Array(n);
  let ties = 0;
  if (n <= FEW) {
    let equalPairs = 0;
    result.fill(1);
    for (let i = 1; i < n; i += 1) {
      const value = values[i] as number;
      for (let j = 0; j < i; j += 1) {
        const other = values[j] as number;
        if (value > other) result[i] = (result[i] as number) + 1;
        else if (value < other) result[j] = (result[j] as number) + 1;
        else {
          equalPairs += 1;
          result[i] = (result[i] as number) + 0.5;
          result[j] = (result[j] as number) + 0.5;
        }
      }
    }
    if (equalPairs > 0) {
      for (let i = 0; i < n; i += 1) {
        let equal = 0;
        for (let j = 0; j < n; j += 1) if (values[j] === values[i]) equal += 1;
        ties += equal ** 2 - 1; // over the t values of one tie this sums to t³ − t
      }
    }
    return { ranks: result, ties };
  }
  const ascending = new Float64Array(values).sort();
  const ends: number[] = []; // for each distinct value, one past its last place
  for (let i = 1; i <= n; i += 1) {
    if (i < n && ascending[i] === ascending[i - 1]) continue;
    const size = i - (ends[ends.length - 1] ?? 0);
    ties += size ** 3 - size;
    ends.push(i);
  }
  for (let i = 0; i < n; i += 1) {
    let low = 0;
    let high = ends.length - 1;
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((ascending[(ends[middle] as number) - 1] as number) < (values[i] as number)) low = middle + 1;
      else high = middle;
    }
    result[i] = ((ends[low - 1] ?? 0) + 1 + (ends[low] as number)) / 2;
  }
  return { ranks: result, ties };
}
