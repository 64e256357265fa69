import { type Unit, algebra } from './algebra.ts';

/** What people write, as the library wants it. */
const SPELLINGS: readonly (readonly [RegExp, string])[] = [
  [/°\s*C|℃/g, 'degC'],
  [/°\s*F|℉/g, 'degF'],
  [/°/g, 'deg'],
  [/[µμ]/g, 'u'],
  [/[ΩΩ]/g, 'ohm'],
  [/²/g, '^2'],
  [/³/g, '^3'],
  [/[·⋅×]/g, '*'],
  [/\b(gal)\s*\(US\)/gi, 'gallon'],
  [/\bgal\b/g, 'gallon'],
  [/″|"/g, 'in'],
  [/′/g, 'ft'],
];

/** Only what a unit is made of, so that nothing else ever reaches the library's parser. */
const UNIT_SIGNS = /^[A-Za-z0-9^*/() .-]+$/;
const LONGEST = 40;

const known = new Map<string, Unit | undefined>();

/** A unit as the library knows it; undefined for a word that it does not know, such as “points”. */
export function knownUnit(text: string): Unit | undefined {
  const written = text.trim();
  if (written === '' || written.length > LONGEST) return undefined;
  if (known.has(written)) return known.get(written);
  const spelled = SPELLINGS.reduce((rest, [sign, word]) => rest.replace(sign, word), written);
  let found: Unit | undefined;
  if (UNIT_SIGNS.test(spelled) && /[A-Za-z]/.test(spelled) && !/^[\d.]/.test(spelled)) {
    try {
      found = algebra.unit(1, spelled);
    } catch {
      found = undefined;
    }
  }
  if (known.size < 5000) known.set(written, found);
  return found;
}

/** Whether a unit is one of time, so that 4:18.6 makes sense in it. */
export const isTime = (unit: string): boolean => knownUnit(unit)?.equalBase(algebra.unit('s')) ?? false;

export const isTemperature = (unit: string): boolean =>
  knownUnit(unit)?.equalBase(algebra.unit('K')) ?? false;

/**
 * A number from one unit to another; °C and °F with their zero.
 * @returns undefined where either is unknown or they do not measure the same
 * @source factors of NIST Special Publication 811 (2008), appendix B
 * @example convert(1, 'in', 'mm') // 25.4
 */
export function convert(number: number, from: string, to: string): number | undefined {
  if (from.trim() === to.trim()) return number;
  const [source, target] = [knownUnit(from), knownUnit(to)];
  if (!source || !target || !source.equalBase(target)) return undefined;
  // The library sets a simplified unit of its own where it may; a fresh one is made for each number.
  const converted = algebra.unit(number, source.formatUnits()).toNumber(target.formatUnits());
  return Number.isFinite(converted) ? Number(converted.toPrecision(12)) : undefined;
}
