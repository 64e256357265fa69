/**
 * Least variance of one reading that was rounded to steps: that of a rectangle of one step's width.
 * @param step in the readings' unit, 0 where none is known
 * @returns in the square of that unit
 * @source GUM, JCGM 100:2008, F.2.2.1
 * @example roundingVariance(0.6) // 0.03
 */
export const roundingVariance = (step: number): number => (step * step) / 12;

/** More decimals than this nobody reads off an instrument: the numbers were worked out. */
const MOST_DECIMALS = 9;

/** Decimals of a number as JavaScript prints it. */
function decimals(value: number): number {
  const [mantissa, exponent] = String(value).split('e') as [string, string | undefined];
  const behind = mantissa.split('.')[1]?.length ?? 0;
  return Math.max(0, behind - Number(exponent ?? 0));
}

/**
 * The finest decimal step among numbers: 0.1 for 10.1, 10.2 and 11.
 * @param samples numbers in one unit
 * @returns 0 where the numbers have more than nine decimals, so that nothing was rounded that would show
 * @example finestStep([[10.1, 11], [10.25]]) // 0.01
 */
export function finestStep(samples: Iterable<ArrayLike<number>>): number {
  let most = 0;
  let any = false;
  for (const values of samples) {
    for (let i = 0; i < values.length; i += 1) {
      any = true;
      const value = values[i] as number;
      // Most numbers need no more decimals than those before: asked by arithmetic, since text is slow.
      const scaled = value * 10 ** most;
      if (
        Math.abs(scaled) < 2 ** 40 &&
        Math.abs(scaled - Math.round(scaled)) < 1e-9 * Math.max(1, Math.abs(scaled))
      )
        continue;
      most = Math.max(most, decimals(value));
      if (most > MOST_DECIMALS) return 0;
    }
  }
  return any ? 10 ** -most : 0;
}
