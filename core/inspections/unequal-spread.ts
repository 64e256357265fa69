import { anova } from '../compare/anova.ts';
import { fUpper } from '../distributions/index.ts';
import { formatNumber } from '../quantity/format.ts';
import { moments } from '../summary/moments.ts';
import { median, sorted } from '../summary/quantile.ts';
import type { Inspection } from './inspection.ts';

/** Items with fewer readings at a setting say too little of their spread. */
const FEWEST = 4;

/** What is known of the spread of an item. */
interface Spread {
  itemId: string;
  variance: number;
  df: number;
}

/**
 * The chance that the largest of so many variances is so large beside the others, for whatever numbers of readings.
 * @source Cochran (1941), Annals of Eugenics 11; ISO 5725-2; ’t Lam (2010), Analytica Chimica Acta 659, for unequal numbers
 */
export function largestVariance(spreads: readonly Omit<Spread, 'itemId'>[]): number {
  const all = spreads.reduce((sum, { variance, df }) => sum + variance * df, 0);
  const dfOfAll = spreads.reduce((sum, { df }) => sum + df, 0);
  const p = spreads.map(({ variance, df }) => {
    const [rest, dfOfRest] = [all - variance * df, dfOfAll - df];
    if (variance === 0) return 1;
    return rest > 0 ? fUpper((variance * dfOfRest) / rest, df, dfOfRest) : 0;
  });
  return Math.min(1, spreads.length * Math.min(...p));
}

/**
 * One item spreads unlike the others: a bad run, a loose sample, an instrument at its limit. Looked for in two ways, of which
 * the more telling one counts twice.
 * @source Brown and Forsythe (1974), JASA 69, for any spreads that differ; Cochran (1941) for one that is large
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
    const spreads = [...byItem].map(([itemId, { squares, df }]): Spread => ({
      itemId,
      variance: squares / df,
      df,
    }));
    // Where the step hides the spread there is nothing to compare.
    if (spreads.filter(({ variance }) => variance < step ** 2).length > spreads.length / 2) return [];
    const ofAll = anova([...byItem.values()].map(({ far }) => Float64Array.from(far)))?.p ?? 1;
    const ofLargest = largestVariance(spreads);
    return [
      {
        p: Math.min(1, 2 * Math.min(ofAll, ofLargest)),
        finding: () => {
          const widest = spreads.reduce((most, spread) => (spread.variance > most.variance ? spread : most));
          const others = median(
            sorted(spreads.filter((spread) => spread !== widest).map(({ variance }) => variance)),
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
            source: `${ofAll <= ofLargest ? 'Brown and Forsythe (1974)' : 'Cochran (1941), ISO 5725-2'}, within the level of all findings`,
            method: 'unequal-spread',
            readingIds: [],
          };
        },
      },
    ];
  });
