import { slipQuestion } from '../bench/slip.ts';
import { counted, decimalsFor, formatNumber, formatReading, listed, withUnit } from '../quantity/format.ts';
import { median, medianAbsoluteDeviation, sorted } from '../summary/quantile.ts';
import { moments } from '../summary/moments.ts';
import type { Inspect, Inspected } from './finding.ts';

/** A reading farther than this many typical deviations from the item's other ones stands out; as at the bench. */
const FAR = 8;
/** From this many readings on, rules judge. */
const JUDGED_FROM = 5;
/** Makes the median deviation of normal readings an SD. */
const MAD_TO_SD = 1.4826;

/** Kind of the finding that names a reading which stands out. */
export const STANDS_OUT = 'one stands out';

type Readings = Inspected['items'][number];

/** What the other items' readings spread by, typically. */
function neighbours(items: readonly Readings[], but: number): number {
  const spreads = items.flatMap(({ kept }, i) => {
    if (i === but || kept.length < 2) return [];
    return [Math.sqrt(moments(kept).sumOfSquares / (kept.length - 1))];
  });
  return spreads.length === 0 ? 0 : median(sorted(spreads));
}

/** The reading that stands out of a few, with what may have happened to it. */
function standsOut({ kept }: Readings, spread: number, step: number) {
  let worst: { index: number; value: number; by: number } | undefined;
  kept.forEach((value, index) => {
    const others = sorted(kept.filter((_, i) => i !== index));
    const centre = median(others);
    const scale = Math.max(
      MAD_TO_SD * medianAbsoluteDeviation(others),
      spread,
      2 * step,
      0.01 * Math.abs(centre),
    );
    const by = Math.abs(value - centre) / scale;
    if (by > FAR && (worst === undefined || by > worst.by)) worst = { index, value, by };
  });
  return worst;
}

/**
 * Too few readings for a rule, and one of them far from the others: it is named, by the logic that questions a typed
 * value at the bench. Common practice, no source.
 */
export const oddOne: Inspect = ({ items, unit, step }) =>
  items.flatMap((readings, i) => {
    if (readings.screened || readings.kept.length < 3 || readings.kept.length >= JUDGED_FROM) return [];
    const odd = standsOut(readings, neighbours(items, i), step);
    if (!odd) return [];
    const figure = (value: number) => formatReading(value);
    const { mean, sumOfSquares } = moments(readings.kept);
    const decimals = Math.min(decimalsFor(Math.sqrt(sumOfSquares / readings.kept.length)), 2);
    const slip = slipQuestion(odd.value, {
      unit,
      limits: { low: null, high: null },
      resolution: step > 0 ? step : null,
      ofItem: [...readings.kept].filter((_, index) => index !== odd.index),
      all: items.flatMap(({ kept }) => [...kept]).filter((value) => value !== odd.value),
      itemName: readings.item,
    });
    const guess =
      slip?.kind === 'decimal point' || slip?.kind === 'digits swapped'
        ? `${withUnit(figure(odd.value), unit)} may have ${slip.kind === 'decimal point' ? 'its decimal point moved' : 'two digits swapped'}`
        : `${withUnit(figure(odd.value), unit)} is far from the others`;
    return [
      {
        kind: STANDS_OUT,
        item: readings.item,
        message: `${readings.item}: ${withUnit(formatNumber(mean, Math.max(decimals, 2)), unit)} is the mean of ${listed([...readings.kept].map(figure))}.`,
        why: `${guess}. No rule judges ${counted(readings.kept.length, 'reading')}; that is yours.`,
        todo: 'Look at it, leave it out with a reason, or take another.',
      },
    ];
  });
