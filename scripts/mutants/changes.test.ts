import { runInNewContext } from 'node:vm';
import { describe, expect, it } from 'vitest';
import ts from 'typescript';
import { forgetAll, ForgetfulMap, ForgetfulWeakMap } from './forgetful.ts';
import { mutantsOf, switched } from './changes.ts';

/** What a source of one function named `f` gives for some arguments; an error as text. */
function ran(text: string, on: number, inputs: readonly unknown[][]): unknown[] {
  const compiled = ts.transpileModule(text, { compilerOptions: { target: ts.ScriptTarget.ES2023 } });
  const mutants = { isOn: (id: number) => id === on, Map: ForgetfulMap, WeakMap: ForgetfulWeakMap };
  const f = runInNewContext(`${compiled.outputText}; f`, { mutants }) as (...input: unknown[]) => unknown;
  return inputs.map((input) => {
    try {
      return f(...input);
    } catch (error) {
      return String(error);
    }
  });
}

const NUMBERS = [-2, -1, 0, 1, 2, 3].flatMap((a) => [-1, 0, 1, 2].map((b) => [a, b]));

describe('a source with changes that can be switched on', () => {
  it.each([
    [
      'operators within operators',
      'const f = (a: number, b: number) => (a + 1) * b - a / (b - 3) >= 2 && a !== b;',
    ],
    [
      'conditions',
      'function f(a: number, b = 1): number { if (a < b || !a) return -1; return a === 2 ? 5 : a; }',
    ],
    ['loops', 'function f(a: number) { let n = 0; for (let i = 0; i < a; i += 1) n += i; return n; }'],
    [
      'texts, types and names',
      "type N = 1 | 2; const f = (a: N) => ({ 1: true, 'b': a + 'x', c: `${a}` + 1, d: false });",
    ],
    ['what is only said', 'const MOST = 3; const f = (a: number) => ({ max: 7, a: Math.min(a, MOST) });'],
  ])('is the source, and the changed one: %s', (_what, text) => {
    const mutants = mutantsOf('a.ts', text);
    const made = switched('a.ts', text, new Map(mutants.map((mutant, id) => [mutant, id])));
    expect(ran(made, -1, NUMBERS)).toEqual(ran(text, -1, NUMBERS));
    for (const [id, { start, end, text: becomes }] of mutants.entries()) {
      const changed = text.slice(0, start) + becomes + text.slice(end);
      expect([id, ran(made, id, NUMBERS)]).toEqual([id, ran(changed, -1, NUMBERS)]);
    }
  });
  it('has every change that it allows, and no other', () => {
    const found = (text: string) =>
      mutantsOf('a.ts', text).map(({ before, text: becomes }) => `${before} ${becomes}`);
    expect(found('export const f = (a: 1 | true) => a > 1;')).toEqual(['> >=', '1 2']);
    expect(found("import { 2 as x } from './a.ts';\nconst LONGEST = 9;\nconst a = 'b' + c;")).toEqual([]);
    expect(found('for (let i = 0; i < n; i += 1) go();')).toEqual(['0 1', 'n (n) - 1', '1 2']);
    expect(mutantsOf('a.ts', '\n\nexport const a = b - 1;').map(({ line }) => line)).toEqual([3, 3]);
  });
  it('forgets what it kept when another change is switched on', () => {
    const text =
      'const kept = new Map<number, number>();\nconst f = (a: number) => { if (!kept.has(a)) kept.set(a, a); return kept.size; };';
    const made = switched('a.ts', text, new Map());
    expect(ran(made, -1, [[1], [2], [1]])).toEqual([1, 2, 2]);
    const held = new ForgetfulMap();
    const key = {};
    const weak = new ForgetfulWeakMap();
    held.set(key, 1);
    weak.set(held, 1);
    expect([held.get(key), weak.has(held)]).toEqual([1, true]);
    forgetAll();
    expect([held.size, weak.has(held)]).toEqual([0, false]);
  });
});
