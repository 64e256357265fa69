import { quantile, sorted } from '../summary/quantile.ts';
import type { ScreeningRule } from './rule.ts';

const DEFAULT_REACH = 1.5;

/**
 * Leaves out what lies beyond the quartiles by more than 1.5 times the distance between them. Quartiles are of type 7.
 * @source Tukey (1977), Exploratory Data Analysis
 */
export const fences: ScreeningRule = {
  name: 'fences',
  source: 'Tukey 1977',
  label: 'Fences',
  does: 'Leaves out readings more than 1.5 interquartile ranges beyond the quartiles.',
  suits: 'Made to point at readings worth a look. As a rule it costs every fourth clean sample a reading.',
  statisticName: 'distance in interquartile ranges',
  parameter: { label: 'reach', minimum: 0.5, maximum: 10, whole: false },
  screen(values, { parameter }) {
    const n = values.length;
    if (n < 4) return { leftOut: [], notAvailable: `needs 4 readings, there are ${String(n)}` };
    const limit = parameter ?? DEFAULT_REACH;
    const ascending = sorted(values);
    const [low, high] = [quantile(ascending, 0.25), quantile(ascending, 0.75)];
    const range = high - low;
    if (!(range > 0)) return { leftOut: [] };
    return {
      leftOut: Array.from(values, (value, index) => ({
        index,
        statistic: Math.max(low - value, value - high) / range,
        limit,
      })).filter(({ statistic }) => statistic > limit),
    };
  },
};
