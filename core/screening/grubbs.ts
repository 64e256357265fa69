import { extremeDeviateLimit, extremeDeviates } from './extreme-deviates.ts';
import type { LeftOut, ScreeningRule } from './rule.ts';

/**
 * Grubbs' test, two-sided, repeated until no reading exceeds its limit.
 * @source Grubbs (1969), Technometrics 11; ASTM E178
 */
export const grubbs: ScreeningRule = {
  name: 'grubbs',
  source: 'Grubbs 1969',
  label: 'Grubbs',
  does: 'Leaves out the farthest reading when it is too far for a normal sample, and asks again.',
  suits: 'Suits one bad reading; two bad ones on the same side can hide each other.',
  statisticName: 'G',
  tests: true,
  screen(values, { alpha }) {
    const n = values.length;
    if (n < 3) return { leftOut: [], notAvailable: `needs 3 readings, there are ${String(n)}` };
    const leftOut: LeftOut[] = [];
    for (const { index, deviate, remaining } of extremeDeviates(values)) {
      const limit = extremeDeviateLimit(remaining, alpha);
      if (deviate <= limit) break;
      leftOut.push({ index: index(), statistic: deviate, limit });
    }
    return { leftOut };
  },
};
