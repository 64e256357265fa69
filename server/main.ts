import { cpSync, existsSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { serve } from '@hono/node-server';
import type { StudyDocument } from '../core/model/study-document.ts';
import { createApp } from './app.ts';
import { lockFolder } from './sqlite/lock.ts';
import { openDatabase } from './sqlite/open.ts';
import { Heavy } from './heavy/heavy.ts';
import { InstrumentDriver, parseAddresses } from './instruments/driver.ts';
import { keptIn } from './kept.ts';
import { StartProblem, startSentence } from './start-problem.ts';
import { Store } from './store/store.ts';
import { insertDocument } from './store/whole-study.ts';

const HOST = '127.0.0.1';
/** Where a port is looked for that is free. */
const [FIRST_PORT, LAST_PORT] = [4680, 4729];

/** The command line. @throws StartProblem for an option that there is not, or a port that is none */
function options() {
  try {
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
    const port = values.port === undefined ? undefined : Number(values.port);
    if (port !== undefined && !(Number.isInteger(port) && port >= 0 && port <= 65535))
      throw new StartProblem(`“${values.port ?? ''}” is no port; a port is a whole number from 0 to 65535.`);
    return { ...values, port };
  } catch (error) {
    throw error instanceof StartProblem ? error : new StartProblem((error as Error).message);
  }
}

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

async function choosePort(wanted: number | undefined): Promise<number> {
  if (wanted !== undefined) return wanted;
  for (let port = FIRST_PORT; port <= LAST_PORT; port += 1) if (await isFree(port)) return port;
  throw new StartProblem(
    `No port from ${String(FIRST_PORT)} to ${String(LAST_PORT)} is free. Name another by --port.`,
  );
}

/** Puts the demo studies in that are not there yet, with their files; what was entered into them is kept. */
async function loadDemo(store: Store, folder: string, data: string): Promise<void> {
  for (const file of readdirSync(folder).filter((name) => name.endsWith('.json'))) {
    const document = JSON.parse(readFileSync(path.join(folder, file), 'utf8')) as StudyDocument;
    if (await store.find('studies', document.study.id)) continue;
    await store.database.write(() => insertDocument(store.database.writer, document), { transaction: true });
  }
  cpSync(path.join(folder, 'files'), keptIn(data).files, { recursive: true, force: false });
}

/** Starts the server. @throws what startSentence explains */
async function start(data: string, values: ReturnType<typeof options>): Promise<void> {
  const unlock = await lockFolder(data);
  const file = path.join(data, 'brackenridge.sqlite');
  if (values.fresh) for (const end of ['', '-wal', '-shm']) rmSync(`${file}${end}`, { force: true });
  // A folder where there was data, and is none any more, is not filled with an empty database in silence.
  const marker = path.join(data, 'holds-studies');
  if (existsSync(marker) && !existsSync(file) && !values.fresh)
    throw new StartProblem(
      `There was a database in ${data}, and it is gone. Put it back, or remove the file “holds-studies” there to begin with an empty one.`,
    );
  const database = await openDatabase(file);
  writeFileSync(marker, 'This folder holds the studies of a Brackenridge server.\n');
  const store = new Store(database);
  // Beside this very file, as it stands or as it was built.
  const here = fileURLToPath(import.meta.url);
  const heavy = new Heavy(
    path.join(path.dirname(here), here.endsWith('.ts') ? 'heavy/worker.ts' : 'heavy.js'),
    file,
  );
  if (values.demo !== undefined) await loadDemo(store, values.demo, data);

  // What is named here may be connected to, and is at once; other addresses of this machine may be added in the page.
  const named = parseAddresses(
    [values.instruments, process.env.BRACKENRIDGE_INSTRUMENTS].filter((text) => text !== undefined).join(','),
  );
  const instruments = new InstrumentDriver(named);
  for (const address of named) instruments.connect(address);

  const port = await choosePort(values.port);
  const pages = values.pages && path.resolve(values.pages);
  const { fetch } = createApp(store, { data, instruments, heavy, pages });
  const server = serve({ fetch, hostname: HOST, port }, ({ port: taken }) => {
    console.log(`Brackenridge is open at http://${HOST}:${String(taken)}/   (Ctrl+C stops it)`);
  });
  server.on('error', (error) => {
    refuse(error, data);
  });

  let stopping = false;
  const stop = () => {
    if (stopping) return;
    stopping = true;
    instruments.close();
    server.close(() => {
      void heavy
        .close()
        .then(() => database.close())
        .then(unlock)
        .then(() => process.exit(0));
    });
    if ('closeAllConnections' in server) server.closeAllConnections();
  };
  process.on('SIGINT', stop);
  process.on('SIGTERM', stop);
}

function refuse(error: unknown, data: string): never {
  process.stderr.write(`${startSentence(error, data)}\n`);
  process.exit(1);
}

let folder = '.local/data';
try {
  const values = options();
  folder = path.resolve(values.data ?? folder);
  await start(folder, values);
} catch (error) {
  refuse(error, folder);
}
