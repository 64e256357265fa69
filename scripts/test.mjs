/** npm test: installs what is missing, then checks, unit and server tests, and tests in the real browser. */
import { spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { constants, setPriority } from 'node:os';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { check } from './check.mjs';
import {
  ROOT,
  ensureChromium,
  ensureDemoRecordings,
  ensureNodeBuild,
  ensureWebBuild,
  fetchPackages,
} from './setup.mjs';

const RESULTS = path.join(ROOT, 'test-results');

/** Does a step of the set-up beside what goes on meanwhile; ends the program where it fails. */
async function beside(step) {
  const child = spawn(
    process.execPath,
    ['--input-type=module', '--eval', `(await import('./scripts/setup.mjs')).${step}()`],
    { cwd: ROOT, stdio: 'inherit' },
  );
  if (child.pid) setPriority(child.pid, constants.priority.PRIORITY_BELOW_NORMAL);
  const [failed] = await once(child, 'exit');
  if (failed) process.exit(1);
}

const fetching = beside('ensureChromium');
fetchPackages();
const compiling = beside('ensurePackages');
rmSync(RESULTS, { recursive: true, force: true });
mkdirSync(RESULTS, { recursive: true });

/** Runs a test runner in view; what it counted is in its report. A runner that made none has failed. */
function runner(command, args, report, count) {
  const { status } = spawnSync(path.join(ROOT, 'node_modules/.bin', command), args, {
    cwd: ROOT,
    stdio: 'inherit',
    env: { ...process.env, NO_COLOR: '1' },
  });
  try {
    const counted = count(JSON.parse(readFileSync(path.join(RESULTS, report), 'utf8')));
    return status !== 0 && counted.failed === 0 ? { ...counted, failed: 1 } : counted;
  } catch (error) {
    console.error(`${command} left no report: ${error.message}`);
    return { passed: 0, failed: 1 };
  }
}

/** Runs the unit tests of some projects, each named in vitest.config.ts. */
const unitTests = (report, ...projects) =>
  runner(
    'vitest',
    [
      'run',
      ...projects.flatMap((project) => ['--project', project]),
      ...['--reporter=dot', '--reporter=json', `--outputFile.json=test-results/${report}`],
    ],
    report,
    ({ numPassedTests, numTotalTests }) => ({
      passed: numPassedTests,
      failed: numTotalTests - numPassedTests,
    }),
  );

// What needs no database goes on while it is compiled.
const parts = [await check()];
ensureNodeBuild();
parts.push(unitTests('unit.json', 'core', 'web'));
ensureWebBuild();
ensureDemoRecordings();
await Promise.all([fetching, compiling]);
process.env.CHROMIUM = ensureChromium();
parts.push(
  unitTests('server.json', 'server'),
  runner('playwright', ['test'], 'browser.json', ({ stats }) => {
    if (stats.flaky > 0) console.log(`browser tests that passed at their second try: ${stats.flaky}`);
    return { passed: stats.expected + stats.flaky, failed: stats.unexpected + stats.skipped };
  }),
);
const total = (what) => parts.reduce((sum, part) => sum + part[what], 0);
console.log(`${total('passed')} passed, ${total('failed')} failed`);
process.exitCode = total('failed') > 0 ? 1 : 0;
