import unitLibrary from 'unitmath/dist/UnitMath.min.js';

/** What one word of a unit is worth: “km”, “psi”, “degF”. */
export interface UnitWord {
  /** Units of the SI in one of it. */
  factor: number;
  /** What is added to a number before it is multiplied; 0 but for scales of temperature. */
  zero: number;
  /** Power of each base quantity. */
  dimension: readonly number[];
}

/**
 * Units of the bench that the library lacks, or has with more or fewer figures.
 * @source NIST Special Publication 811 (2008), appendix B.8
 */
const BENCH_UNITS = {
  mph: '1 mile/hour',
  kph: '1 km/hour',
  knot: '1852 m/hour',
  fpm: '1 ft/minute',
  inHg: '3386.389 Pa',
  mmHg: '133.3224 Pa',
  mmH2O: '9.80665 Pa',
  cmH2O: '98.0665 Pa',
  inH2O: '249.0889 Pa',
  kgf: '9.80665 N',
  ozf: '0.2780138509537812 N',
  Nm: '1 N m',
  Ah: { value: '3600 A s', prefixes: 'SHORT' },
  cal: { value: '4.184 J', prefixes: 'SHORT' },
  gpm: '1 gallon/minute',
  lpm: '1 L/minute',
  cfm: '1 ft^3/minute',
  rpm: '1 minute^-1',
  gr: '1 grain',
  grains: '1 grain',
  grams: '1 gram',
  tons: '1 ton',
  tonnes: '1 tonne',
  mins: '1 minute',
  secs: '1 second',
  amp: '1 A',
  amps: '1 A',
  acres: '1 acre',
  hectares: '1 hectare',
};

const library = unitLibrary.config({ definitions: { units: BENCH_UNITS } });

/** A word of a unit, with its prefix; undefined for one that is none. The only door to the library of units. */
export function unitWord(word: string): UnitWord | undefined {
  try {
    const { dimension, units } = library(1, word);
    const [piece] = units;
    if (units.length !== 1 || piece?.power !== 1) return undefined;
    const { value, offset, prefixes } = piece.unit;
    return { factor: value * (prefixes[piece.prefix] ?? 1), zero: offset, dimension };
  } catch {
    return undefined;
  }
}
