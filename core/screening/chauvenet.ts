import { normalUpper } from '../distributions/normal.ts';
import { moments } from '../summary/moments.ts';
import type { ScreeningRule } from './rule.ts';

/**
 * Chauvenet's criterion, once: a reading goes if fewer than half a reading so far off were to be expected.
 * @source Chauvenet (1863), A Manual of Spherical and Practical Astronomy; Taylor, An Introduction to Error Analysis
 */
export const chauvenet: ScreeningRule = {
  name: 'chauvenet',
  source: 'Chauvenet 1863',
  label: 'Chauvenet',
  does: 'Leaves out readings of which fewer than half a one would be expected so far off.',
  suits: 'A habit of the laboratory. It costs every fourth clean sample a reading.',
  statisticName: 'expected so far off',
  screen(values) {
    const { n, mean, sumOfSquares } = moments(values);
    if (n < 3) return { leftOut: [], notAvailable: `needs 3 readings, there are ${String(n)}` };
    const sd = Math.sqrt(sumOfSquares / (n - 1));
    if (!(sd > 0)) return { leftOut: [] };
    return {
      leftOut: Array.from(values, (value, index) => ({
        index,
        statistic: 2 * n * normalUpper(Math.abs(value - mean) / sd),
        limit: 0.5,
      })).filter(({ statistic }) => statistic < 0.5),
    };
  },
};
