import { type Term, readArithmetic } from './arithmetic.ts';
import { unitWord } from './unit-words.ts';

/** A unit: what one of it is worth, what it measures, and how it is written. */
export interface Unit {
  /** Units of the SI in one of it; of the tester's own units, those. */
  factor: number;
  /** What is added to a number before it is multiplied; 0 but for °C and °F by themselves. */
  zero: number;
  /** Power of each base quantity, none of them 0. */
  dimension: ReadonlyMap<string, number>;
  /** Power of each word, none of them 0, as they were written. */
  words: ReadonlyMap<string, number>;
}

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

const LONGEST = 40;
/** Units that are kept once they were understood. */
const MOST_KEPT = 5000;

/** No unit: a plain number. */
export const PLAIN: Unit = { factor: 1, zero: 0, dimension: new Map(), words: new Map() };

const added = (a: ReadonlyMap<string, number>, b: ReadonlyMap<string, number>, times: number) => {
  const sum = new Map(a);
  for (const [key, power] of b) {
    const total = (sum.get(key) ?? 0) + times * power;
    if (Math.abs(total) < 1e-9) sum.delete(key);
    else sum.set(key, total);
  }
  return sum;
};

/** One unit times another to a power: m and s to −1 are m/s. The zero of a temperature has no part in a product. */
export function unitProduct(a: Unit, b: Unit, power = 1): Unit {
  const dimension = added(a.dimension, b.dimension, power);
  const factor = a.factor * b.factor ** power;
  return dimension.size === 0
    ? { ...PLAIN, factor }
    : { factor, zero: 0, dimension, words: added(a.words, b.words, power) };
}

/** Whether two units measure the same. */
export const measuresSame = (a: Unit, b: Unit): boolean =>
  a.dimension.size === b.dimension.size &&
  [...a.dimension].every(([key, power]) => Math.abs((b.dimension.get(key) ?? 0) - power) < 1e-9);

/** A unit as people write it: “m/(s W)”. */
export function unitText({ words }: Unit): string {
  const written = (sign: number) =>
    [...words].flatMap(([word, power]) => {
      const size = power * sign;
      if (size <= 0) return [];
      return size === 1 ? word : `${word}^${String(Number(size.toPrecision(6)))}`;
    });
  const [above, below] = [written(1), written(-1)];
  const over = above.join(' ');
  if (below.length === 0) return over;
  return `${over || '1'}/${below.length === 1 ? (below[0] as string) : `(${below.join(' ')})`}`;
}

/** The unit that a product of words makes; undefined where one of them is none. */
function unitOf(term: Term, wordOf: (word: string) => Unit | undefined): Unit | undefined {
  switch (term.is) {
    case 'name':
      return wordOf(term.name);
    case 'bracket':
      return unitOf(term.of, wordOf);
    case 'number':
      return term.value === 1 ? PLAIN : undefined;
    case 'operation': {
      const left = unitOf(term.left, wordOf);
      if (!left) return undefined;
      if (term.operator === '^') {
        const { right } = term;
        const size = right.is === 'sign' ? right.of : right;
        const power = size.is === 'number' ? size.value * (right.is === 'sign' ? -1 : 1) : 0;
        return power === 0 || Math.abs(power) > 9 ? undefined : unitProduct(PLAIN, left, power);
      }
      if (term.operator !== '*' && term.operator !== '/') return undefined;
      const right = unitOf(term.right, wordOf);
      return right && unitProduct(left, right, term.operator === '/' ? -1 : 1);
    }
    default:
      return undefined;
  }
}

function libraryUnit(word: string): Unit | undefined {
  const found = unitWord(word);
  if (!found) return undefined;
  const { factor, zero, dimension } = found;
  const powers = dimension.flatMap((power, i): [string, number][] =>
    power === 0 ? [] : [[`base ${String(i)}`, power]],
  );
  return { factor, zero, dimension: new Map(powers), words: new Map([[word, 1]]) };
}

/** A unit of the tester's own, such as a currency: it measures itself. */
const testersUnit = (word: string): Unit => ({
  factor: 1,
  zero: 0,
  dimension: new Map([[word, 1]]),
  words: new Map([[word, 1]]),
});

function readUnit(written: string, wordOf: (word: string) => Unit | undefined): Unit | undefined {
  if (written === '' || written.length > LONGEST) return undefined;
  const spelled = SPELLINGS.reduce((rest, [sign, word]) => rest.replace(sign, word), written)
    .replace(/ ?([*/^()]) ?/g, '$1')
    .replace(/\)(?=[A-Za-z(])/g, ')*')
    .replace(/(?<=[A-Za-z\d])[ (](?=[A-Za-z(])/g, (sign) => (sign === '(' ? '*(' : '*'));
  try {
    const unit = unitOf(readArithmetic(spelled), wordOf);
    return unit && unit.dimension.size > 0 ? unit : undefined;
  } catch {
    return undefined;
  }
}

const known = new Map<string, Unit | undefined>();

/** A unit as it is known everywhere; undefined for a word that is not, such as “points”. */
export function knownUnit(text: string): Unit | undefined {
  const written = text.trim().replace(/\s+/g, ' ');
  if (known.has(written)) return known.get(written);
  const found = readUnit(written, libraryUnit);
  if (known.size < MOST_KEPT) known.set(written, found);
  return found;
}

/** Any unit that people write: known ones, the tester's own, and products of both. */
export function anyUnit(text: string): Unit {
  const written = text.trim().replace(/\s+/g, ' ');
  if (written === '') return PLAIN;
  return (
    knownUnit(written) ??
    readUnit(written, (word) => knownUnit(word) ?? testersUnit(word)) ??
    testersUnit(written)
  );
}

const SECOND = libraryUnit('s') as Unit;
/** Kelvin, in which temperatures are reckoned with. */
export const KELVIN = libraryUnit('K') as Unit;

const measures = (text: string, unit: Unit): boolean => {
  const found = knownUnit(text);
  return found !== undefined && measuresSame(found, unit);
};

/** Whether a unit is one of time, so that 4:18.6 makes sense in it. */
export const isTime = (unit: string): boolean => measures(unit, SECOND);

export const isTemperature = (unit: string): boolean => measures(unit, KELVIN);

/**
 * A number from one unit to another; °C and °F with their zero.
 * @returns undefined where either is unknown or they do not measure the same
 * @source factors of NIST Special Publication 811 (2008), appendix B
 * @example convert(1, 'in', 'mm') // 25.4
 */
export function convert(number: number, from: string, to: string): number | undefined {
  if (from.trim() === to.trim()) return number;
  const [source, target] = [knownUnit(from), knownUnit(to)];
  if (!source || !target || !measuresSame(source, target)) return undefined;
  const converted = (number + source.zero) * (source.factor / target.factor) - target.zero;
  return Number.isFinite(converted) ? Number(converted.toPrecision(12)) : undefined;
}
