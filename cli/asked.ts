import type { Analysis } from '../core/analysis/analyse.ts';
import { type DifferenceFrom, differencesFrom } from '../core/analysis/differences.ts';
import { twoWay } from '../core/compare/two-way.ts';
import { agreement } from '../core/error/agreement.ts';
import { FileProblem } from '../core/formats/file-problem.ts';
import type { CommandOptions } from './options.ts';
import type { FileReadings } from './readings.ts';

/** Places of the readings of an item that were not left out. */
export function keptPlaces({ values }: FileReadings, item: Analysis['items'][number] | undefined): number[] {
  const out = new Set(item?.leftOut.map(({ index }) => index));
  return values.flatMap((_, i) => (out.has(i) ? [] : [i]));
}

/** Error of an item against the reference, over the readings that count and have one; null without any. */
export function errorOf(
  readings: FileReadings,
  item: Analysis['items'][number] | undefined,
  alpha: number,
): object | null {
  const pairs = keptPlaces(readings, item).flatMap((i) => {
    const reference = readings.references?.[i] ?? Number.NaN;
    return Number.isNaN(reference) ? [] : [{ reference, indicated: readings.values[i] as number }];
  });
  const found = agreement(pairs, alpha);
  if (!found) return null;
  return {
    pairs: found.n,
    bias: found.bias,
    meanAbsoluteError: found.meanAbsolute,
    meanAbsoluteRelativeDifference: found.meanRelative,
    rmse: found.rmse,
    maxAbsoluteError: Math.abs(found.largest),
    sd: found.sd,
    limitsOfAgreement: found.limits,
  };
}

/** One line of the analysis of variance by factors. */
export interface FactorTerm {
  term: string;
  df: number;
  ss: number;
  f: number | null;
  p: number | null;
}

/** The readings that count, by the levels of two factors, or by item and the level of one. */
function cellsOf(
  readings: readonly FileReadings[],
  items: Analysis['items'],
  twoFactors: boolean,
): Float64Array[][] {
  const rows = new Map<string, Map<string, number[]>>();
  const columns = new Set<string>();
  readings.forEach((ofItem, i) => {
    for (const place of keptPlaces(ofItem, items[i])) {
      const [first = '', second = ''] = ofItem.levels[place] ?? [];
      const [row, column] = twoFactors ? [first, second] : [ofItem.item, first];
      columns.add(column);
      const found = rows.get(row) ?? new Map<string, number[]>();
      rows.set(row, found);
      const cell = found.get(column);
      if (cell) cell.push(ofItem.values[place] as number);
      else found.set(column, [ofItem.values[place] as number]);
    }
  });
  return [...rows.values()].map((row) =>
    [...columns].map((column) => Float64Array.from(row.get(column) ?? [])),
  );
}

/**
 * What the factors do: of two, both and their interaction over all items; of one, with the item.
 * @returns undefined where no factor was named; with a reason in `note` where nothing can be said, or items were pooled
 */
export function factorTerms(
  readings: readonly FileReadings[],
  { items }: Pick<Analysis, 'items'>,
  { item: itemColumn, factors }: Pick<CommandOptions, 'item' | 'factors'>,
): { terms: FactorTerm[]; note?: string } | undefined {
  const [first, second] = factors;
  if (first === undefined) return undefined;
  const cells = cellsOf(readings, items, second !== undefined);
  const names = second === undefined ? [itemColumn, first] : [first, second];
  const found = twoWay(cells);
  if (!found) {
    return {
      terms: [],
      note: `The analysis of ${names.join(' and ')} is not available: it needs two levels of each, and a second reading in some cell.`,
    };
  }
  const term = (name: string, { df, ss, f, p }: Omit<FactorTerm, 'term'>): FactorTerm => ({
    ...{ term: name, df, ss, f, p },
  });
  const pooled = second !== undefined && !factors.includes(itemColumn) && readings.length > 1;
  return {
    terms: [
      term(names[0] as string, found.rows),
      term(names[1] as string, found.columns),
      ...(found.interaction ? [term(names.join(':'), found.interaction)] : []),
    ],
    ...(pooled ? { note: `The analysis of ${names.join(' and ')} takes all items together.` } : {}),
  };
}

/**
 * What each item differs by from the baseline.
 * @throws FileProblem where no item is called so
 */
export function fromBaseline(
  analysis: Analysis,
  { baseline, analysis: { average } }: Pick<CommandOptions, 'baseline' | 'analysis'>,
): { item: string; differences: { item: string; found: DifferenceFrom }[] } | undefined {
  if (baseline === undefined) return undefined;
  const from = analysis.items.findIndex(({ item }) => item === baseline);
  if (from === -1) {
    throw new FileProblem(
      `There is no item “${baseline}”; the items are ${analysis.items.map(({ item }) => item).join(', ')}.`,
    );
  }
  return {
    item: baseline,
    differences: differencesFrom({ analysis }, from, average !== 'energy').flatMap((found, i) =>
      found ? [{ item: analysis.items[i]?.item ?? '', found }] : [],
    ),
  };
}
