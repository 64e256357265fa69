/** What every command does first: install what is missing, and build what is out of date. */
import { spawnSync } from 'node:child_process';
import {
  copyFileSync,
  existsSync,
  mkdirSync,
  readFileSync,
  readdirSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

export const ROOT = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');
const LOCAL = path.join(ROOT, '.local');
const LOCK = path.join(ROOT, 'package-lock.json');
/** The lock file as it was when packages were put there, and when they were compiled. */
const FETCHED = path.join(ROOT, 'node_modules/.fetched-lock');
const COMPILED = path.join(ROOT, 'node_modules/.installed-lock');
const DURATIONS = path.join(LOCAL, 'durations.json');
/** Measured on two cores; replaced by what this machine took. */
const USUAL_S = { packages: 60, compiled: 150, chromium: 40, r: 90 };

function durations() {
  try {
    return { ...USUAL_S, ...JSON.parse(readFileSync(DURATIONS, 'utf8')) };
  } catch {
    return USUAL_S;
  }
}

function keepDuration(name, seconds) {
  mkdirSync(LOCAL, { recursive: true });
  writeFileSync(DURATIONS, `${JSON.stringify({ ...durations(), [name]: seconds })}\n`);
}

const spoken = (seconds) => (seconds < 90 ? `${Math.round(seconds)} s` : `${Math.round(seconds / 60)} min`);

/** Runs a command quietly; its output appears when it fails. */
function run(command, args, options = {}) {
  const result = spawnSync(command, args, { cwd: ROOT, encoding: 'utf8', maxBuffer: 1 << 28, ...options });
  if (result.status !== 0) {
    process.stderr.write(`${result.stdout ?? ''}${result.stderr ?? ''}`);
    process.stderr.write(
      `${command} ${args.join(' ')} failed${result.error ? `: ${result.error.message}` : ''}\n`,
    );
    process.exit(1);
  }
  return result;
}

function timed(name, what, work) {
  const usual = durations()[name];
  console.log(`${what} (took ${spoken(usual)} last time)…`);
  const start = Date.now();
  work();
  keepDuration(name, Math.round((Date.now() - start) / 1000));
}

/** Whether something was done for the packages that the lock file names now. */
const isDone = (stamp) => existsSync(stamp) && readFileSync(stamp, 'utf8') === readFileSync(LOCK, 'utf8');

/** Puts the packages there when they are missing or older than the lock file; not yet what has to be compiled. */
export function fetchPackages() {
  if (isDone(FETCHED) || isDone(COMPILED)) return;
  timed('packages', 'Installing packages', () => {
    run('npm', ['ci', '--ignore-scripts', '--no-audit', '--no-fund']);
    copyFileSync(LOCK, FETCHED);
  });
}

/** Installs the packages when they are missing or older than the lock file. */
export function ensurePackages() {
  fetchPackages();
  if (isDone(COMPILED)) return;
  timed('compiled', 'Compiling what they bring as source', () => {
    const { allowScripts } = JSON.parse(readFileSync(path.join(ROOT, 'package.json'), 'utf8'));
    run('npm', ['rebuild', ...Object.keys(allowScripts)], { env: { ...process.env, JOBS: 'max' } });
    copyFileSync(LOCK, COMPILED);
  });
}

/** Browsers that the tests can run in, the lightest first; each is a command and the package of the same name. */
const BROWSERS = ['chromium-headless-shell', 'chromium'];

/** Where a tool lies; '' where it is not installed. */
const place = (tool) => spawnSync('sh', ['-c', `command -v ${tool}`], { encoding: 'utf8' }).stdout.trim();

const asRoot = process.getuid?.() === 0 ? [] : ['sudo'];
const apt = (...args) => {
  const [command, ...rest] = [...asRoot, 'apt-get', ...args];
  return [command, rest, { env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } }];
};
const install = (...packages) => apt('install', '-y', '--no-install-recommends', ...packages);

/** Installs a browser of Debian's for the tests, what reads back the PDF that it prints, and curl, where they are missing. */
export function ensureChromium() {
  const found = () => BROWSERS.map(place).find((file) => file !== '');
  if (!found() || place('pdftotext') === '' || place('curl') === '') {
    timed('chromium', 'Installing a browser, poppler-utils and curl', () => {
      run(...apt('update'));
      run(...install('poppler-utils', 'curl'));
      // An older Debian has no shell of its own.
      if (!found() && spawnSync(...install(BROWSERS[0])).status !== 0) run(...install(BROWSERS[1]));
    });
  }
  return found();
}

/** Installs what says the levels of recordings, where it is missing. */
export function ensureSox() {
  if (place('sox') !== '') return;
  timed('sox', 'Installing sox', () => {
    run(...apt('update'));
    run(...install('sox'));
  });
}

/** Installs SciPy where it is missing. */
export function ensureScipy() {
  const there = () => spawnSync('python3', ['-c', 'import scipy'], { encoding: 'utf8' }).status === 0;
  if (there()) return;
  timed('scipy', 'Installing SciPy', () => {
    run(...apt('update'));
    run(...install('python3-scipy'));
  });
}

/** Installs R with what compares many means with one, where they are missing. */
export function ensureR() {
  const there = () =>
    place('Rscript') !== '' &&
    spawnSync('Rscript', ['-e', 'library(multcomp); library(lme4)'], { encoding: 'utf8' }).status === 0;
  if (there()) return;
  timed('r', 'Installing R', () => {
    run(...apt('update'));
    run(...install('r-base-core', 'r-cran-multcomp', 'r-cran-lme4'));
  });
}

/** Newest change below some folders and files, in ms. */
function newest(...places) {
  let latest = 0;
  const visit = (place) => {
    const stats = statSync(place);
    if (!stats.isDirectory()) {
      latest = Math.max(latest, stats.mtimeMs);
      return;
    }
    for (const name of readdirSync(place)) visit(path.join(place, name));
  };
  for (const place of places) visit(path.join(ROOT, place));
  return latest;
}

function build(output, sources, args) {
  const file = path.join(ROOT, output);
  const config = ['package.json', 'package-lock.json', 'vite.config.ts', 'vite.node.config.ts'];
  if (existsSync(file) && statSync(file).mtimeMs >= newest(...sources, ...config)) return;
  run(process.execPath, [path.join(ROOT, 'node_modules/vite/bin/vite.js'), 'build', ...args]);
}

/** Makes the recordings of the demo from their seed where they are missing. */
export function ensureDemoRecordings() {
  const { files } = JSON.parse(readFileSync(path.join(ROOT, 'demo/recorded-fans.json'), 'utf8'));
  if (files.every(({ file }) => existsSync(path.join(ROOT, 'demo/files', file)))) return;
  run(process.execPath, [path.join(ROOT, 'node_modules/tsx/dist/cli.mjs'), 'demo/make.ts', '--recordings']);
}

/** Builds server and command line when their sources have changed. */
export const ensureNodeBuild = () => {
  build(
    'dist/node/server.js',
    // The pictures of a report are those of the pages.
    ['core', 'server', 'instruments', 'cli', 'demo', 'web'],
    ['--config', 'vite.node.config.ts'],
  );
};

/** Builds the pages when their sources have changed. */
export const ensureWebBuild = () => {
  build('dist/web/index.html', ['core', 'web'], []);
};
