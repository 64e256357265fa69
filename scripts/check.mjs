/** npm run check: format, lint, types and dead code. Exits 1 when one of them finds something. */
import { spawn } from 'node:child_process';
import { availableParallelism, constants, setPriority } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { ROOT, ensurePackages } from './setup.mjs';

/** Checks types in a fifth of the time of the one that takes sources apart for the mutants. */
const TSC = 'typescript-native/bin/tsc';

/** Programs are where the packages are. The longest first. */
const CHECKS = [
  ['format', '.bin/prettier', ['--check', '--log-level', 'warn', '.']],
  [
    'lint',
    '.bin/oxlint',
    ['--config', 'oxlint.config.mjs', '--deny-warnings', '--report-unused-disable-directives'],
  ],
  ['types of the pages', TSC, ['-p', 'web']],
  ['types of the server', TSC, ['-p', '.']],
  ['types of the core', TSC, ['-p', 'core']],
  ['dead code', '.bin/knip', ['--no-progress']],
];

/** Checks that run at once, in memory of about 1 GB each. */
const AT_ONCE = Math.min(3, availableParallelism());

/** Runs one check quietly; what it says is shown when it fails. */
const checked = ([name, command, args]) =>
  new Promise((resolve) => {
    const child = spawn(path.join(ROOT, 'node_modules', command), args, { cwd: ROOT });
    // All wait for the longest, so that it has a core to itself.
    if (child.pid && name !== CHECKS[0][0]) setPriority(child.pid, constants.priority.PRIORITY_BELOW_NORMAL);
    const said = [];
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => said.push(chunk));
    const end = (passed) => {
      if (!passed) process.stdout.write(Buffer.concat(said));
      console.log(`${passed ? 'ok    ' : 'FAILED'} ${name}`);
      resolve(passed);
    };
    child.on('error', (error) => {
      said.push(Buffer.from(`${error.message}\n`));
      end(false);
    });
    child.on('close', (status) => end(status === 0));
  });

/** Runs every check, also after one has failed. */
export async function check() {
  // Found only once the packages are installed.
  const { default: pLimit } = await import('p-limit');
  const limit = pLimit(AT_ONCE);
  const results = await Promise.all(CHECKS.map((named) => limit(() => checked(named))));
  const passed = results.filter(Boolean).length;
  return { passed, failed: results.length - passed };
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  ensurePackages();
  process.exitCode = (await check()).failed > 0 ? 1 : 0;
}
