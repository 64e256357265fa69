/**
 * p-values corrected for their number, step by step from the smallest.
 * @param values p of each test, null where there is none; such a one does not count
 * @source Holm (1979), Scandinavian Journal of Statistics 6
 * @example holm([0.01, 0.04, 0.03]) // [0.03, 0.06, 0.06]
 */
export function holm(values: readonly (number | null)[]): (number | null)[] {
  const known = values.flatMap((p, i) => (p === null ? [] : [{ p, i }])).sort((x, y) => x.p - y.p);
  const result: (number | null)[] = values.map(() => null);
  let floor = 0;
  known.forEach(({ p, i }, rank) => {
    floor = Math.max(floor, Math.min(1, p * (known.length - rank)));
    result[i] = floor;
  });
  return result;
}
