import type { ScreeningRule } from './rule.ts';

/** Leaves out what lies outside the limits that the plan calls plausible. Common practice, no source. */
export const plausibility: ScreeningRule = {
  name: 'plausibility',
  source: 'common practice',
  label: 'Limits of plausibility',
  does: 'Leaves out readings outside the limits that the plan calls plausible.',
  suits: 'Suits where it is known beforehand what cannot be; it says nothing of a slip within the limits.',
  statisticName: 'reading',
  byItself: true,
  screen(values, { limits }) {
    const { low, high } = limits ?? { low: null, high: null };
    if (low === null && high === null) {
      return { leftOut: [], notAvailable: 'needs plausible limits, and the plan states none' };
    }
    return {
      leftOut: Array.from(values, (value, index) => ({ index, value })).flatMap(({ index, value }) => {
        if (low !== null && value < low) return [{ index, statistic: value, limit: low }];
        return high !== null && value > high ? [{ index, statistic: value, limit: high }] : [];
      }),
    };
  },
};
