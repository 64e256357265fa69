import jsep from 'jsep';
import { quoted } from './format.ts';

/** Arithmetic as it was written, taken apart. */
export type Term =
  | { is: 'number'; value: number; text: string }
  | { is: 'name'; name: string }
  | { is: 'sign'; sign: '+' | '-'; of: Term }
  | { is: 'operation'; operator: Operator; left: Term; right: Term }
  | { is: 'call'; name: string; of: Term[] }
  | { is: 'bracket'; of: Term };

/** How tightly each operator binds. */
const OPERATORS = {
  '<': 1,
  '<=': 1,
  '>': 1,
  '>=': 1,
  '==': 1,
  '!=': 1,
  '+': 2,
  '-': 2,
  '*': 3,
  '/': 3,
  '^': 4,
} as const;
export type Operator = keyof typeof OPERATORS;

jsep.removeAllBinaryOps();
jsep.removeAllUnaryOps();
jsep.removeAllLiterals();
for (const [operator, precedence] of Object.entries(OPERATORS)) {
  jsep.addBinaryOp(operator, precedence, operator === '^');
}
jsep.addUnaryOp('-');
jsep.addUnaryOp('+');
// The parser forgets brackets; they are wanted for −2² against (−2)², and to say what was written.
jsep.hooks.add('gobble-token', function (env) {
  if (this.char !== '(') return;
  env.node = { type: 'Bracket', of: this.gobbleGroup() };
});

/** What is written is no arithmetic; the message says what and where. */
export class NotArithmetic extends Error {}

/** A term as it is written. */
export function termText(term: Term): string {
  switch (term.is) {
    case 'number':
      return term.text;
    case 'name':
      return term.name;
    case 'bracket':
      return `(${termText(term.of)})`;
    case 'sign':
      return `${term.sign}${termText(term.of)}`;
    case 'call':
      return `${term.name}(${term.of.map(termText).join(', ')})`;
    case 'operation':
      return `${termText(term.left)} ${term.operator} ${termText(term.right)}`;
  }
}

interface Node {
  type: string;
  [key: string]: unknown;
}

function termOf(node: Node | false, text: string): Term {
  const inner = (key: string) => termOf(node && (node[key] as Node), text);
  const all = (key: string) => (node ? (node[key] as Node[]) : []).map((child) => termOf(child, text));
  if (node) {
    switch (node.type) {
      case 'Literal':
        if (typeof node.value === 'number' && Number.isFinite(node.value))
          return { is: 'number', value: node.value, text: String(node.raw) };
        throw new NotArithmetic(`${quoted(String(node.raw))} is no number.`);
      case 'Identifier':
        return { is: 'name', name: String(node.name) };
      case 'Bracket':
        return { is: 'bracket', of: inner('of') };
      case 'UnaryExpression':
        return { is: 'sign', sign: node.operator as '-', of: inner('argument') };
      case 'BinaryExpression': {
        const [left, right] = [inner('left'), inner('right')];
        const operator = node.operator as Operator;
        // −2² is −(2²).
        if (operator === '^' && left.is === 'sign')
          return { ...left, of: { is: 'operation', operator, left: left.of, right } };
        return { is: 'operation', operator, left, right };
      }
      case 'CallExpression': {
        const callee = inner('callee');
        if (callee.is === 'name') return { is: 'call', name: callee.name, of: all('arguments') };
        throw new NotArithmetic(`Put a sign between “${termText(callee)}” and the bracket behind it.`);
      }
      case 'Compound': {
        const [before, behind] = all('body').map(termText);
        throw new NotArithmetic(`Put a sign between “${before ?? ''}” and “${behind ?? ''}”.`);
      }
    }
  }
  throw new NotArithmetic(`${quoted(text)} is more than arithmetic.`);
}

/**
 * Takes arithmetic apart: numbers, names, brackets, calls, + − * / ^ and comparisons. The only door to the parser.
 * @throws NotArithmetic for all else
 */
export function readArithmetic(text: string): Term {
  let node: Node;
  try {
    node = jsep(text);
  } catch (error) {
    throw new NotArithmetic(
      `This cannot be read: ${error instanceof Error ? error.message : 'it is no arithmetic'}.`,
    );
  }
  return termOf(node, text.trim());
}
