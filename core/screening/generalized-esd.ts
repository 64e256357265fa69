import { extremeDeviateLimit, extremeDeviates } from './extreme-deviates.ts';
import type { LeftOut, ScreeningRule } from './rule.ts';

/** Below this many readings the rule leaves the judgement to the tester. */
const FEWEST = 5;

/**
 * Generalized extreme studentized deviate test for at most k outliers: their number is the largest i whose
 * statistic exceeds its limit. k is a quarter of the readings, at least one, unless a parameter gives it.
 * @source Rosner (1983), Technometrics 25
 */
export const generalizedEsd: ScreeningRule = {
  name: 'generalized-esd',
  source: 'Rosner 1983',
  label: 'Generalized ESD',
  does: 'Looks for up to a quarter of bad readings at once, so that two bad ones cannot hide each other.',
  suits: 'Suits most bench work from 5 readings on. It costs about one clean study in fifteen a reading.',
  statisticName: 'R',
  tests: true,
  fewest: FEWEST,
  parameter: { label: 'at most', minimum: 1, maximum: 1000000, whole: true },
  screen(values, { alpha, parameter }) {
    const n = values.length;
    if (n < FEWEST) {
      return {
        leftOut: [],
        notAvailable: `needs ${String(FEWEST)} readings, there are ${String(n)}; judge them by hand`,
      };
    }
    const atMost = Math.min(parameter ?? Math.max(1, Math.floor(n / 4)), n - 2);
    const steps: (Pick<LeftOut, 'statistic' | 'limit'> & { index: () => number })[] = [];
    let outliers = 0;
    for (const { index, deviate, remaining } of extremeDeviates(values)) {
      if (steps.length === atMost) break;
      const limit = extremeDeviateLimit(remaining, alpha);
      steps.push({ index, statistic: deviate, limit });
      if (deviate > limit) outliers = steps.length;
    }
    return {
      leftOut: steps
        .slice(0, outliers)
        .map(({ index, statistic, limit }) => ({ index: index(), statistic, limit })),
    };
  },
};
