/**
 * npm run bench -- --mutants [200] [--seed 1] [--in server/sqlite]: changes one thing in core or server at a time, drawn
 * from a seed, has it compiled, and runs the unit tests that the changed file bears on. What neither notices is printed.
 */
import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { cpSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import ts from 'typescript';
import { mixedRandom } from '../core/random/seeded.ts';

const ROOT = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');

/** One change of a source: what stands from `start` to `end` becomes `text`. */
interface Mutant {
  file: string;
  line: number;
  start: number;
  end: number;
  before: string;
  text: string;
}

/** What becomes of an operator. */
const SWAPS: Readonly<Record<string, string>> = {
  ...{ '<': '<=', '<=': '<', '>': '>=', '>=': '>', '===': '!==', '!==': '===' },
  ...{ '+': '-', '-': '+', '*': '/', '/': '*', '&&': '||', '||': '&&' },
};

/** Whether a number is only said: a named limit or time, or one of a schema. To test it would be to say it again. */
function isOnlySaid(number: ts.NumericLiteral): boolean {
  for (let node: ts.Node = number; !ts.isBlock(node) && !ts.isSourceFile(node); node = node.parent) {
    if (ts.isVariableDeclaration(node)) return /^[A-Z][A-Z\d_]*$/u.test(node.name.getText());
    if (ts.isPropertyAssignment(node) && /^(?:max|min|mode)/u.test(node.name.getText())) return true;
  }
  return false;
}

/** Whether a comparison ends a loop. */
const endsLoop = (node: ts.BinaryExpression): boolean =>
  node.operatorToken.kind === ts.SyntaxKind.LessThanToken &&
  ts.isForStatement(node.parent) &&
  node.parent.condition === node;

/** What a node may be changed to; nothing where it is left as it is. */
function changeOf(node: ts.Node): { at: ts.Node; text: string } | undefined {
  if (ts.isBinaryExpression(node)) {
    // One turn more over a list finds nothing, which nobody could notice: it is one less.
    if (endsLoop(node)) return { at: node.right, text: `(${node.right.getText()}) - 1` };
    const text = SWAPS[node.operatorToken.getText()];
    const isText = [node.left, node.right].some(
      (side) => ts.isStringLiteralLike(side) || ts.isTemplateExpression(side),
    );
    return text === undefined || isText ? undefined : { at: node.operatorToken, text };
  }
  if (ts.isNumericLiteral(node))
    return isOnlySaid(node) ? undefined : { at: node, text: String(Number(node.text) + 1) };
  if (node.kind === ts.SyntaxKind.TrueKeyword) return { at: node, text: 'false' };
  if (node.kind === ts.SyntaxKind.FalseKeyword) return { at: node, text: 'true' };
  if (ts.isPrefixUnaryExpression(node) && node.operator === ts.SyntaxKind.ExclamationToken)
    return { at: node, text: `(${node.operand.getText()})` };
  if (ts.isIfStatement(node)) return { at: node.expression, text: 'false' };
  if (ts.isConditionalExpression(node)) return { at: node.condition, text: 'false' };
  return undefined;
}

/** Every change that a file allows. */
function mutantsOf(file: string): Mutant[] {
  const text = readFileSync(path.join(ROOT, file), 'utf8');
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.ES2023, true);
  const found: Mutant[] = [];
  const visit = (node: ts.Node): void => {
    if (ts.isTypeNode(node) || ts.isImportDeclaration(node) || ts.isInterfaceDeclaration(node)) return;
    const change = changeOf(node);
    if (change) {
      const [start, end] = [change.at.getStart(), change.at.getEnd()];
      const { line } = source.getLineAndCharacterOfPosition(start);
      found.push({ file, line: line + 1, start, end, before: text.slice(start, end), text: change.text });
    }
    node.forEachChild(visit);
  };
  visit(source);
  return found;
}

/** Some of many, each as likely, in the order drawn. */
function sampled<T>(all: readonly T[], count: number, seed: number): T[] {
  const rest = [...all];
  const random = mixedRandom(seed, 1);
  return Array.from(
    { length: Math.min(count, rest.length) },
    () => rest.splice(random.below(rest.length), 1)[0] as T,
  );
}

/** What imports a file by which the tests that bear on it are found. */
const foundBy = (file: string): string[] =>
  file === 'core/sound/kernel/assembly.ts'
    ? // Compiled from its text.
      ['core/sound/kernel/kernel.ts']
    : file.startsWith('server/')
      ? // Most of the server runs in a thread too, which nothing imports.
        [file, 'server/heavy/heavy.ts']
      : [file];

/** What says whether the compiler takes a changed source of a folder, as it is asked before any test. */
function compilerOf(folder: string): (mutant: Mutant) => boolean {
  const { options, fileNames } = ts.getParsedCommandLineOfConfigFile(
    path.join(ROOT, folder, 'tsconfig.json'),
    {},
    { ...ts.sys, onUnRecoverableConfigFileDiagnostic: () => undefined },
  ) as ts.ParsedCommandLine;
  const changed = new Map<string, { version: number; text?: string | undefined }>();
  const service = ts.createLanguageService({
    ...ts.sys,
    useCaseSensitiveFileNames: () => ts.sys.useCaseSensitiveFileNames,
    getCompilationSettings: () => options,
    getScriptFileNames: () => fileNames,
    getScriptVersion: (file) => String(changed.get(file)?.version ?? 0),
    getScriptSnapshot: (file) => {
      const text = changed.get(file)?.text ?? ts.sys.readFile(file);
      return text === undefined ? undefined : ts.ScriptSnapshot.fromString(text);
    },
    getCurrentDirectory: () => ROOT,
    getDefaultLibFileName: ts.getDefaultLibFilePath,
  });
  return ({ file, start, end, text }) => {
    const place = path.join(ROOT, file);
    const before = readFileSync(place, 'utf8');
    const version = (changed.get(place)?.version ?? 0) + 1;
    changed.set(place, { version, text: before.slice(0, start) + text + before.slice(end) });
    const problems = service.getSemanticDiagnostics(place);
    changed.set(place, { version: version + 1 });
    return problems.length === 0;
  };
}

/** A test that hangs has noticed something. */
const LONGEST_MS = 600_000;

/**
 * Tests that are left out: those that start a built server see nothing of a change in the sources, and the core is to be
 * tested by its own.
 */
const notAsked = (file: string): string =>
  `--exclude=${file.startsWith('core/') ? 'server/**' : 'server/{kill,start}.test.ts'}`;

/** The tests that run now. */
let running: ChildProcess | undefined;

/** Stops the tests that run, with their workers: one that hangs outlives them. */
const killAll = (): void => {
  if (running?.pid !== undefined) process.kill(-running.pid, 'SIGKILL');
};

/** Whether all of some tests pass in a copy of the sources. */
async function pass(copy: string, tests: readonly string[]): Promise<boolean> {
  const run = spawn(
    path.join(copy, 'node_modules/.bin/vitest'),
    [...tests, '--run', '--bail=1', '--reporter=dot'],
    { cwd: copy, detached: true, stdio: 'ignore' },
  );
  running = run;
  const late = setTimeout(killAll, LONGEST_MS);
  const [code] = (await once(run, 'exit')) as [number | null];
  running = undefined;
  clearTimeout(late);
  return code === 0;
}

/** What only a server that is built and started runs. */
const AT_START = new Set(['server/main.ts', 'server/start-problem.ts']);

/** Whether the tests of a built server's start notice what is changed in a copy. */
async function isNoticedAtStart(copy: string): Promise<boolean> {
  const build = [
    path.join(copy, 'node_modules/vite/bin/vite.js'),
    'build',
    '--config',
    'vite.node.config.ts',
  ];
  const { status } = spawnSync(process.execPath, build, { cwd: copy, stdio: 'ignore' });
  return status !== 0 || !(await pass(copy, ['server/start.test.ts']));
}

const compilers = { core: compilerOf('core'), server: compilerOf('.') };

/** Whether the compiler or a test notices a change, tried in a copy of the sources. */
async function isNoticed(copy: string, mutant: Mutant): Promise<boolean> {
  const { file, start, end, text } = mutant;
  if (!compilers[file.startsWith('core/') ? 'core' : 'server'](mutant)) return true;
  const place = path.join(copy, file);
  const before = readFileSync(place, 'utf8');
  writeFileSync(place, before.slice(0, start) + text + before.slice(end));
  // Most changes are noticed by the tests beside them, which are quick to run.
  const beside = [`${path.dirname(file)}/`, '--passWithNoTests'];
  const related = ['related', ...foundBy(file), notAsked(file)];
  const noticed = AT_START.has(file)
    ? await isNoticedAtStart(copy)
    : !(await pass(copy, [...beside, notAsked(file)])) || !(await pass(copy, related));
  writeFileSync(place, before);
  return noticed;
}

const { values: given } = parseArgs({
  options: {
    mutants: { type: 'string' },
    seed: { type: 'string', default: '1' },
    in: { type: 'string', default: '' },
  },
});
const tracked = spawnSync('git', ['ls-files'], { cwd: ROOT, encoding: 'utf8' }).stdout.split('\n');
/** Sources of core and server, but for the bytes that are written from another source. */
const isMutated = (file: string) =>
  /^(?:core|server)\/.*\.ts$/u.test(file) &&
  !/(?:\.test|\.d|testing(?:-[a-z]+)?|kernel\/bytes)\.ts$/u.test(file);
const chosen = sampled(
  tracked.filter((file) => file.startsWith(given.in) && isMutated(file)).flatMap(mutantsOf),
  Number(given.mutants ?? 200),
  Number(given.seed),
);
/** Tries every change, and prints those that nothing notices. */
async function tryAll(copy: string): Promise<void> {
  const [first] = chosen;
  if (first && (await isNoticed(copy, { ...first, text: first.before }))) {
    console.error('Tests fail without any change: see npm test.');
    process.exitCode = 1;
    return;
  }
  let survived = 0;
  for (const [i, mutant] of chosen.entries()) {
    const noticed = await isNoticed(copy, mutant);
    console.error(`${String(i + 1)} of ${String(chosen.length)} tried`);
    if (noticed) continue;
    survived += 1;
    const { file, line, before, text } = mutant;
    console.log(`${String(i + 1)}: ${file}:${String(line)}  ${before} became ${text}`);
  }
  console.log(
    `${String(survived)} of ${String(chosen.length)} changes were noticed by nothing (aim: a tenth)`,
  );
}

const copy = mkdtempSync(path.join(tmpdir(), 'brackenridge-mutants-'));
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.once(signal, () => {
    killAll();
    rmSync(copy, { recursive: true, force: true });
    process.exit(1);
  });
try {
  for (const file of tracked.filter((name) => name !== ''))
    cpSync(path.join(ROOT, file), path.join(copy, file), { recursive: true });
  // What is built from the changed sources stays in the copy.
  cpSync(path.join(ROOT, 'dist'), path.join(copy, 'dist'), { recursive: true, preserveTimestamps: true });
  symlinkSync(path.join(ROOT, 'node_modules'), path.join(copy, 'node_modules'));
  await tryAll(copy);
} finally {
  rmSync(copy, { recursive: true, force: true });
}
