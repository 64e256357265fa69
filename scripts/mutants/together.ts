import { type ChildProcess, spawn } from 'node:child_process';
import { once } from 'node:events';
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Mutant } from './changes.ts';

/** What a test runs, by its id: changes, by their place in the list, and how long it takes. */
export interface Seen {
  test: string;
  file: string;
  ids: number[];
  ms: number;
}

/** Of each test the changes to try it with, and how long it takes without any, ms. */
export type Plan = Record<string, { ids: number[]; ms: number }>;

/** Quick tests notice most: they are tried first. Each round has those that take less, ms. */
const ROUNDS = [30, 300, 3000, Number.POSITIVE_INFINITY];
/** After so long without a next test something hangs, ms. */
const LONGEST_MS = 150_000;
/** Rounds are begun again after a process ended in the midst of them, so often. */
const MOST_STARTS = 20;

/** The tests that run now. */
let running: ChildProcess | undefined;
export const stopTogether = (): void => {
  if (running?.pid !== undefined) process.kill(-running.pid, 'SIGKILL');
};

/** Runs tests with changes that can be switched on; whether all of them passed. */
async function run(root: string, folder: string, files: readonly string[]): Promise<boolean> {
  const vitest = path.join(root, 'node_modules/.bin/vitest');
  const child = spawn(
    vitest,
    ['--run', '--config', 'scripts/mutants/vitest.config.ts', '--reporter=dot', ...files],
    { cwd: root, detached: true, stdio: 'ignore', env: { ...process.env, MUTANTS_FOLDER: folder } },
  );
  running = child;
  const begun = Date.now();
  const watched = setInterval(() => {
    const moments = currentIn(folder).map((name) => statSync(path.join(folder, name)).mtimeMs);
    if (moments.length > 0 && Date.now() - Math.max(begun, ...moments) > LONGEST_MS) stopTogether();
  }, 5000);
  const [code] = (await once(child, 'exit')) as [number | null];
  clearInterval(watched);
  running = undefined;
  return code === 0;
}

const currentIn = (folder: string): string[] =>
  readdirSync(folder).filter((name) => name.startsWith('current-'));

const linesOf = (file: string): string[] =>
  existsSync(file)
    ? readFileSync(file, 'utf8')
        .split('\n')
        .filter((line) => line !== '')
    : [];

/** What the tests notice of many changes, all in one run of them; `alone` is what has to be tried by itself. */
export async function triedTogether(
  root: string,
  mutants: readonly Mutant[],
  say: (words: string) => void,
): Promise<{ noticed: Set<number>; alone: Set<number> }> {
  const folder = mkdtempSync(path.join(tmpdir(), 'brackenridge-mutants-'));
  const place = (name: string) => path.join(folder, name);
  const idsIn = (name: string) => new Set(readdirSync(place(name)).map(Number));
  try {
    for (const name of ['noticed', 'alone']) mkdirSync(place(name));
    writeFileSync(place('chosen.json'), JSON.stringify(mutants));
    writeFileSync(place('plan.json'), 'null');
    say('What each test runs is looked at.');
    if (!(await run(root, folder, []))) throw new Error('Tests fail without any change: see npm test.');
    const seen = linesOf(place('seen')).map((line) => JSON.parse(line) as Seen);
    const isAsked = ({ file }: Seen, id: number) =>
      // The core is to be tested by its own.
      !(file.startsWith('server/') && mutants[id]?.file.startsWith('core/'));
    for (const [i, most] of ROUNDS.entries()) {
      for (let starts = 0; starts < MOST_STARTS; starts += 1) {
        const finished = new Set(linesOf(place('finished')));
        const done = new Set([...idsIn('noticed'), ...idsIn('alone')]);
        const left = seen.flatMap((test) => {
          const ids = test.ids.filter((id) => !done.has(id) && isAsked(test, id));
          return test.ms < most && !finished.has(test.test) && ids.length > 0 ? [{ ...test, ids }] : [];
        });
        if (left.length === 0) break;
        const plan: Plan = Object.fromEntries(left.map(({ test, ids, ms }) => [test, { ids, ms }]));
        writeFileSync(place('plan.json'), JSON.stringify(plan));
        const ended = await run(root, folder, [...new Set(left.map(({ file }) => file))]);
        for (const name of currentIn(folder)) {
          // What ended or stopped the process, it may be, or what ran beside it.
          if (!ended) writeFileSync(path.join(place('alone'), readFileSync(place(name), 'utf8')), '');
          rmSync(place(name));
        }
      }
      say(
        `Round ${String(i + 1)} of ${String(ROUNDS.length)}: ${String(idsIn('noticed').size)} of ${String(mutants.length)} noticed`,
      );
    }
    const loaded = linesOf(place('loaded')).flatMap((line) => JSON.parse(line) as number[]);
    const noticed = idsIn('noticed');
    const alone = new Set([...loaded, ...idsIn('alone')].filter((id) => !noticed.has(id)));
    return { noticed, alone };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
