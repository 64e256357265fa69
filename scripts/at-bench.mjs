/** A thousand readings in a row at the bench, then a table of a hundred thousand, then readings among these. */
import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { v7 } from 'uuid';
import { quantile } from './quantile.mjs';
import { ROOT } from './setup.mjs';

/** Items and a measurand of the demo, so that none need be spelled out here. */
const { items: ITEMS, measurands: MEASURANDS } = JSON.parse(
  readFileSync(path.join(ROOT, 'demo/tap-aerators.json'), 'utf8'),
);

/** From Enter until the page has painted the next run and the count of readings, in ms. */
const enter = (tab) =>
  tab.evaluate(
    () =>
      new Promise((resolve) => {
        const count = () => globalThis.document.querySelector('aside h3').textContent;
        const before = count();
        const start = performance.now();
        const look = () => {
          if (count() !== before) resolve(performance.now() - start);
          else globalThis.requestAnimationFrame(look);
        };
        const event = new globalThis.KeyboardEvent('keydown', {
          key: 'Enter',
          bubbles: true,
          cancelable: true,
        });
        globalThis.document.activeElement.dispatchEvent(event);
        globalThis.requestAnimationFrame(look);
      }),
  );

/** Readings among many: how many, and how long a hand takes from one to the next, ms. */
const AMONG = 100;
const PACE_MS = 1200;

/** Asks the API something. */
async function ask(address, method, where, body, type = 'application/json') {
  const answer = await fetch(`${address}/api/v1${where}`, {
    method,
    headers: { 'content-type': type },
    ...(body === undefined ? {} : { body: typeof body === 'string' ? body : JSON.stringify(body) }),
  });
  if (!answer.ok) throw new Error(await answer.text());
  return answer.json();
}

/** A study of 20 items and a measurand, 60 rounds of it planned. */
async function planned(address) {
  const post = (where, body) => ask(address, 'POST', where, body);
  const id = v7();
  await post('/studies', { id, title: 'In a row', question: '', rounds: 60, seed: 1 });
  const stamps = ['studyId', 'version', 'createdAt', 'updatedAt'];
  const bare = (part) => Object.fromEntries(Object.entries(part).filter(([name]) => !stamps.includes(name)));
  for (let i = 0; i < 20; i += 1) {
    await post(`/studies/${id}/items`, {
      ...{ ...bare(ITEMS[0]), id: v7(), name: `Item ${i}`, code: `I${i}`, mark: i % 12, position: i + 1 },
    });
  }
  await post(`/studies/${id}/measurands`, { ...bare(MEASURANDS[0]), id: v7() });
  return id;
}

/** A study of 20 items with a hundred thousand readings in 250 rounds, and as many rounds to come. */
async function withMany(address) {
  const rows = Array.from(
    { length: 100000 },
    (_, i) => `item ${i % 20},${1 + Math.floor(i / 400)},${(3 + ((i * 7) % 50) / 50).toFixed(2)}`,
  );
  const { study } = await ask(
    address,
    'POST',
    '/studies/import?title=Many',
    `item,round,value\n${rows.join('\n')}\n`,
    'text/csv',
  );
  const { version } = await ask(address, 'GET', `/studies/${study.id}`);
  await ask(address, 'PATCH', `/studies/${study.id}`, { version, rounds: 500 });
  return study.id;
}

/** A thousand readings as fast as they are taken, and what stays in memory. */
async function inARow(tab, row) {
  const entry = tab.getByRole('textbox').first();
  await entry.waitFor();
  const client = await tab.context().newCDPSession(tab);
  const heap = async () => {
    await tab.waitForTimeout(1500);
    await client.send('HeapProfiler.collectGarbage');
    return (await client.send('Runtime.getHeapUsage')).usedSize / 1e6;
  };
  const times = [];
  let early = 0;
  for (let i = 0; i < 1000; i += 1) {
    await entry.fill((3 + ((i * 7) % 10) / 10).toFixed(1));
    times.push(await enter(tab));
    if (i === 99) early = await heap();
  }
  const late = await heap();
  const [first, end] = [times.slice(0, 100), times.slice(-100)];
  row('bench, Enter to recorded, 1,000 readings: median', `${quantile(times, 0.5).toFixed(0)} ms`, '');
  row('bench, Enter to recorded: 95th percentile', `${quantile(times, 0.95).toFixed(0)} ms`, 'under 50 ms');
  row('bench, Enter to recorded: first 100, median', `${quantile(first, 0.5).toFixed(0)} ms`, '');
  row('bench, Enter to recorded: last 100, median', `${quantile(end, 0.5).toFixed(0)} ms`, 'no slow-down');
  row('bench, memory after 100 readings', `${early.toFixed(1)} MB`, '');
  row('bench, memory after 1,000 readings', `${late.toFixed(1)} MB`, 'no leak');
}

/** A hundred thousand rows from a file. */
async function fromTable(tab, folder, row) {
  const lines = Array.from(
    { length: 100000 },
    (_, i) => `Item ${i % 20};${(3 + ((i * 7) % 50) / 10).toFixed(1)}`,
  );
  const table = path.join(folder, 'table.csv');
  writeFileSync(table, `Item;Value\n${lines.join('\n')}\n`);
  await tab.getByRole('button', { name: 'More at the bench' }).click();
  await tab.getByRole('menuitem', { name: /Readings from a table/ }).click();
  const chooser = tab.waitForEvent('filechooser');
  await tab.getByRole('button', { name: 'A file…' }).click();
  const start = performance.now();
  await (await chooser).setFiles(table);
  const take = tab.getByRole('button', { name: /^Take 100/ });
  await take.waitFor({ timeout: 60000 });
  const checked = performance.now();
  await take.click();
  await tab.getByText(/taken from the table/).waitFor({ timeout: 60000 });
  const written = performance.now();
  const seconds = (from, to) => `${((to - from) / 1000).toFixed(1)} s`;
  row('table of 100,000 readings: read and checked', seconds(start, checked), '');
  row('table of 100,000 readings: written', seconds(checked, written), '');
  row('table of 100,000 readings: both', seconds(start, written), 'under 5 s');
}

/** Readings one by one, at the pace of a hand, in a study that has a hundred thousand. */
async function amongMany(tab, row) {
  const entry = tab.getByRole('textbox').first();
  await entry.waitFor({ timeout: 60000 });
  await tab.waitForTimeout(5000);
  const times = [];
  for (let i = 0; i < AMONG; i += 1) {
    await entry.fill((3 + ((i * 7) % 10) / 10).toFixed(1));
    times.push(await enter(tab));
    await tab.waitForTimeout(PACE_MS);
  }
  row('bench, Enter to recorded, among 100,000: median', `${quantile(times, 0.5).toFixed(0)} ms`, '');
  row('bench, the same: 95th percentile', `${quantile(times, 0.95).toFixed(0)} ms`, 'under 50 ms');
}

/** @param row prints a figure beside its aim */
export async function atBench({ browser, address, folder, row }) {
  const id = await planned(address);
  const open = async (study = id) => {
    const tab = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await tab.goto(`${address}/study/${study}/bench`);
    return tab;
  };
  const first = await open();
  await inARow(first, row);
  await first.close();
  const second = await open();
  await fromTable(second, folder, row);
  await second.close();
  const third = await open(await withMany(address));
  await amongMany(third, row);
  await third.close();
}
