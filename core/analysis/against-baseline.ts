import { dunnettCritical } from '../distributions/dunnett.ts';
import { tQuantileUpper } from '../distributions/index.ts';
import { levelOfEach } from '../distributions/several.ts';
import type { BaselineFamily } from './baseline-families.ts';
import type { AnalysedPair, Analysis } from './compare-screened.ts';

type Compared = Pick<Analysis, 'items' | 'pairs' | 'pairAlpha' | 'ranksOnly' | 'exact'>;

/** The half-width that Dunnett's test takes, in standard errors of one pooled spread. */
function dunnettOf({ items, pairAlpha }: Compared, baseline: number) {
  const known = items.map(({ summary: { n, mean, varianceOfMean } }) => ({ n, mean, varianceOfMean }));
  const enough = known.filter(({ n, varianceOfMean }) => n >= 2 && varianceOfMean !== null);
  const df = enough.reduce((sum, { n }) => sum + n - 1, 0);
  const pooled =
    enough.reduce((sum, { n, varianceOfMean }) => sum + (n - 1) * n * (varianceOfMean as number), 0) / df;
  const from = known[baseline];
  if (!from || from.n < 2) return undefined;
  const others = known.filter(
    ({ n, varianceOfMean }, i) => i !== baseline && n >= 2 && varianceOfMean !== null,
  );
  const critical = dunnettCritical(
    pairAlpha,
    others.map(({ n }) => Math.sqrt(n / (n + from.n))),
    df,
  );
  return {
    critical,
    df,
    seOf: (item: number) =>
      Math.hypot(
        Math.sqrt(pooled * (1 / (known[item]?.n as number) + 1 / from.n)),
        items[item]?.doubt.ofDifferences as number,
        items[baseline]?.doubt.ofDifferences as number,
      ),
    difference: (item: number) => (known[item]?.mean ?? Number.NaN) - (from.mean ?? Number.NaN),
  };
}

/**
 * The pairs with a baseline, with intervals that hold for these alone: fewer share the level, so they are narrower.
 * “own-spreads” keeps how the pairs were compared and shares the level over them (Šidák); “dunnett” pools the spread of all
 * items, which must scatter alike, and takes no notice of rounds.
 * @param baseline index of the item that the others are compared with
 * @returns the pairs, those with the baseline changed; all as they were where that cannot be worked out
 * @source Dunnett (1955), Journal of the American Statistical Association 50; Šidák (1967)
 */
export function pairsAgainst(analysis: Compared, baseline: number, family: BaselineFamily): AnalysedPair[] {
  const { pairs, pairAlpha, ranksOnly, exact } = analysis;
  if (family === 'all-pairs' || ranksOnly || exact) return [...pairs];
  const mine = ({ a, b, se }: AnalysedPair) => (a === baseline || b === baseline) && se !== null && se > 0;
  const m = Math.max(1, pairs.filter(mine).length);
  const pooled = family === 'dunnett' ? dunnettOf(analysis, baseline) : undefined;
  if (family === 'dunnett' && !pooled) return [...pairs];
  return pairs.map((pair) => {
    if (!mine(pair)) return pair;
    const other = pair.a === baseline ? pair.b : pair.a;
    const sign = pair.a === baseline ? 1 : -1;
    const difference = pooled ? sign * pooled.difference(other) : pair.difference;
    const se = pooled ? pooled.seOf(other) : (pair.se as number);
    const df = pooled ? pooled.df : (pair.df as number);
    const critical = pooled ? pooled.critical : tQuantileUpper(levelOfEach(pairAlpha, m) / 2, df);
    return {
      ...pair,
      ...{ difference, se, df, critical },
      ...{ low: difference - critical * se, high: difference + critical * se },
    };
  });
}
