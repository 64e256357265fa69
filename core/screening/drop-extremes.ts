import type { ScreeningRule } from './rule.ts';

/**
 * Leaves out the single highest and the single lowest reading of an item, from four readings on. Of equal
 * readings the first one goes.
 * @source common practice; standard error by Tukey and McLaughlin (1963)
 */
export const dropExtremes: ScreeningRule = {
  name: 'drop-extremes',
  source: 'common practice',
  label: 'Drop highest and lowest',
  does: 'Always leaves out the highest and the lowest reading of each item.',
  suits:
    'A habit of the trade. It costs every clean sample two readings, so it suits long, cheap series only.',
  statisticName: '',
  alwaysCuts: true,
  screen(values) {
    const n = values.length;
    if (n < 4) return { leftOut: [], notAvailable: `needs 4 readings, there are ${String(n)}` };
    let low = 0;
    let high = 0;
    for (let i = 1; i < n; i += 1) {
      if ((values[i] as number) < (values[low] as number)) low = i;
      if ((values[i] as number) > (values[high] as number)) high = i;
    }
    if (low === high) high = 1; // all readings are equal
    return {
      leftOut: [low, high].map((index) => ({ index, statistic: null, limit: null })),
      trim: { perEnd: 1, of: n },
    };
  },
};
