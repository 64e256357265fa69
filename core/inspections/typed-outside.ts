import { formatReading, withUnit } from '../quantity/format.ts';
import { COMMON, type Inspection, fact } from './inspection.ts';

/** A mean from elsewhere that lies outside the readings that it is said to be of, or a spread that they do not allow. */
export const typedOutside: Inspection = ({ document, measurands, items }) =>
  measurands.flatMap(({ measurand }) =>
    document.figures.flatMap((figure) => {
      const { id, itemId, n, mean, sd, low, high, source } = figure;
      if (figure.measurandId !== measurand.id || figure.kind !== 'summary' || mean === null) return [];
      const said = (value: number) => withUnit(formatReading(value), measurand.unit);
      const outside = (low !== null && mean < low) || (high !== null && mean > high);
      // Of n readings between low and high the SD is largest with half of them at each end.
      const widest =
        low === null || high === null || n === null || n < 2
          ? Infinity
          : ((high - low) / 2) * Math.sqrt((n % 2 === 0 ? n : (n * n - 1) / n) / (n - 1));
      const tooWide = !outside && sd !== null && sd > widest * (1 + 1e-9);
      if (!outside && !tooWide) return [];
      const ends = [low === null ? '' : `from ${said(low)}`, high === null ? '' : `to ${said(high)}`]
        .filter(Boolean)
        .join(' ');
      const name = items.get(itemId)?.name ?? '';
      return [
        fact({
          id: `typed figure/${id}`,
          kind: outside ? 'mean outside its readings' : 'SD wider than its readings',
          measurandId: measurand.id,
          message: outside
            ? `${name}: the mean that was typed in, ${said(mean)}, lies outside its own readings, which run ${ends}.`
            : `${name}: the SD that was typed in, ${said(sd as number)}, is more than readings ${ends} can have.`,
          why: 'One of the figures was copied wrongly, or they are not of the same readings.',
          todo: `Look it up again${source ? ` (${source})` : ''}, or take the figure out.`,
          source: COMMON,
          readingIds: [],
        }),
      ];
    }),
  );
