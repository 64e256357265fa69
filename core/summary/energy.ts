import { moments } from './moments.ts';
import { type Trim, winsorizedSumOfSquares } from './winsorized.ts';

/** Energy of a level, relative to that of 0 dB. */
export const energyOf = (levelDb: number): number => 10 ** (levelDb / 10);

/** Level of an energy, dB. */
export const levelOf = (energy: number): number => 10 * Math.log10(energy);

/**
 * Mean level by energy, L = 10·lg(mean of 10^(L_i/10)), with its standard error by the delta method on the energies.
 * @param ascending kept levels in dB, smallest first
 * @param trim where a rule always cuts from both ends
 * @returns dB; NaN for what n does not allow
 * @source ISO 3744 (energy average of levels; from memory); the delta method: Oehlert (1992), The American Statistician 46
 * @example energyMean([60, 70]).mean // 67.40
 */
export function energyMean(ascending: Float64Array, trim?: Trim): { mean: number; se: number } {
  // Relative to the largest, so that no level is too large to be told as an energy.
  const top = ascending[ascending.length - 1] as number;
  const energies = ascending.map((levelDb) => energyOf(levelDb - top));
  const { n, mean, sumOfSquares } = moments(energies);
  let se = n > 1 ? Math.sqrt(sumOfSquares / (n - 1) / n) : Number.NaN;
  if (trim && trim.perEnd > 0 && n > 1) {
    const winsorized = Math.sqrt(winsorizedSumOfSquares(energies, trim.perEnd) / (trim.of - 1));
    se = (winsorized * Math.sqrt(trim.of)) / n;
  }
  return { mean: top + levelOf(mean), se: (10 / Math.LN10) * (se / mean) };
}
