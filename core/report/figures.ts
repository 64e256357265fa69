import type { AnalysedItem, Analysis } from '../analysis/compare-screened.ts';
import { decimalsFor, decimalsOf, formatNumber } from '../quantity/format.ts';
import { median, sorted } from '../summary/quantile.ts';
import { rangeWords } from '../summary/typed.ts';

/** How the figures of one analysis are printed, so that every table, sentence and picture shows the same ones. */
export interface Figures {
  /** Decimals of means and of what follows from them. */
  decimals: number;
  /** A mean, a limit of an interval, a difference. */
  result: (value: number | null | undefined) => string;
  /** An SD or another width: with two figures at least. */
  spread: (value: number | null | undefined) => string;
}

const MOST_DECIMALS = 9;

/** Decimals that show a step: 1 for 0.1 and for 0.25 two. */
const decimalsOfStep = (step: number): number =>
  Math.min(MOST_DECIMALS, decimalsOf(Number(step.toPrecision(1))));

const typical = (values: readonly number[]): number | undefined =>
  values.length === 0 ? undefined : median(sorted(values));

/**
 * Decimals that suit an analysis: two significant figures of the typical interval's half-width, and one of the typical
 * SD at least; without intervals those of the readings' step, else of the means as they are.
 * @source GUM, JCGM 100:2008, 7.2.6
 */
export function resultDecimals({ items, step }: Pick<Analysis, 'items' | 'step'>): number {
  const half = typical(
    items.flatMap(({ summary: { interval } }) =>
      interval && interval[1] > interval[0] ? [(interval[1] - interval[0]) / 2] : [],
    ),
  );
  if (half !== undefined) {
    const sd = typical(items.flatMap(({ summary }) => (summary.sd ? [summary.sd] : [])));
    return Math.max(decimalsFor(half), sd === undefined ? 0 : decimalsFor(sd) - 1);
  }
  if (step > 0) return decimalsOfStep(step);
  return Math.max(
    0,
    ...items.map(({ summary }) =>
      summary.mean === null ? 0 : decimalsOf(Number(summary.mean.toPrecision(4))),
    ),
  );
}

/** An interval in words; an end that is open is not known. */
export function spanWords([low, high]: readonly [number, number], figure: (value: number) => string): string {
  if (low === Number.NEGATIVE_INFINITY && high === Number.POSITIVE_INFINITY) return 'anything';
  if (low === Number.NEGATIVE_INFINITY) return `at most ${figure(high)}`;
  return high === Number.POSITIVE_INFINITY ? `at least ${figure(low)}` : `${figure(low)} to ${figure(high)}`;
}

/** What an item is placed by as it is printed: of a range, the range. */
export const placedWords = (
  item: Pick<AnalysedItem, 'typed' | 'placedBy'> | undefined,
  figure: Figures['result'],
): string => (item?.typed?.kind === 'range' ? rangeWords(item.typed) : figure(item?.placedBy));

export function figuresOf(analysis: Pick<Analysis, 'items' | 'step'>): Figures {
  const decimals = resultDecimals(analysis);
  return {
    decimals,
    result: (value) => (value === null || value === undefined ? '–' : formatNumber(value, decimals)),
    spread: (value) =>
      value === null || value === undefined
        ? '–'
        : formatNumber(
            value,
            Math.min(MOST_DECIMALS, Math.max(decimals, value > 0 ? decimalsFor(value) : 0)),
          ),
  };
}
