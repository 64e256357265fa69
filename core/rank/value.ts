/** One item with what it gives and what it costs. */
export interface Valued {
  /** Index of the item. */
  index: number;
  /** More is better. */
  merit: number;
  /** Less is better. */
  cost: number;
}

/**
 * The items that no other beats on both: nobody gives as much for less, or more for as much. From the cheapest.
 * @source Pareto (1906); maxima of a set of points: Kung, Luccio and Preparata (1975), Journal of the ACM 22
 * @example bestValue([{ index: 0, merit: 3, cost: 9 }, { index: 1, merit: 2, cost: 9 }]) // [0]
 */
export function bestValue(items: readonly Valued[]): number[] {
  const byCost = [...items].sort((a, b) => a.cost - b.cost || b.merit - a.merit);
  const kept: Valued[] = [];
  for (const item of byCost) {
    const last = kept.at(-1);
    // Those who give and cost the same are both unbeaten.
    const alike = last?.merit === item.merit && last.cost === item.cost;
    if (last === undefined || item.merit > last.merit || alike) kept.push(item);
  }
  return kept.map(({ index }) => index);
}
