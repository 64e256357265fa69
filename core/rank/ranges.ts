import type { Better } from '../compare/better.ts';
import { seededRandom } from '../random/seeded.ts';

/** What is known of a value that is no single figure; open where an end is null: “more than 8”. */
export interface ValueRange {
  low: number | null;
  high: number | null;
}

/** The values of one criterion, and of which items a range is known. */
export interface RangedValues {
  better: Better;
  /** Whether half as much means half as good: a true zero, and nothing below it. */
  hasRatios: boolean;
  /**
   * What each item is placed by, in the unit of the measurand, and of one of which a range is known where that stands among
   * the others; null where there is nothing.
   */
  values: readonly (number | null)[];
  /** null for an item that has a value, or nothing; left out where no range is known. */
  ranges?: readonly (ValueRange | null)[];
}

/** Values of each criterion, one per item. */
export type Values = readonly (readonly (number | null)[])[];

/** All combinations of what is tried of each range are tried up to so many; of more, the hardest and some at random. */
const MOST_CASES = 512;

/** An open end is tried as far beyond all other values as makes no difference to what is printed, in their span. */
const FAR = 1e4;

interface RangedCell {
  criterion: number;
  item: number;
  /** The worse end, the better one, and then what lies between. */
  tried: number[];
}

/** The values within a range that are tried: its ends, the target where it holds it, and between those of the others. */
function triedOf(
  { better, hasRatios, values, ranges = [] }: RangedValues,
  item: number,
  { low, high }: ValueRange,
): number[] {
  const others = values.flatMap((value, other) => {
    if (value === null || other === item) return [];
    const range = ranges[other];
    return range ? [range.low ?? [], range.high ?? []].flat() : [value];
  });
  const known = [...others, ...[low, high].flatMap((end) => end ?? [])];
  const [least, most] = [Math.min(...known), Math.max(...known)];
  const far = FAR * (most - least || Math.abs(most) || 1);
  const from = low ?? (hasRatios ? 0 : least - far);
  const to = high ?? most + far;
  const isWithin = (value: number) => value > from && value < to;
  const steps = [from, ...new Set(others.filter(isWithin).sort((a, b) => a - b)), to];
  const target = better.kind === 'nearest' && isWithin(better.target) ? [better.target] : [];
  const between = steps.slice(1).map((step, i) => ((steps[i] as number) + step) / 2);
  return [...(better.kind === 'lower' ? [to, from] : [from, to]), ...target, ...between];
}

/** What each ranged cell is in turn, case by case. */
function cases(cells: readonly RangedCell[]): number[][] {
  if (cells.reduce((product, { tried }) => product * tried.length, 1) <= MOST_CASES) {
    return cells.reduce<number[][]>(
      (before, { tried }) => tried.flatMap((value) => before.map((row) => [...row, value])),
      [[]],
    );
  }
  // All at their worse or better ends, and each item alone at the other; the rest as it comes.
  const items = [undefined, ...new Set(cells.map(({ item }) => item))];
  const ends = [0, 1].flatMap((end) =>
    items.map((turned) => cells.map(({ item, tried }) => tried[item === turned ? 1 - end : end] as number)),
  );
  const random = seededRandom(cells.length);
  const others = Array.from({ length: Math.max(0, MOST_CASES - ends.length) }, () =>
    cells.map(({ tried }) => tried[random.below(tried.length)] as number),
  );
  return [...ends, ...others];
}

/**
 * The values of all criteria as they may be where ranges are known: as they stand first, then case by case, each range at
 * its ends and between the values of the others. What holds in all of them holds by what the ranges allow, as far as
 * that can be tried.
 * @param values of each criterion as they are scored; what is null in it plays no part
 * @param weights of the criteria; those of no weight stay as they stand
 * @returns only the values as they stand where no range is known
 */
export function possibleValues(
  criteria: readonly RangedValues[],
  weights: readonly number[],
  values: Values,
): Values[] {
  const cells = criteria.flatMap((criterion, i) =>
    (criterion.ranges ?? []).flatMap((range, item): RangedCell[] =>
      range && (weights[i] as number) > 0 && values[i]?.[item] != null
        ? [{ criterion: i, item, tried: triedOf(criterion, item, range) }]
        : [],
    ),
  );
  if (cells.length === 0) return [values];
  return [
    values,
    ...cases(cells).map((row) => {
      const possible = values.map((ofCriterion) => [...ofCriterion]);
      cells.forEach(({ criterion, item }, i) => {
        (possible[criterion] as (number | null)[])[item] = row[i] as number;
      });
      return possible;
    }),
  ];
}
