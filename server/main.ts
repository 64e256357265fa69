import { readFileSync, readdirSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { serve } from '@hono/node-server';
import type { StudyDocument } from '../core/model/study-document.ts';
import { createApp } from './app.ts';
import { openDatabase } from './db/open.ts';
import { Heavy } from './heavy/heavy.ts';
import { InstrumentDriver, parseAddresses } from './instruments/driver.ts';
import { type Store, createStore } from './store.ts';

const HOST = '127.0.0.1';
const FIRST_PORT = 4680;

const { values } = parseArgs({
  options: {
    data: { type: 'string' },
    pages: { type: 'string' },
    demo: { type: 'string' },
    fresh: { type: 'boolean' },
    port: { type: 'string' },
    instruments: { type: 'string' },
  },
});

const isFree = (port: number) =>
  new Promise<boolean>((resolve) => {
    const probe = createServer();
    probe.once('error', () => {
      resolve(false);
    });
    probe.listen(port, HOST, () => {
      probe.close(() => {
        resolve(true);
      });
    });
  });

async function choosePort(): Promise<number> {
  if (values.port !== undefined) return Number(values.port);
  for (let port = FIRST_PORT; port < FIRST_PORT + 50; port += 1) if (await isFree(port)) return port;
  throw new Error(`no port from ${String(FIRST_PORT)} to ${String(FIRST_PORT + 49)} is free`);
}

/** Puts the demo studies in that are not there yet; what was entered into them is kept. */
async function loadDemo(store: Store, folder: string): Promise<void> {
  for (const file of readdirSync(folder).filter((name) => name.endsWith('.json'))) {
    const document = JSON.parse(readFileSync(path.join(folder, file), 'utf8')) as StudyDocument;
    if (await store.find('studies', document.study.id)) continue;
    await store.database.write(() => store.insertDocument(document), { transaction: true });
  }
}

const data = path.resolve(values.data ?? '.local/data');
if (values.fresh)
  for (const end of ['', '-wal', '-shm'])
    rmSync(path.join(data, `brackenridge.sqlite${end}`), { force: true });
const database = await openDatabase(path.join(data, 'brackenridge.sqlite'));
const store = createStore(database);
// Beside this very file, as it stands or as it was built.
const here = fileURLToPath(import.meta.url);
const heavy = new Heavy(
  path.join(path.dirname(here), here.endsWith('.ts') ? 'heavy/worker.ts' : 'heavy.js'),
  path.join(data, 'brackenridge.sqlite'),
);
if (values.demo !== undefined) await loadDemo(store, values.demo);

// What is named here may be connected to, and is at once; other addresses of this machine may be added in the page.
const named = parseAddresses(
  [values.instruments, process.env.BRACKENRIDGE_INSTRUMENTS].filter((text) => text !== undefined).join(','),
);
const instruments = new InstrumentDriver(named);
for (const address of named) instruments.connect(address);

const port = await choosePort();
const server = serve(
  {
    fetch: createApp(store, {
      photos: path.join(data, 'photos'),
      instruments,
      heavy,
      pages: values.pages && path.resolve(values.pages),
    }).fetch,
    hostname: HOST,
    port,
  },
  ({ port: taken }) => {
    console.log(`Brackenridge is open at http://${HOST}:${String(taken)}/   (Ctrl+C stops it)`);
  },
);

let stopping = false;
const stop = () => {
  if (stopping) return;
  stopping = true;
  instruments.close();
  server.close(() => {
    void heavy
      .close()
      .then(() => database.close())
      .then(() => process.exit(0));
  });
  if ('closeAllConnections' in server) server.closeAllConnections();
};
process.on('SIGINT', stop);
process.on('SIGTERM', stop);
