import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { cpSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Mutant } from './changes.ts';

/** What imports a file by which the tests that bear on it are found. */
const foundBy = (file: string): string[] =>
  file === 'core/sound/kernel/assembly.ts'
    ? // Compiled from its text.
      ['core/sound/kernel/kernel.ts']
    : file.startsWith('server/')
      ? // Most of the server runs in a thread too, which nothing imports.
        [file, 'server/heavy/heavy.ts']
      : [file];

/** A test that hangs has noticed something. */
const LONGEST_MS = 600_000;

/**
 * Tests that are left out: those that start a built server see nothing of a change in the sources, and the core is to be
 * tested by its own.
 */
const notAsked = (file: string): string[] =>
  (file.startsWith('core/') ? ['server/**', 'web/**'] : ['server/{kill,start}.test.ts', 'web/**']).map(
    (tests) => `--exclude=${tests}`,
  );

/** The tests that run now. */
let running: ChildProcess | undefined;

/** Stops the tests that run, with their workers: one that hangs outlives them. */
export const stopAlone = (): void => {
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
  const late = setTimeout(stopAlone, LONGEST_MS);
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

/** Whether a test notices a change that is written into a copy of the sources. */
async function isNoticed(copy: string, { file, start, end, text }: Mutant): Promise<boolean> {
  const place = path.join(copy, file);
  const before = readFileSync(place, 'utf8');
  writeFileSync(place, before.slice(0, start) + text + before.slice(end));
  // Most changes are noticed by the tests beside them, which are quick to run.
  const beside = [`${path.dirname(file)}/`, '--passWithNoTests'];
  const related = ['related', ...foundBy(file), ...notAsked(file)];
  const noticed = AT_START.has(file)
    ? await isNoticedAtStart(copy)
    : !(await pass(copy, [...beside, ...notAsked(file)])) || !(await pass(copy, related));
  writeFileSync(place, before);
  return noticed;
}

/**
 * Tries changes one by one, each in a copy of the sources, with all tests that bear on it.
 * @returns those that none of them notices
 */
export async function triedAlone(
  root: string,
  files: readonly string[],
  mutants: readonly Mutant[],
  say: (words: string) => void,
): Promise<Mutant[]> {
  const copy = mkdtempSync(path.join(tmpdir(), 'brackenridge-mutants-'));
  try {
    for (const file of files) cpSync(path.join(root, file), path.join(copy, file), { recursive: true });
    // What is built from the changed sources stays in the copy.
    cpSync(path.join(root, 'dist'), path.join(copy, 'dist'), { recursive: true, preserveTimestamps: true });
    symlinkSync(path.join(root, 'node_modules'), path.join(copy, 'node_modules'));
    const left: Mutant[] = [];
    for (const [i, mutant] of mutants.entries()) {
      if (!(await isNoticed(copy, mutant))) left.push(mutant);
      say(`${String(i + 1)} of ${String(mutants.length)} tried alone`);
    }
    return left;
  } finally {
    rmSync(copy, { recursive: true, force: true });
  }
}
