/** npm run test:reference: installs R where it is missing, and compares what is computed with what R says, case by case. */
import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { ROOT, ensurePackages, ensureR } from './setup.mjs';

ensurePackages();
ensureR();
const { status } = spawnSync(
  path.join(ROOT, 'node_modules/.bin/vitest'),
  ['run', '--config', 'vitest.reference.config.ts'],
  { cwd: ROOT, stdio: 'inherit' },
);
process.exit(status ?? 1);
