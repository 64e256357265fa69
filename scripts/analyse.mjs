/** npm run analyse: builds the command line when needed and hands over to it. */
import path from 'node:path';
import { pathToFileURL } from 'node:url';
import { ROOT, ensureNodeBuild, ensurePackages } from './setup.mjs';

// Whatever is said here must not mix with the result on stdout.
const say = console.log;
console.log = console.error;
ensurePackages();
ensureNodeBuild();
console.log = say;
await import(pathToFileURL(path.join(ROOT, 'dist/node/analyse.js')).href);
