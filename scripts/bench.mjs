/**
 * npm run bench: measures what must be quick, and prints it beside its aim. Nothing here passes or fails; machines
 * differ.
 */
import { spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium } from 'playwright-core';
import { v7 } from 'uuid';
import { atBench } from './at-bench.mjs';
import { decisions } from './decisions.mjs';
import { killBench } from './kills.mjs';
import { largeStudy } from './large.mjs';
import { quantile } from './quantile.mjs';
import { tenMinutes } from './sound.mjs';
import {
  ROOT,
  ensureChromium,
  ensureDemoRecordings,
  ensureNodeBuild,
  ensurePackages,
  ensureWebBuild,
} from './setup.mjs';

const row = (what, figure, aim) => {
  console.log(`${what.padEnd(52)} ${figure.padStart(16)}   aim ${aim}`);
};

ensurePackages();
if (process.argv.includes('--promise')) {
  // How often the promises are broken, by simulation of whole studies; --long for all designs, --only to choose.
  const { status } = spawnSync(
    path.join(ROOT, 'node_modules/.bin/tsx'),
    ['scripts/promise.ts', ...process.argv.slice(2).filter((word) => word !== '--promise')],
    { cwd: ROOT, stdio: 'inherit' },
  );
  process.exit(status ?? 1);
}
if (process.argv.includes('--quiet')) {
  const { status } = spawnSync(path.join(ROOT, 'node_modules/.bin/tsx'), ['scripts/quiet.ts'], {
    cwd: ROOT,
    stdio: 'inherit',
  });
  process.exit(status ?? 1);
}
const mutants = process.argv.indexOf('--mutants');
if (mutants !== -1) {
  ensureNodeBuild();
  const [count, ...rest] = process.argv.slice(mutants + 1);
  const { status } = spawnSync(
    path.join(ROOT, 'node_modules/.bin/tsx'),
    ['scripts/mutants.ts', '--mutants', count ?? '200', ...rest],
    { cwd: ROOT, stdio: 'inherit' },
  );
  process.exit(status ?? 1);
}
const killed = process.argv.indexOf('--kills');
if (killed !== -1) {
  ensureNodeBuild();
  const kills = Number(process.argv[killed + 1] ?? 1000);
  const { readings, studies, copies, lost, doubled } = await killBench(kills);
  console.log(
    `${kills} kills, ${copies} starts from a copied folder: ${readings} readings and ${studies} imports acknowledged, ${lost} lost, ${doubled} doubled`,
  );
  process.exit(lost + doubled > 0 ? 1 : 0);
}
if (process.argv.includes('--large')) {
  ensureNodeBuild();
  await largeStudy(row);
  process.exit(0);
}
if (process.argv.includes('--sound')) {
  ensureNodeBuild();
  const folder = mkdtempSync(path.join(tmpdir(), 'brackenridge-sound-'));
  tenMinutes(folder, row);
  rmSync(folder, { recursive: true, force: true });
  process.exit(0);
}
const executablePath = ensureChromium();
ensureNodeBuild();
ensureWebBuild();
ensureDemoRecordings();
const folder = mkdtempSync(path.join(tmpdir(), 'brackenridge-bench-'));

/** A measurand of the demo, so that none need be spelled out here. */
const AERATORS = JSON.parse(readFileSync(path.join(ROOT, 'demo/tap-aerators.json'), 'utf8'));
const FLOW = AERATORS.measurands[0];

function analyseMillion() {
  const file = path.join(folder, 'million.csv');
  const lines = ['item,round,value'];
  let state = 1;
  const noise = () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 4294967296 - 0.5;
  };
  for (let round = 0; round < 50000; round += 1) {
    for (let item = 0; item < 20; item += 1) {
      lines.push(`item ${item},${round},${(3 + item * 0.01 + noise() * 0.4).toFixed(4)}`);
    }
  }
  writeFileSync(file, `${lines.join('\n')}\n`);
  const runs = [1, 2, 3].map(() => {
    const start = performance.now();
    const run = spawnSync(
      process.execPath,
      [
        '-e',
        `process.argv=[process.argv[0],'analyse',${JSON.stringify(file)},'--json'];import(${JSON.stringify(path.join(ROOT, 'dist/node/analyse.js'))}).then(()=>process.stderr.write(String(process.resourceUsage().maxRSS)))`,
      ],
      { cwd: ROOT, encoding: 'utf8', maxBuffer: 1 << 28 },
    );
    return { seconds: (performance.now() - start) / 1000, megabytes: Number(run.stderr) / 1024 };
  });
  row(
    'analyse, 1,000,000 readings of 20 items: time',
    `${quantile(
      runs.map((run) => run.seconds),
      0.5,
    ).toFixed(2)} s`,
    'under 4 s',
  );
  row(
    'analyse, 1,000,000 readings of 20 items: memory',
    `${quantile(
      runs.map((run) => run.megabytes),
      0.5,
    ).toFixed(0)} MB`,
    'under 600 MB',
  );
}

/** A trace of a million rows and two columns, read and averaged at the command line. */
function traceMillion() {
  const file = path.join(folder, 'trace.csv');
  const lines = ['time (s),Flask (°C),Room (°C)'];
  for (let i = 0; i < 1000000; i += 1)
    lines.push(`${(i / 10).toFixed(1)},${(20 + 70 * Math.exp(-i / 300000)).toFixed(2)},20.0`);
  writeFileSync(file, `${lines.join('\n')}\n`);
  for (const [quantity, aim] of [
    ['mean', 'under 2 s'],
    ['timeConstant', 'under 5 s'],
  ]) {
    const asked = ['--trace', file, '--column', 'Flask', '--quantity', quantity];
    const times = [1, 2, 3].map(() => {
      const start = performance.now();
      spawnSync(process.execPath, [path.join(ROOT, 'dist/node/analyse.js'), ...asked], { cwd: ROOT });
      return (performance.now() - start) / 1000;
    });
    row(`analyse, a trace of 1,000,000 rows: ${quantity}`, `${quantile(times, 0.5).toFixed(2)} s`, aim);
  }
}

/** How often each of 12 items takes each place, in 10,000 draws; numpy’s draws alone beside it, where it is installed. */
function drawsOfPlaces() {
  const median = (command, args) => {
    const run = spawnSync(command, args, { cwd: ROOT, encoding: 'utf8' });
    return run.status === 0 ? Number(run.stdout) : undefined;
  };
  const ours = median(path.join(ROOT, 'node_modules/.bin/tsx'), ['scripts/draws.ts']);
  const theirs = median('python3', [
    '-c',
    [
      'import numpy as np, time',
      'r = np.random.default_rng(1)',
      'def once():',
      '  s = time.perf_counter(); r.standard_t(29, (10000, 12)); return time.perf_counter() - s',
      'print(1000 * sorted(once() for _ in range(21))[10])',
    ].join('\n'),
  ]);
  row(
    'places of 12 items × 30 readings, 10,000 draws',
    `${(ours ?? Number.NaN).toFixed(1)} ms`,
    `15 ms${theirs === undefined ? '' : `; numpy draws alone ${theirs.toFixed(1)} ms`}`,
  );
}

async function startServer() {
  const child = spawn(
    process.execPath,
    ['dist/node/server.js', '--data', folder, '--pages', 'dist/web', '--port', '0'],
    { cwd: ROOT },
  );
  const address = await new Promise((resolve) => {
    child.stdout.on('data', (chunk) => {
      const found = /http:\/\/127\.0\.0\.1:\d+/.exec(String(chunk));
      if (found) resolve(found[0]);
    });
  });
  return { child, address };
}

async function page(browser, address) {
  const post = async (where, body, type = 'application/json') => {
    const answer = await fetch(`${address}/api/v1${where}`, {
      method: 'POST',
      headers: { 'content-type': type },
      body: typeof body === 'string' ? body : JSON.stringify(body),
    });
    if (!answer.ok) throw new Error(await answer.text());
    return answer.json();
  };

  // Ten thousand marks on one strip.
  const rows = Array.from(
    { length: 10000 },
    (_, i) => `item ${i % 6},${(3 + (i % 6) * 0.2 + Math.sin(i * 12.9898) * 0.3).toFixed(3)}`,
  );
  const { study } = await post('/studies/import?title=Many', `item,value\n${rows.join('\n')}\n`, 'text/csv');
  const tab = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await tab.goto(`${address}/study/${study.id}/screen`);
  await tab.locator('[data-strip]').waitFor();
  await tab.waitForTimeout(2500);
  const client = await tab.context().newCDPSession(tab);
  await client.send('Performance.enable');
  const scriptMs = async () => {
    const { metrics } = await client.send('Performance.getMetrics');
    return 1000 * metrics.find(({ name }) => name === 'ScriptDuration').value;
  };
  const box = await tab.locator('[data-strip]').boundingBox();
  const hovers = [];
  for (let i = 0; i < 60; i += 1) {
    const before = await scriptMs();
    await tab.mouse.move(box.x + 80 + ((i * 37) % (box.width - 160)), box.y + 15 + ((i * 53) % 280));
    await tab.waitForTimeout(30);
    hovers.push((await scriptMs()) - before);
  }
  row(
    'strip, 10,000 marks: script at a hover, median',
    `${quantile(hovers, 0.5).toFixed(2)} ms`,
    'under 16 ms',
  );
  row(
    'strip, 10,000 marks: script at a hover, worst of 60',
    `${quantile(hovers, 1).toFixed(2)} ms`,
    'under 16 ms',
  );
  await tab.close();

  await decisions({ browser, address, post, row });

  // Posting readings, one after the other.
  const id = v7();
  const item = v7();
  const measurand = v7();
  await post('/studies', { id, title: 'Pace', question: '', rounds: 500, seed: 1 });
  await post(`/studies/${id}/items`, {
    id: item,
    name: 'Almo',
    code: 'A',
    mark: 0,
    role: 'candidate',
    class: '',
    attributes: [],
    position: 1,
  });
  const stamps = ['studyId', 'version', 'createdAt', 'updatedAt'];
  const fields = Object.entries(FLOW).filter(([name]) => !stamps.includes(name));
  await post(`/studies/${id}/measurands`, { ...Object.fromEntries(fields), id: measurand });
  const posts = [];
  for (let i = 0; i < 200; i += 1) {
    const start = performance.now();
    await post(`/studies/${id}/readings`, {
      id: v7(),
      itemId: item,
      measurandId: measurand,
      sessionId: null,
      round: i + 1,
      place: i,
      levels: [],
      parts: [{ name: 'value', text: String(100 + (i % 9)), number: 100 + (i % 9) }],
      source: 'typed',
      takenAt: new Date().toISOString(),
    });
    posts.push(performance.now() - start);
  }
  row('server, a reading posted: median', `${quantile(posts, 0.5).toFixed(1)} ms`, 'under 15 ms');
  row('server, a reading posted: 95th percentile', `${quantile(posts, 0.95).toFixed(1)} ms`, 'under 15 ms');
}

/** A plan of 200 items and three factors with 5, 5 and 1 levels: 5,000 runs in one round. */
function largePlan() {
  const id = v7();
  const { version, createdAt, updatedAt } = FLOW;
  const part = () => ({ id: v7(), studyId: id, version, createdAt, updatedAt });
  const factors = [5, 5, 1].map((count, i) => ({
    factor: {
      ...part(),
      name: `Factor ${i + 1}`,
      kind: 'treatment',
      unit: '',
      irreversible: false,
      position: i + 1,
    },
    count,
  }));
  return {
    ...AERATORS,
    study: { ...AERATORS.study, id, title: 'Large', rounds: 1 },
    items: Array.from({ length: 200 }, (_, i) => ({
      ...AERATORS.items[0],
      ...part(),
      name: `Item ${i + 1}`,
      code: `N${i + 1}`,
      mark: i % 12,
      position: i + 1,
    })),
    measurands: [{ ...FLOW, ...part() }],
    factors: factors.map(({ factor }) => factor),
    levels: factors.flatMap(({ factor, count }) =>
      Array.from({ length: count }, (_, i) => ({
        ...part(),
        factorId: factor.id,
        name: `Level ${i + 1}`,
        value: null,
        baseline: i === 0,
        position: i + 1,
      })),
    ),
    claims: [],
    conditions: [],
    sessions: [],
    readings: [],
    decisions: [],
    notes: [],
  };
}

/** From an edit of a large plan to the page that shows what comes of it. */
async function planEdits(browser, address) {
  const plan = largePlan();
  const made = await fetch(`${address}/api/v1/studies/import`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(plan),
  });
  if (!made.ok) throw new Error(await made.text());
  const tab = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await tab.goto(`${address}/study/${plan.study.id}/plan`);
  await tab.getByRole('heading', { name: /5000 readings/, level: 1 }).waitFor();
  await tab.getByRole('heading', { name: 'Factors', exact: true }).click();
  await tab.getByRole('heading', { name: /^5000 cells/ }).waitFor();
  // Clicks a button and waits until the page has painted another text at a place.
  const edit = (button, place) =>
    tab.evaluate(
      ([what, where]) =>
        new Promise((resolve) => {
          const watched = globalThis.document.querySelector(where);
          const before = watched.textContent;
          const start = performance.now();
          const look = () => {
            if (globalThis.document.querySelector(where)?.textContent !== before)
              resolve(performance.now() - start);
            else globalThis.requestAnimationFrame(look);
          };
          [...globalThis.document.querySelectorAll('button')]
            .find((element) =>
              (element.getAttribute('aria-label') ?? element.textContent).trim().startsWith(what),
            )
            .click();
          globalThis.requestAnimationFrame(look);
        }),
      [button, place],
    );
  const shuffles = [];
  const strikes = [];
  for (let i = 0; i < 20; i += 1) {
    shuffles.push(await edit('Shuffle again', '[aria-label="Order of the items"]'));
    await tab.waitForTimeout(100);
    strikes.push(await edit(`Strike out Item ${(i % 9) + 1} at Level ${(i % 5) + 1}`, 'main h1'));
    await tab.waitForTimeout(100);
  }
  for (const [what, times] of [
    ['another order', shuffles],
    ['a cell struck out', strikes],
  ]) {
    row(`plan, 5,000 runs: ${what}, median`, `${quantile(times, 0.5).toFixed(0)} ms`, 'under 100 ms');
    row(`plan, 5,000 runs: ${what}, worst of 20`, `${quantile(times, 1).toFixed(0)} ms`, 'under 100 ms');
  }
  await tab.close();
}

try {
  analyseMillion();
  traceMillion();
  drawsOfPlaces();
  const { child, address } = await startServer();
  const browser = await chromium.launch({
    executablePath,
    args: JSON.parse(readFileSync(path.join(ROOT, 'scripts/chromium-flags.json'), 'utf8')),
  });
  await planEdits(browser, address);
  await atBench({ browser, address, folder, row });
  await page(browser, address);
  await browser.close();
  child.kill('SIGTERM');
} finally {
  rmSync(folder, { recursive: true, force: true });
}
