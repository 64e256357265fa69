import { holm } from '../compare/holm.ts';
import { type Correlation, type Line, leastSquares, pearson, spearman } from '../compare/trend.ts';
import { ALPHA } from '../model/alpha.ts';
import type { Item } from '../model/parts.ts';
import { type ItemFigure, attributeFigures, perUnit, timesFigure } from './item-figures.ts';

/** How results go with a figure of the items. */
export interface Association {
  figure: ItemFigure;
  /** Items that have both. */
  n: number;
  correlation: Correlation;
  spearman: number | undefined;
  line: Line | undefined;
  /** p for the number of figures tried; null where it has none. */
  p: number | null;
  /** Whether chance is ruled out, by that p and by the interval. */
  settled: boolean;
  /** The item that carries it: without it, no half of it is left. */
  carriedBy: { index: number; r: number } | undefined;
}

/** More attributes than this are not tried in pairs: chance would find something among so many. */
const MOST_PAIRED = 5;

/**
 * What results go with: every attribute, and every ratio and product of two of a few, the strongest first.
 * @param results one per item; null where it has none
 * @source Holm (1979) over all that were tried
 */
export function associations(items: readonly Item[], results: readonly (number | null)[]): Association[] {
  const attributes = attributeFigures(items);
  const figures = [
    ...attributes,
    ...(attributes.length <= MOST_PAIRED
      ? attributes.flatMap((figure, i) =>
          attributes.slice(i + 1).flatMap((of) => [perUnit(figure, of), timesFigure(figure, of)]),
        )
      : []),
  ];
  const found = figures.flatMap((figure) => {
    const both = items.flatMap((_, index) => {
      const [x, y] = [figure.values[index], results[index]];
      return x == null || y == null ? [] : [{ index, x, y }];
    });
    const [x, y] = [both.map((point) => point.x), both.map((point) => point.y)];
    const correlation = pearson(x, y, ALPHA);
    if (!correlation) return [];
    return [
      {
        ...{ figure, n: both.length, correlation, spearman: spearman(x, y) },
        line: leastSquares(x, y, ALPHA),
        carriedBy: carrier(both, correlation.r),
      },
    ];
  });
  const adjusted = holm(found.map(({ correlation }) => correlation.p));
  return found
    .map((association, i) => {
      const p = adjusted[i] ?? null;
      return { ...association, p, settled: goTogether(p, association.correlation) };
    })
    .sort((a, b) => Math.abs(b.correlation.r) - Math.abs(a.correlation.r));
}

/**
 * Whether the readings say that the two go together: among few items the interval asks for more than the test does, and
 * both must say so.
 */
const goTogether = (p: number | null, { interval }: Correlation): boolean => {
  const [low, high] = interval ?? [-1, 1];
  return p !== null && p < ALPHA && low * high > 0;
};

/** The item without which less than half of the correlation is left, or turns its sign. */
function carrier(
  points: readonly { index: number; x: number; y: number }[],
  r: number,
): Association['carriedBy'] {
  const without = points.flatMap(({ index }) => {
    const rest = points.filter((point) => point.index !== index);
    const left = pearson(
      rest.map(({ x }) => x),
      rest.map(({ y }) => y),
      ALPHA,
    );
    return left ? [{ index, r: left.r }] : [];
  });
  return without
    .filter((left) => left.r * Math.sign(r) < Math.abs(r) / 2)
    .sort((a, b) => a.r * Math.sign(r) - b.r * Math.sign(r))[0];
}
