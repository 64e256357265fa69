import { EXPRESSION_LIMIT } from '../model/limits.ts';
import { NotArithmetic, type Operator, type Term, readArithmetic, termText } from '../quantity/arithmetic.ts';
import {
  KELVIN,
  PLAIN,
  type Unit,
  anyUnit,
  isTemperature,
  knownUnit,
  measuresSame,
  unitProduct,
  unitText,
} from '../quantity/units.ts';
import { FUNCTIONS, type StudyName } from './names.ts';

/** Deeper brackets than this are not read, nor more terms. */
const MOST_DEPTH = 40;
const MOST_TERMS = 200;

/** What an expression came to, or a sentence that says why it came to nothing. */
export type Worked = { number: number } | { problem: string };

export interface Expression {
  /** The names that it uses. */
  uses: StudyName[];
  /** The unit that it comes to; '' for a plain number. */
  unit: string;
  /**
   * Its value in a unit.
   * @param values of the names it uses, by identifier, each in its name's own unit
   */
  work: (values: ReadonlyMap<string, number>) => Worked;
}

class Wrong extends Error {}

type Values = ReadonlyMap<string, number>;

/**
 * A term made ready: its unit is known before any value is, so that working it out is arithmetic with plain numbers of
 * the SI. A comparison has no unit, and its value is 1 or 0.
 */
interface Ready {
  unit: Unit | 'yes or no';
  /** Whether no name is in it. */
  constant: boolean;
  value: (values: Values) => number;
}

interface Amount extends Ready {
  unit: Unit;
  /** What a plain figure beside it is worth, which is in its unit: 30 beside a power in W, 40 beside a humidity in %. */
  figure?: (number: number) => number;
}

const shown = (unit: Unit | 'yes or no'): string =>
  unit === 'yes or no' ? 'yes or no' : unitText(unit) || 'a plain number';

/** A value that there is; refused are those of a root of −1 or of a division by zero. */
function real(value: number, text: string): number {
  if (Number.isNaN(value)) throw new Wrong(`“${text}” has no real value.`);
  if (!Number.isFinite(value)) throw new Wrong(`“${text}” divides by zero or grows too large.`);
  return value;
}

/** A name's value in the SI. Temperatures are read in °C and reckoned with as K, so that differences come out right. */
function named({ identifier, unit }: StudyName): Amount {
  const read = (values: Values) => values.get(identifier) as number;
  const ready = (of: Unit, figure: (number: number) => number): Amount => ({
    unit: of,
    constant: false,
    figure,
    value: (values) => figure(read(values)),
  });
  if (unit.trim() === '%') return ready(PLAIN, (number) => number / 100);
  if (isTemperature(unit)) {
    const { factor, zero } = knownUnit(unit) as Unit;
    const celsius = zero === 0 ? 0 : 273.15;
    return ready(KELVIN, (number) => (number + zero) * factor - celsius);
  }
  const of = anyUnit(unit);
  return ready(of, (number) => number * of.factor);
}

/** Values side by side, of which one is chosen or which are compared: plain figures take the unit of the others. */
function sideBySide(all: readonly Amount[]): Amount[] {
  const isFigure = ({ constant, unit }: Amount) => constant && unit.dimension.size === 0;
  const other = all.find((ready) => !isFigure(ready));
  if (!other) return [...all];
  const figure = other.figure ?? ((number: number) => number * unitFactor(other.unit));
  return all.map((ready) =>
    isFigure(ready)
      ? { unit: other.unit, constant: true, value: (values) => figure(ready.value(values)) }
      : ready,
  );
}

/** Nearer than this, relative to the larger, two values are equal: 1 in and 25.4 mm are. */
const EQUAL = 1e-12;
const equal = (a: number, b: number) => Math.abs(a - b) <= EQUAL * Math.max(Math.abs(a), Math.abs(b));

const COMPARISONS: Partial<Record<Operator, (a: number, b: number) => boolean>> = {
  '<': (a, b) => a < b && !equal(a, b),
  '<=': (a, b) => a < b || equal(a, b),
  '>': (a, b) => a > b && !equal(a, b),
  '>=': (a, b) => a > b || equal(a, b),
  '==': equal,
  '!=': (a, b) => !equal(a, b),
};

const amount = (ready: Ready, text: string): Amount => {
  if (ready.unit === 'yes or no') throw new Wrong(`“${text}” is yes or no, not a number.`);
  return ready as Amount;
};

function raised(left: Amount, right: Amount, text: string): Ready {
  if (right.unit.dimension.size > 0)
    throw new Wrong(`“${text}”: ${shown(left.unit)} and ${shown(right.unit)} cannot be raised.`);
  const constant = left.constant && right.constant;
  const value = (values: Values) => real(left.value(values) ** right.value(values), text);
  if (left.unit.dimension.size === 0) return { unit: PLAIN, constant, value };
  if (!right.constant)
    throw new Wrong(`“${text}”: ${shown(left.unit)} can be raised to a plain figure only.`);
  return { unit: unitProduct(PLAIN, left.unit, right.value(new Map())), constant, value };
}

function operation(operator: Operator, a: Ready, b: Ready, text: string): Ready {
  const [left, right] = [amount(a, text), amount(b, text)];
  const constant = left.constant && right.constant;
  const made = (unit: Ready['unit'], run: (x: number, y: number) => number): Ready => ({
    unit,
    constant,
    value: (values) => real(run(left.value(values), right.value(values)), text),
  });
  const compare = COMPARISONS[operator];
  const alike = measuresSame(left.unit, right.unit);
  if (compare) {
    const [first, second] = sideBySide([left, right]) as [Amount, Amount];
    if (!measuresSame(first.unit, second.unit))
      throw new Wrong(`“${text}”: ${shown(left.unit)} and ${shown(right.unit)} cannot be compared.`);
    return {
      unit: 'yes or no',
      constant,
      value: (values) => Number(compare(first.value(values), second.value(values))),
    };
  }
  switch (operator) {
    case '*':
      return made(unitProduct(left.unit, right.unit), (x, y) => x * y);
    case '/':
      return made(unitProduct(left.unit, right.unit, -1), (x, y) => (y === 0 ? Infinity : x / y));
    case '^':
      return raised(left, right, text);
    default: {
      const words = operator === '+' ? 'added' : 'subtracted';
      if (!alike)
        throw new Wrong(`“${text}”: ${shown(left.unit)} and ${shown(right.unit)} cannot be ${words}.`);
      return made(left.unit, operator === '+' ? (x, y) => x + y : (x, y) => x - y);
    }
  }
}

/** Functions of one plain number. */
const OF_A_NUMBER = { exp: Math.exp, log: Math.log, log10: Math.log10 };

/** One of two values, by a comparison. */
function chosen([condition, ...rest]: Ready[], text: string): Ready {
  if (!condition || rest.length !== 2)
    throw new Wrong('“if” takes a comparison and two values, such as if(speed > 5, speed, 0).');
  if (condition.unit !== 'yes or no')
    throw new Wrong('“if” asks something first: a comparison, such as speed > 5.');
  const [yes, no] = sideBySide(rest.map((ready) => amount(ready, text))) as [Amount, Amount];
  if (!measuresSame(yes.unit, no.unit))
    throw new Wrong(`“${text}”: ${shown(yes.unit)} and ${shown(no.unit)} cannot stand for each other.`);
  return {
    unit: yes.unit,
    constant: condition.constant && yes.constant && no.constant,
    value: (values) => (condition.value(values) === 1 ? yes : no).value(values),
  };
}

function call(name: string, of: Ready[], text: string): Ready {
  if (!(FUNCTIONS as readonly string[]).includes(name)) {
    throw new Wrong(`There is no function “${name}”; there are ${FUNCTIONS.join(', ')}.`);
  }
  if (name === 'if') return chosen(of, text);
  const many = name === 'min' || name === 'max';
  if (many ? of.length < 1 : of.length !== 1) {
    throw new Wrong(`“${name}” takes ${many ? 'at least one value' : 'one value'}.`);
  }
  const given = of.map((ready) => amount(ready, text));
  const all = many ? sideBySide(given) : given;
  const [first] = all as [Amount];
  const refuse = () =>
    new Wrong(`“${text}”: ${name} does not take ${all.map(({ unit }) => shown(unit)).join(' and ')}.`);
  const made = (unit: Unit, run: (...numbers: number[]) => number): Ready => ({
    unit,
    constant: all.every(({ constant }) => constant),
    value: (values) => real(run(...all.map(({ value }) => value(values))), text),
  });
  if (many) {
    if (!all.every(({ unit }) => measuresSame(unit, first.unit))) throw refuse();
    return made(first.unit, name === 'min' ? Math.min : Math.max);
  }
  if (name === 'abs') return made(first.unit, Math.abs);
  if (name === 'sqrt') return made(unitProduct(PLAIN, first.unit, 0.5), Math.sqrt);
  if (first.unit.dimension.size > 0) throw refuse();
  return made(PLAIN, OF_A_NUMBER[name as keyof typeof OF_A_NUMBER]);
}

/**
 * Makes a term ready; refuses all but arithmetic, the usual functions and the study's own names.
 * @param used grows by the names that are found
 */
function prepare(term: Term, names: ReadonlyMap<string, StudyName>, used: Set<string>): Ready {
  const inner = (part: Term) => prepare(part, names, used);
  const made = (): Ready => {
    switch (term.is) {
      case 'number': {
        const { value } = term;
        return { unit: PLAIN, constant: true, value: () => value };
      }
      case 'name': {
        const name = names.get(term.name);
        if (!name) throw new Wrong(`There is no “${term.name}” in this study.`);
        used.add(term.name);
        return named(name);
      }
      case 'bracket':
        return inner(term.of);
      case 'sign': {
        const of = amount(inner(term.of), termText(term));
        return term.sign === '+' ? of : { ...of, value: (values) => -of.value(values) };
      }
      case 'operation':
        return operation(term.operator, inner(term.left), inner(term.right), termText(term));
      case 'call':
        return call(term.name, term.of.map(inner), termText(term));
    }
  };
  const ready = made();
  // What has no name in it has one value, which can be said to be wrong at once.
  if (ready.constant) ready.value(new Map());
  return ready;
}

/** From the SI to the unit that is wanted; whatever it comes to when left out. */
function intoUnit(unit: Unit, wanted: string | undefined, text: string): (value: number) => number {
  if (wanted === undefined) return (value) => value / (unit.dimension.size === 0 ? 1 : unitFactor(unit));
  const target = wanted.trim();
  const plain = target === '' || target === '%';
  const refused = () => {
    const found = unitText(unit);
    return new Wrong(
      found === ''
        ? `“${text}” gives a plain number, not ${target}.`
        : `“${text}” gives ${found}, which cannot be told in ${target === '' ? 'no unit' : target}.`,
    );
  };
  if (plain !== (unit.dimension.size === 0)) throw refused();
  if (plain) return target === '%' ? (value) => 100 * value : (value) => value;
  // The zero of a temperature has no part in it: it is a difference.
  const { factor, dimension, words } = isTemperature(target) ? (knownUnit(target) as Unit) : anyUnit(target);
  if (!measuresSame(unit, { factor, dimension, words, zero: 0 })) throw refused();
  return (value) => value / factor;
}

/** What the words of a unit are worth together; what cancelled out of them has no part in it. */
const unitFactor = (unit: Unit): number => anyUnit(unitText(unit)).factor;

/** Brackets one inside the other, at most; so that the parser is never sent down a thousand of them. */
function bracketDepth(text: string): number {
  let depth = 0;
  let deepest = 0;
  for (const sign of text) {
    if (sign === '(') depth += 1;
    if (sign === ')') depth -= 1;
    deepest = Math.max(deepest, depth);
  }
  return deepest;
}

function termsIn(term: Term): number {
  const inner =
    term.is === 'operation'
      ? [term.left, term.right]
      : term.is === 'call'
        ? term.of
        : term.is === 'bracket' || term.is === 'sign'
          ? [term.of]
          : [];
  return 1 + inner.reduce((sum, part) => sum + termsIn(part), 0);
}

/** What people write, as the parser wants it. */
const written = (text: string) =>
  text
    .replace(/[\u2212\u2013]/g, '-')
    .replace(/[·×]/g, '*')
    .replace(/[÷]/g, '/')
    .replace(/≤/g, '<=')
    .replace(/≥/g, '>=')
    .replace(/≠/g, '!=');

/**
 * Reads an expression: arithmetic, a few functions, and the study's own names. Nothing else is ever evaluated.
 * @param names that it may use
 * @param unit in which its value is wanted; whatever it comes to when left out
 * @returns what it uses and a function that works it out; or a sentence that says what is wrong, units included
 */
export function readExpression(
  text: string,
  names: readonly StudyName[],
  unit?: string,
): Expression | { problem: string } {
  const problem = (message: string) => ({ problem: message });
  if (text.trim() === '') return problem('Type an expression, such as air_speed / power.');
  if (text.length > EXPRESSION_LIMIT) {
    return problem(
      `An expression has at most ${String(EXPRESSION_LIMIT)} characters; this has ${String(text.length)}.`,
    );
  }
  if (bracketDepth(text) > MOST_DEPTH) return problem(`The brackets go deeper than ${String(MOST_DEPTH)}.`);
  const known = new Map(names.map((name) => [name.identifier, name]));
  const used = new Set<string>();
  try {
    const term = readArithmetic(written(text));
    if (termsIn(term) > MOST_TERMS) return problem(`There are more than ${String(MOST_TERMS)} terms.`);
    const ready = amount(prepare(term, known, used), text.trim());
    const convert = intoUnit(ready.unit, unit, text.trim());
    return {
      uses: [...used].map((identifier) => known.get(identifier) as StudyName),
      unit: unitText(ready.unit),
      work: (values) => {
        try {
          const number = convert(ready.value(values));
          if (!Number.isFinite(number)) return problem(`“${text.trim()}” grows too large.`);
          return { number: Number(number.toPrecision(14)) };
        } catch (error) {
          if (error instanceof Wrong) return problem(error.message);
          throw error;
        }
      },
    };
  } catch (error) {
    if (error instanceof Wrong || error instanceof NotArithmetic) return problem(error.message);
    throw error;
  }
}
