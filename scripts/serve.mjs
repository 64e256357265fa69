/** npm start and npm run demo: installs, builds, and starts the server with its database. */
import { spawn, spawnSync } from 'node:child_process';
import path from 'node:path';
import { ROOT, ensureDemoRecordings, ensureNodeBuild, ensurePackages, ensureWebBuild } from './setup.mjs';

const [mode, ...rest] = process.argv.slice(2);
const demo = mode === 'demo';

ensurePackages();
ensureNodeBuild();
ensureWebBuild();
if (mode === 'demo') ensureDemoRecordings();

// The demo's bench has simulated instruments; your own server is told of real ones by BRACKENRIDGE_INSTRUMENTS.
const instruments = path.join(ROOT, 'dist/node/instruments.js');
const addresses = demo
  ? spawnSync(process.execPath, [instruments, '--list'], { cwd: ROOT, encoding: 'utf8' })
      .stdout.trim()
      .replaceAll('\n', ',')
  : '';
const standIns = demo
  ? spawn(process.execPath, [instruments], { cwd: ROOT, stdio: ['ignore', 'ignore', 'inherit'] })
  : undefined;

const data = demo
  ? path.join(ROOT, '.local/demo')
  : path.resolve(process.env.BRACKENRIDGE_DATA || path.join(ROOT, '.local/data'));
const server = spawn(
  process.execPath,
  [
    path.join(ROOT, 'dist/node/server.js'),
    '--data',
    data,
    '--pages',
    path.join(ROOT, 'dist/web'),
    ...(demo ? ['--demo', path.join(ROOT, 'demo'), '--instruments', addresses] : []),
    ...rest,
  ],
  { cwd: ROOT, stdio: 'inherit' },
);
// Ctrl+C reaches the server by itself; other signals are passed on, and the server ends when it is done.
process.on('SIGINT', () => undefined);
process.on('SIGTERM', () => server.kill('SIGTERM'));
server.on('exit', (code, signal) => {
  standIns?.kill();
  process.exitCode = signal ? 1 : (code ?? 0);
});
