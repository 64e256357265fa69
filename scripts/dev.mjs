/** npm run dev: the server from its sources on port 4690, the pages by Vite, both again at each change. */
import { spawn } from 'node:child_process';
import path from 'node:path';
import { ROOT, ensureDemoRecordings, ensurePackages } from './setup.mjs';

ensurePackages();
ensureDemoRecordings();
const bin = (name) => path.join(ROOT, 'node_modules/.bin', name);
const data = path.join(ROOT, '.local/dev');
const children = [
  spawn(bin('tsx'), ['watch', 'server/main.ts', '--data', data, '--demo', 'demo', '--port', '4690'], {
    cwd: ROOT,
    stdio: 'inherit',
  }),
  spawn(bin('vite'), [], { cwd: ROOT, stdio: 'inherit' }),
];
process.on('SIGINT', () => {
  for (const child of children) child.kill('SIGTERM');
});
