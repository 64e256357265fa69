/** npm run backup -- FILE and npm run restore -- FILE: everything of your own server into one file, and back. */
import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { ROOT, ensureNodeBuild, ensurePackages } from './setup.mjs';

const [what, file, ...rest] = process.argv.slice(2);
ensurePackages();
ensureNodeBuild();
const data = path.resolve(rest[0] ?? (process.env.BRACKENRIDGE_DATA || path.join(ROOT, '.local/data')));
const { status } = spawnSync(
  process.execPath,
  [
    path.join(ROOT, 'dist/node/backup.js'),
    what,
    ...(file === undefined ? [] : [path.resolve(process.env.INIT_CWD ?? '.', file), data]),
  ],
  { stdio: 'inherit' },
);
process.exitCode = status ?? 1;
