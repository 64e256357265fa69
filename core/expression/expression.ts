import type { MathNode, OperatorNode, FunctionNode, ConstantNode, SymbolNode, ParenthesisNode } from 'mathjs';
import { EXPRESSION_LIMIT } from '../model/common.ts';
import { type Unit, algebra } from '../quantity/algebra.ts';
import { isTemperature, knownUnit } from '../quantity/units.ts';
import { FUNCTIONS, type StudyName } from './names.ts';

/** Deeper brackets than this are not read, nor more terms. */
const MOST_DEPTH = 40;
const MOST_NODES = 200;

type Quantity = number | Unit;

/** What an expression came to, or a sentence that says why it came to nothing. */
export type Worked = { number: number } | { problem: string };

export interface Expression {
  /** The names that it uses. */
  uses: StudyName[];
  /** The unit that it comes to, in the library's spelling; '' for a plain number. */
  unit: string;
  /**
   * Its value in a unit.
   * @param values of the names it uses, by identifier, each in its name's own unit
   */
  work: (values: ReadonlyMap<string, number>) => Worked;
}

class Wrong extends Error {}

/**
 * Units of the tester's own, such as a currency, become base units of their own. The library keeps every unit that it
 * was ever given, so there is a fixed number of them: the one that was used longest ago is lent to the next word.
 */
const lentUnits = new Map<string, string>();
const MOST_LENT = 400;

function ownUnit(word: string): string {
  let name = lentUnits.get(word);
  if (name === undefined) {
    if (lentUnits.size < MOST_LENT) {
      const letters = [...String(lentUnits.size)].map((digit) => 'abcdefghij'[Number(digit)] as string);
      name = `own${letters.join('')}unit`;
      algebra.createUnit(name);
    } else {
      const [oldest, free] = lentUnits.entries().next().value as [string, string];
      lentUnits.delete(oldest);
      name = free;
    }
  } else lentUnits.delete(word);
  lentUnits.set(word, name);
  return name;
}

/** A unit as the library takes it: known ones as they are, the tester's own ones alone or within a compound. */
function spelled(unit: string): string {
  const known = knownUnit(unit);
  if (known) return known.formatUnits();
  const parts = unit.split(/([*/·()\s]+|\^-?\d+|²|³)/).map((part, i) => {
    if (i % 2 === 1) return { '·': '*', '²': '^2', '³': '^3' }[part] ?? part;
    return part.trim() === '' ? '' : (knownUnit(part)?.formatUnits() ?? ownUnit(part.trim()));
  });
  try {
    return algebra.unit(1, parts.join('')).formatUnits();
  } catch {
    return ownUnit(unit);
  }
}

/** A number with its unit. Temperatures are told in °C and reckoned with as K, so that differences come out right. */
function quantity(number: number, unit: string): Quantity {
  const written = unit.trim();
  if (written === '') return number;
  if (written === '%') return number / 100;
  if (isTemperature(written)) {
    const celsius = written.endsWith('K') ? number : algebra.unit(number, spelled(written)).toNumber('degC');
    return algebra.unit(celsius, 'K');
  }
  return algebra.unit(number, spelled(written));
}

/** The unit of a result as people write it. */
function unitWords(result: Quantity): string {
  if (typeof result === 'number') return '';
  let words = result.formatUnits();
  for (const [word, name] of lentUnits) words = words.replaceAll(name, word);
  return words.replace(/ \/ /g, '/').replace(/^\(([^()]*)\)\//, '$1/');
}

/** The number of a result in the unit that is wanted. */
function inUnit(result: Quantity, wanted: string, text: string): number {
  const target = wanted.trim();
  const refuse = () => {
    const own = unitWords(result);
    return new Wrong(
      own === ''
        ? `“${text}” gives a plain number, not ${target}.`
        : `“${text}” gives ${own}, which cannot be told in ${target === '' ? 'no unit' : target}.`,
    );
  };
  if (typeof result === 'number') {
    if (target === '') return result;
    if (target === '%') return 100 * result;
    throw refuse();
  }
  if (isTemperature(target)) {
    if (!result.equalBase(algebra.unit('K'))) throw refuse();
    // A difference: the zero of the scale has no part in it.
    return result.toNumber('K') * (target.endsWith('F') ? 1.8 : 1);
  }
  if (target === '' || target === '%') throw refuse();
  const unit = algebra.unit(1, spelled(target));
  if (!result.equalBase(unit)) throw refuse();
  return result.toNumber(unit.formatUnits());
}

const OPERATORS: Record<string, { words: string; run: (a: never, b: never) => unknown }> = {
  add: { words: 'added', run: (a, b) => algebra.add(a, b) },
  subtract: { words: 'subtracted', run: (a, b) => algebra.subtract(a, b) },
  multiply: { words: 'multiplied', run: (a, b) => algebra.multiply(a, b) },
  divide: { words: 'divided', run: (a, b) => algebra.divide(a, b) },
  pow: { words: 'raised', run: (a, b) => algebra.pow(a, b) },
};

const isQuantity = (value: unknown): value is Quantity => typeof value === 'number' || algebra.isUnit(value);

function checked(value: unknown, text: string): Quantity {
  if (!isQuantity(value)) throw new Wrong(`“${text}” has no real value.`);
  const number = typeof value === 'number' ? value : value.toNumber(value.formatUnits());
  if (Number.isNaN(number)) throw new Wrong(`“${text}” has no value.`);
  if (!Number.isFinite(number)) throw new Wrong(`“${text}” divides by zero or grows too large.`);
  return value;
}

const shown = (value: Quantity): string => unitWords(value) || 'a plain number';

function work(node: MathNode, scope: ReadonlyMap<string, Quantity>): Quantity {
  const text = node.toString();
  switch (node.type) {
    case 'ConstantNode':
      return (node as ConstantNode).value;
    case 'ParenthesisNode':
      return work((node as ParenthesisNode).content, scope);
    case 'SymbolNode':
      return scope.get((node as SymbolNode).name) as Quantity;
    case 'FunctionNode': {
      const { fn, args } = node as FunctionNode;
      const values = args.map((arg) => work(arg, scope));
      const name = fn.name as (typeof FUNCTIONS)[number];
      try {
        const functions = algebra as unknown as Record<string, (...all: Quantity[]) => unknown>;
        return checked(functions[name]?.(...values), text);
      } catch (error) {
        if (error instanceof Wrong) throw error;
        throw new Wrong(`“${text}”: ${name} does not take ${values.map(shown).join(' and ')}.`);
      }
    }
    default: {
      const { fn, args } = node as OperatorNode;
      const [a, b] = args.map((arg) => work(arg, scope)) as [Quantity, Quantity | undefined];
      if (b === undefined) return (fn as string) === 'unaryMinus' ? algebra.unaryMinus(a as never) : a;
      const operator = OPERATORS[fn] as (typeof OPERATORS)[string];
      try {
        return checked(operator.run(a as never, b as never), text);
      } catch (error) {
        if (error instanceof Wrong) throw error;
        throw new Wrong(`“${text}”: ${shown(a)} and ${shown(b)} cannot be ${operator.words}.`);
      }
    }
  }
}

/** Refuses all but arithmetic, the usual functions and the study's own names. */
function checkNode(
  node: MathNode,
  names: ReadonlyMap<string, StudyName>,
  used: Set<string>,
  count: { nodes: number },
): void {
  count.nodes += 1;
  if (count.nodes > MOST_NODES) throw new Wrong(`There are more than ${String(MOST_NODES)} terms.`);
  const inner = (children: readonly MathNode[]) => {
    for (const child of children) checkNode(child, names, used, count);
  };
  if (node.type === 'ConstantNode') {
    if (typeof (node as ConstantNode).value !== 'number')
      throw new Wrong(`“${node.toString()}” is no number.`);
  } else if (node.type === 'SymbolNode') {
    const { name } = node as SymbolNode;
    if (!names.has(name)) throw new Wrong(`There is no “${name}” in this study.`);
    used.add(name);
  } else if (node.type === 'ParenthesisNode') inner([(node as ParenthesisNode).content]);
  else if (node.type === 'FunctionNode') {
    const { fn, args } = node as FunctionNode;
    // What is called may be any node, whatever the library's types say.
    const name = (fn as MathNode).type === 'SymbolNode' ? fn.name : '';
    if (!(FUNCTIONS as readonly string[]).includes(name)) {
      throw new Wrong(`There is no function “${fn.toString()}”; there are ${FUNCTIONS.join(', ')}.`);
    }
    const many = name === 'min' || name === 'max';
    if (many ? args.length < 1 : args.length !== 1) {
      throw new Wrong(`“${name}” takes ${many ? 'at least one value' : 'one value'}.`);
    }
    inner(args);
  } else if (node.type === 'OperatorNode') {
    const { fn, args } = node as OperatorNode;
    const known = fn in OPERATORS || ['unaryMinus', 'unaryPlus'].includes(fn);
    if (!known) throw new Wrong(`“${node.toString()}” is more than arithmetic.`);
    inner(args);
  } else throw new Wrong(`“${node.toString().slice(0, 40)}” is more than arithmetic.`);
}

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
  let node: MathNode;
  try {
    node = algebra.parse(
      text
        .replace(/[\u2212\u2013]/g, '-')
        .replace(/[·×]/g, '*')
        .replace(/[÷]/g, '/'),
    );
    checkNode(node, known, used, { nodes: 0 });
  } catch (error) {
    if (error instanceof Wrong) return problem(error.message);
    return problem(
      `This cannot be read: ${error instanceof Error ? error.message : 'it is not arithmetic'}.`,
    );
  }
  const uses = [...used].map((identifier) => known.get(identifier) as StudyName);
  const workIn = (values: ReadonlyMap<string, number>): Worked => {
    try {
      const scope = new Map(
        uses.map(({ identifier, unit: own }) => [
          identifier,
          quantity(values.get(identifier) as number, own),
        ]),
      );
      const result = work(node, scope);
      const number = inUnit(result, unit ?? unitWords(result), text.trim());
      return { number: Number(number.toPrecision(14)) };
    } catch (error) {
      return problem(error instanceof Error ? error.message : 'It cannot be worked out.');
    }
  };
  // Units are the same whatever the values, so ones tell whether they fit; a zero below is found when it comes.
  try {
    const odd = new Map(
      uses.map(({ identifier, unit: own }, i) => [identifier, quantity(1 + i * 0.37, own)]),
    );
    const result = work(node, odd);
    inUnit(result, unit ?? unitWords(result), text.trim());
    return { uses, unit: unitWords(result), work: workIn };
  } catch (error) {
    if (!(error instanceof Wrong)) throw error;
    return problem(error.message);
  }
}
