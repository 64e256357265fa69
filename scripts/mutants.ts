/**
 * npm run bench -- --mutants [200] [--seed 1] [--in server/sqlite]: changes one thing in core or server at a time, drawn
 * from a seed. What neither the compiler nor a unit test notices is printed. The tests run once, with each change that
 * they run into switched on in turn; what is settled while a file is loaded, in the server's thread, or by a server that
 * is built, is tried alone, in a copy of the sources.
 */
import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { mixedRandom } from '../core/random/seeded.ts';
import { stopAlone, triedAlone } from './mutants/alone.ts';
import { type Mutant, mutantsOf } from './mutants/changes.ts';
import { compilerOf } from './mutants/compiled.ts';
import { isMutated } from './mutants/sources.ts';
import { stopTogether, triedTogether } from './mutants/together.ts';

const ROOT = path.resolve(import.meta.dirname, '..');

/** Some of many, each as likely, in the order drawn. */
function sampled<T>(all: readonly T[], count: number, seed: number): T[] {
  const rest = [...all];
  const random = mixedRandom(seed, 1);
  return Array.from(
    { length: Math.min(count, rest.length) },
    () => rest.splice(random.below(rest.length), 1)[0] as T,
  );
}

const say = (words: string): void => console.error(words);

const { values: given } = parseArgs({
  options: {
    mutants: { type: 'string' },
    seed: { type: 'string', default: '1' },
    in: { type: 'string', default: '' },
  },
});
const tracked = spawnSync('git', ['ls-files'], { cwd: ROOT, encoding: 'utf8' })
  .stdout.split('\n')
  .filter((file) => file !== '');
const chosen = sampled(
  tracked
    .filter((file) => file.startsWith(given.in) && isMutated(file))
    .flatMap((file) => mutantsOf(file, readFileSync(path.join(ROOT, file), 'utf8'))),
  Number(given.mutants ?? 200),
  Number(given.seed),
);
const isOfCore = ({ file }: Mutant): boolean => file.startsWith('core/');
const compilers = { core: compilerOf(ROOT, 'core'), server: compilerOf(ROOT, '.') };
const compiled = chosen.filter((mutant) => compilers[isOfCore(mutant) ? 'core' : 'server'](mutant));
say(`The compiler notices ${String(chosen.length - compiled.length)} of ${String(chosen.length)} changes.`);

for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.once(signal, () => {
    stopTogether();
    stopAlone();
    process.exit(1);
  });
const { noticed, alone } = await triedTogether(ROOT, compiled, say);
const rest = [...compiled.entries()].filter(([id]) => !noticed.has(id));
/** Tests of the core run all of it, but for what is compiled from its text. */
const isSettled = ([id, mutant]: [number, Mutant]): boolean =>
  isOfCore(mutant) && mutant.file !== 'core/sound/kernel/assembly.ts' && !alone.has(id);
const unnoticed = await triedAlone(
  ROOT,
  tracked,
  rest.filter((entry) => !isSettled(entry)).map(([, mutant]) => mutant),
  say,
);
const left = [...rest.filter(isSettled).map(([, mutant]) => mutant), ...unnoticed];
for (const mutant of left)
  console.log(
    `${String(chosen.indexOf(mutant) + 1)}: ${mutant.file}:${String(mutant.line)}  ${mutant.before} became ${mutant.text}`,
  );
console.log(
  `${String(left.length)} of ${String(chosen.length)} changes were noticed by nothing (aim: a tenth)`,
);
