import { dixonLimit } from './dixon-limits.ts';
import type { LeftOut, ScreeningRule } from './rule.ts';

/** Readings that the ratio steps over at the near end, and at the far end. */
function ratioKind(n: number): { near: number; far: number; name: string } {
  if (n <= 7) return { near: 1, far: 0, name: 'r10' };
  if (n <= 10) return { near: 1, far: 1, name: 'r11' };
  if (n <= 13) return { near: 2, far: 1, name: 'r21' };
  return { near: 2, far: 2, name: 'r22' };
}

/**
 * Dixon's ratios for one odd reading at either end, two-sided: the gap next to it over the range, of which one or two
 * readings at either end are left away as there are more of them.
 * @source Dixon (1953), Biometrics 9; Rorabacher (1991), Analytical Chemistry 63
 */
export const dixon: ScreeningRule = {
  name: 'dixon',
  source: 'Dixon 1953; Rorabacher 1991',
  label: 'Dixon',
  does: 'Compares the gap next to the farthest reading with the range of all.',
  suits: 'Suits 3 to 30 readings with one bad one, worked out by hand; two bad ones hide each other.',
  statisticName: 'r',
  tests: true,
  screen(values, { alpha }) {
    const n = values.length;
    const limit = dixonLimit(n, alpha);
    if (limit === undefined) {
      return { leftOut: [], notAvailable: `needs 3 to 30 readings, there are ${String(n)}` };
    }
    const order = Array.from(values, (_, index) => index).sort(
      (a, b) => (values[a] as number) - (values[b] as number),
    );
    const valueAt = (place: number) => values[order[place] as number] as number;
    const { near, far } = ratioKind(n);
    const low = (valueAt(near) - valueAt(0)) / (valueAt(n - 1 - far) - valueAt(0));
    const high = (valueAt(n - 1) - valueAt(n - 1 - near)) / (valueAt(n - 1) - valueAt(far));
    const statistic = Math.max(low || 0, high || 0);
    const leftOut: LeftOut[] =
      statistic > limit
        ? [{ index: order[(low || 0) >= (high || 0) ? 0 : n - 1] as number, statistic, limit }]
        : [];
    return { leftOut };
  },
};
