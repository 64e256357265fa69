import { moments } from './moments.ts';
import { type Trim, winsorizedSumOfSquares } from './winsorized.ts';

/** Energy of a level, relative to that of 0 dB. */
export const energyOf = (levelDb: number): number => 10 ** (levelDb / 10);

/** Level of an energy, dB. */
export const levelOf = (energy: number): number => 10 * Math.log10(energy);

/** Levels that spread wider than this (SD, dB) have an energy mean too skewed for the delta method. */
export const WIDE_DB = 3;

const DB_PER_NEPER = 10 / Math.LN10;

/** The mean level by energy, and what its interval is built from; all in dB. */
export interface EnergyMean {
  mean: number;
  /** Middle of the interval: the mean itself, or Cox's estimate where the levels spread wide. */
  centre: number;
  se: number;
}

/**
 * Mean level by energy, L = 10·lg(mean of 10^(L_i/10)). Its standard error comes by the delta method on the energies;
 * where the levels spread by more than 3 dB, by Cox's method on the levels, whose interval does not become too short.
 * @param ascending kept levels in dB, smallest first
 * @param trim where a rule always cuts from both ends
 * @returns dB; NaN for what n does not allow
 * @source ISO 3744 (energy average of levels; from memory); the delta method: Oehlert (1992), The American
 *   Statistician 46; Cox's method with Student's t: Land (1972), Technometrics 14, and Olsson (2005), Journal of
 *   Statistics Education 13
 * @example energyMean(Float64Array.of(60, 70)).mean // 67.40
 */
export function energyMean(ascending: Float64Array, trim?: Trim): EnergyMean {
  // Relative to the largest, so that no level is too large to be written as an energy.
  const top = ascending[ascending.length - 1] as number;
  const energies = ascending.map((levelDb) => energyOf(levelDb - top));
  const { n, mean, sumOfSquares } = moments(energies);
  const level = top + levelOf(mean);
  const levels = moments(ascending);
  const variance = levels.sumOfSquares / (n - 1);
  const trimmed = trim && trim.perEnd > 0;
  if (n > 2 && !trimmed && variance > WIDE_DB * WIDE_DB) {
    // In nepers of energy: y = L·ln 10/10, and the logarithm of the mean energy is ȳ + s²/2.
    const s2 = variance / (DB_PER_NEPER * DB_PER_NEPER);
    return {
      mean: level,
      centre: levels.mean + (DB_PER_NEPER * s2) / 2,
      se: DB_PER_NEPER * Math.sqrt(s2 / n + (s2 * s2) / (2 * (n - 1))),
    };
  }
  let se = n > 1 ? Math.sqrt(sumOfSquares / (n - 1) / n) : Number.NaN;
  if (trimmed && n > 1) {
    const winsorized = Math.sqrt(winsorizedSumOfSquares(energies, trim.perEnd) / (trim.of - 1));
    se = (winsorized * Math.sqrt(trim.of)) / n;
  }
  return { mean: level, centre: level, se: DB_PER_NEPER * (se / mean) };
}

/** Mean of some values: of levels in decibels that of their energies. NaN where there are none. */
export const meanOf = (values: readonly number[], average: 'energy' | undefined): number =>
  average === 'energy' ? energyMean(Float64Array.from(values).sort()).mean : moments(values).mean;
