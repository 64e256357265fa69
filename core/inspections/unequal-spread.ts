import { anova } from '../compare/anova.ts';
import { formatNumber } from '../quantity/format.ts';
import { moments } from '../summary/moments.ts';
import { median, sorted } from '../summary/quantile.ts';
import type { Inspection } from './inspection.ts';

/** Items with fewer readings at a setting say too little of their spread. */
const FEWEST = 4;

/**
 * One item spreads unlike the others: a bad run, a loose sample, an instrument at its limit.
 * @source Brown and Forsythe (1974), JASA 69
 */
export const unequalSpread: Inspection = ({ measurands, items }) =>
  measurands.flatMap(({ measurand, cells, step, derived, untested }) => {
    if (derived || untested) return [];
    const byItem = new Map<string, { far: number[]; squares: number; df: number }>();
    for (const { itemId, kept } of cells) {
      if (kept.length < FEWEST) continue;
      const values = kept.map(({ value }) => value as number);
      const centre = median(sorted(values));
      const known = byItem.get(itemId) ?? { far: [], squares: 0, df: 0 };
      known.far.push(...values.map((value) => Math.abs(value - centre)));
      known.squares += moments(values).sumOfSquares;
      known.df += values.length - 1;
      byItem.set(itemId, known);
    }
    if (byItem.size < 2) return [];
    const spreads = [...byItem].map(([itemId, { squares, df }]) => ({ itemId, variance: squares / df }));
    // Where the step hides the spread there is nothing to compare.
    if (spreads.filter(({ variance }) => variance < step ** 2).length > spreads.length / 2) return [];
    const p = anova([...byItem.values()].map(({ far }) => Float64Array.from(far)))?.p;
    if (p === null || p === undefined) return [];
    return [
      {
        p,
        finding: () => {
          const widest = spreads.reduce((most, one) => (one.variance > most.variance ? one : most));
          const others = median(
            sorted(spreads.filter((one) => one !== widest).map(({ variance }) => variance)),
          );
          const times = Math.sqrt(widest.variance / others);
          const name = items.get(widest.itemId)?.name ?? '';
          return {
            id: `unequal spread/${measurand.id}/${widest.itemId}`,
            kind: 'unequal spread',
            measurandId: measurand.id,
            message: `${name} spreads ${formatNumber(times, 1)} times as much as the others in ${measurand.name}.`,
            why: 'A wide spread is a result in itself, or a sign of a bad run: a loose sample, a wrong range, a disturbed round.',
            todo: 'Look at its readings in run order; repeat it if something was wrong.',
            source: 'Brown and Forsythe (1974), within the level of all findings',
            readingIds: [],
          };
        },
      },
    ];
  });
