import { median, medianAbsoluteDeviation, sorted } from '../summary/quantile.ts';
import type { ScreeningRule } from './rule.ts';

const DEFAULT_LIMIT = 3.5;
/** The normal distribution's 75 % point, which makes MAD / 0.6745 an SD. */
const NORMAL_QUARTILE = 0.6745;
/** Makes a normal sample's mean absolute deviation an SD: √(π/2). */
const MEAN_DEVIATION_SCALE = 1.253314;

/**
 * Modified z-score, from median and MAD. Where more than half of the readings are equal (MAD 0), the mean
 * absolute deviation from the median takes its place; where that is 0 too, nothing is left out.
 * @source Iglewicz and Hoaglin (1993), How to Detect and Handle Outliers
 */
export const modifiedZ: ScreeningRule = {
  name: 'modified-z',
  source: 'Iglewicz and Hoaglin 1993',
  label: 'Modified z',
  does: 'Leaves out readings far from the median, measured by the median deviation.',
  suits: 'Suits several bad readings at once; on few readings it costs one clean sample in seven.',
  statisticName: 'z',
  parameter: { label: 'limit', minimum: 0.5, maximum: 100, whole: false },
  screen(values, { parameter }) {
    const n = values.length;
    if (n < 3) return { leftOut: [], notAvailable: `needs 3 readings, there are ${String(n)}` };
    const limit = parameter ?? DEFAULT_LIMIT;
    const ascending = sorted(values);
    const centre = median(ascending);
    const mad = medianAbsoluteDeviation(ascending);
    let sum = 0;
    for (const value of ascending) sum += Math.abs(value - centre);
    const scale = mad > 0 ? mad / NORMAL_QUARTILE : (MEAN_DEVIATION_SCALE * sum) / n;
    if (!(scale > 0)) return { leftOut: [] };
    const leftOut = [];
    for (let index = 0; index < n; index += 1) {
      const statistic = Math.abs((values[index] as number) - centre) / scale;
      if (statistic > limit) leftOut.push({ index, statistic, limit });
    }
    return { leftOut };
  },
};
