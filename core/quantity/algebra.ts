import {
  type FactoryFunctionMap,
  type Unit,
  absDependencies,
  addDependencies,
  create,
  createUnitDependencies,
  divideDependencies,
  expDependencies,
  log10Dependencies,
  logDependencies,
  maxDependencies,
  minDependencies,
  multiplyDependencies,
  parseDependencies,
  powDependencies,
  sqrtDependencies,
  subtractDependencies,
  unaryMinusDependencies,
  unitDependencies,
} from 'mathjs';

const PARTS = {
  absDependencies,
  addDependencies,
  createUnitDependencies,
  divideDependencies,
  expDependencies,
  log10Dependencies,
  logDependencies,
  maxDependencies,
  minDependencies,
  multiplyDependencies,
  parseDependencies,
  powDependencies,
  sqrtDependencies,
  subtractDependencies,
  unaryMinusDependencies,
  unitDependencies,
} as FactoryFunctionMap;

/** The only door to the algebra library: units, and the parser of expressions. */
export const algebra = create(PARTS);

export type { Unit };

/**
 * Units of the bench that the library lacks, or has with fewer figures.
 * @source NIST Special Publication 811 (2008), appendix B.8
 */
const OWN_UNITS: Record<string, string> = {
  mph: '1 mile/hour',
  kph: '1 km/hour',
  knot: '1852 m/hour',
  fpm: '1 ft/minute',
  inHg: '3386.389 Pa',
  mmHg: '133.3224 Pa',
  inH2O: '249.0889 Pa',
  kgf: '9.80665 N',
  ozf: '0.2780138509537812 N',
  Nm: '1 N m',
  Ah: '3600 A s',
  lm: '1 cd',
  lux: '1 lm/m^2',
  lx: '1 lm/m^2',
  gpm: '1 gallon/minute',
  lpm: '1 L/minute',
  cfm: '1 ft^3/minute',
  rpm: '1/minute',
  gr: '1 grain',
};
for (const [name, definition] of Object.entries(OWN_UNITS)) {
  algebra.createUnit(name, { definition, prefixes: name === 'Ah' ? 'short' : 'none' }, { override: true });
}
