/** npm run check: format, lint, types and dead code. Exits 1 when one of them finds something. */
import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { ROOT, ensurePackages } from './setup.mjs';

const CHECKS = [
  ['format', 'prettier', ['--check', '--log-level', 'warn', '.']],
  ['types of the core', 'tsc', ['-p', 'core']],
  ['types of the server', 'tsc', ['-p', '.']],
  ['types of the pages', 'tsc', ['-p', 'web']],
  ['lint', 'eslint', ['.']],
  ['dead code', 'knip', ['--no-progress']],
];

/** Runs every check, also after one has failed. */
export function check() {
  let passed = 0;
  let failed = 0;
  for (const [name, command, args] of CHECKS) {
    const result = spawnSync(path.join(ROOT, 'node_modules/.bin', command), args, {
      cwd: ROOT,
      encoding: 'utf8',
    });
    if (result.status === 0) passed += 1;
    else {
      failed += 1;
      process.stdout.write(`${result.stdout}${result.stderr}`);
    }
    console.log(`${result.status === 0 ? 'ok    ' : 'FAILED'} ${name}`);
  }
  return { passed, failed };
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  ensurePackages();
  process.exitCode = check().failed > 0 ? 1 : 0;
}
