/** npm run instruments: the simulated instruments, each on a port of its own. */
import { spawn } from 'node:child_process';
import path from 'node:path';
import { ROOT, ensureNodeBuild, ensurePackages } from './setup.mjs';

ensurePackages();
ensureNodeBuild();
const program = spawn(
  process.execPath,
  [path.join(ROOT, 'dist/node/instruments.js'), ...process.argv.slice(2)],
  { cwd: ROOT, stdio: 'inherit' },
);
process.on('SIGINT', () => undefined);
process.on('SIGTERM', () => program.kill('SIGTERM'));
program.on('exit', (code) => {
  process.exitCode = code ?? 0;
});
