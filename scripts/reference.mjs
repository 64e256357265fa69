/** npm run test:reference: installs R, sox and SciPy where they are missing, and compares what is computed with what they say. */
import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { ROOT, ensurePackages, ensureR, ensureScipy, ensureSox } from './setup.mjs';

ensurePackages();
ensureR();
ensureSox();
ensureScipy();
const { status } = spawnSync(
  path.join(ROOT, 'node_modules/.bin/vitest'),
  ['run', '--config', 'vitest.reference.config.ts'],
  { cwd: ROOT, stdio: 'inherit' },
);
process.exit(status ?? 1);
