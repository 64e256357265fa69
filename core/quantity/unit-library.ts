/** The library of units, which is asked once: scripts/schema.ts writes unit-table.json from it, and pages do without it. */
import unitLibrary from 'unitmath/dist/UnitMath.min.js';

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

/** A unit in the table: its word, units of the SI in one of it, what is added before, its dimension and its prefixes. */
export type TableUnit = readonly [
  word: string,
  factor: number,
  zero: number,
  dimension: readonly number[],
  prefixes: string,
];

/** Every word of a unit that the library knows, and what may stand before it. */
export interface UnitTable {
  prefixes: Readonly<Record<string, Readonly<Record<string, number>>>>;
  units: readonly TableUnit[];
}

/** A word of a unit as the library takes it, with its prefix; undefined for one that is none. */
export function libraryWord(word: string) {
  try {
    const { dimension, units } = library(1, word);
    const [piece] = units;
    if (units.length !== 1 || piece?.power !== 1) return undefined;
    const { value, offset, prefixes } = piece.unit;
    return { factor: value * (prefixes[piece.prefix] as number), zero: offset, dimension, prefixes };
  } catch {
    return undefined;
  }
}

/** The units of the library as a table. */
export function unitTable(): UnitTable {
  const { prefixes, units } = library.definitions();
  const nameOf = (set: object) =>
    Object.keys(prefixes).find((name) => JSON.stringify(prefixes[name]) === JSON.stringify(set)) as string;
  const words = Object.entries(units).flatMap(([name, unit]) => [
    name,
    ...(typeof unit === 'string' ? [] : (unit.aliases ?? [])),
  ]);
  const found = [...new Set(words)].flatMap((word): TableUnit[] => {
    const { factor, zero, dimension, prefixes: set } = libraryWord(word) ?? {};
    return factor === undefined || zero === undefined || !dimension || !set
      ? []
      : [[word, factor, zero, dimension, nameOf(set)]];
  });
  const used = new Set(found.map(([, , , , set]) => set));
  return {
    prefixes: Object.fromEntries(Object.entries(prefixes).filter(([name]) => used.has(name))),
    units: found,
  };
}
