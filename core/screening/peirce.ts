import { normalUpper } from '../distributions/normal.ts';
import { moments } from '../summary/moments.ts';
import type { LeftOut, ScreeningRule } from './rule.ts';

/** Of finding a ratio, which settles long before. */
const MOST_STEPS = 200;

/**
 * Peirce's ratio of the largest deviation allowed to the SD, by Gould's equations.
 * @param n readings
 * @param doubtful how many of them are doubted, 1 ≤ doubtful < n − 1
 * @source Peirce (1852) and Gould (1855), Astronomical Journal 2 and 4; Ross (2003), Journal of Engineering Technology 20
 * @example peirceRatio(10, 1) // 1.878
 */
export function peirceRatio(n: number, doubtful: number): number {
  // Logarithms, since the powers of a long series leave the range of numbers.
  const lnQ = (doubtful * Math.log(doubtful) + (n - doubtful) * Math.log(n - doubtful) - n * Math.log(n)) / n;
  let r = 1;
  let squared = 1;
  for (let step = 0; step < MOST_STEPS; step += 1) {
    const lnLambda = (n * lnQ - doubtful * Math.log(r)) / (n - doubtful);
    const next = 1 + ((n - 1 - doubtful) / doubtful) * -Math.expm1(2 * lnLambda);
    if (next < 0) return 0;
    r = Math.exp((next - 1) / 2) * 2 * normalUpper(Math.sqrt(next));
    if (Math.abs(next - squared) < 1e-13) return Math.sqrt(next);
    squared = next;
  }
  return Math.sqrt(squared);
}

/**
 * Peirce's criterion: one pass for 1, 2, … doubtful readings, from the first mean and SD, as long as more are found than
 * before.
 * @source Ross (2003), Journal of Engineering Technology 20
 */
export const peirce: ScreeningRule = {
  name: 'peirce',
  source: 'Peirce 1852; Ross 2003',
  label: 'Peirce',
  does: 'Weighs how likely the readings are with and without one, two, … doubtful ones.',
  suits: 'The oldest of the schools. On few readings it costs every third clean sample one.',
  statisticName: 'deviation in SDs',
  screen(values) {
    const { n, mean, sumOfSquares } = moments(values);
    if (n < 3) return { leftOut: [], notAvailable: `needs 3 readings, there are ${String(n)}` };
    const sd = Math.sqrt(sumOfSquares / (n - 1));
    if (!(sd > 0)) return { leftOut: [] };
    let found: LeftOut[] = [];
    for (let doubtful = 1; doubtful < n - 1 && doubtful <= n / 2; doubtful += 1) {
      const limit = peirceRatio(n, doubtful);
      const beyond = Array.from(values, (value, index) => ({
        index,
        statistic: Math.abs(value - mean) / sd,
        limit,
      })).filter(({ statistic }) => statistic > limit);
      if (beyond.length <= found.length) break;
      found = beyond;
      // Fewer beyond than doubted: nothing more to doubt.
      if (found.length < doubtful) break;
      doubtful = found.length;
    }
    return { leftOut: found };
  },
};
