import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { serveStatic } from '@hono/node-server/serve-static';
import { Hono } from 'hono';
import { PART_KIND_NAMES } from '../core/model/part-kinds.ts';
import { StudyDocument } from '../core/model/study-document.ts';
import type { Database, Refusal } from './database.ts';
import { DISK_FULL, Problem, saidBy } from './problems.ts';
import type { Heavy } from './heavy/heavy.ts';
import type { InstrumentDriver } from './instruments/driver.ts';
import { LiveHub } from './live.ts';
import { openApi } from './openapi.ts';
import { backupRoutes } from './routes/backup.ts';
import { importRoutes } from './routes/import-readings.ts';
import { instrumentRoutes } from './routes/instruments.ts';
import { liveRoutes } from './routes/live.ts';
import { partRoutes } from './routes/parts.ts';
import { InstrumentLogs } from './instruments/logs.ts';
import { InstrumentRecordings } from './instruments/recordings.ts';
import { fileRoutes } from './routes/files.ts';
import { logRoutes } from './routes/logs.ts';
import { addWritten } from './routes/written.ts';
import { recordingRoutes } from './routes/recordings.ts';
import { photoRoutes } from './routes/photos.ts';
import { keptIn } from './kept.ts';
import { studyRoutes } from './routes/studies.ts';
import { studyFileRoutes } from './routes/study-files.ts';
import { guardOrigin, secureHeaders } from './security.ts';
import type { Store } from './store/store.ts';
import { UnderWay } from './under-way.ts';

const FULL = new Problem(507, 'Disk full', 'The disk is full: nothing more can be recorded.');

/** What is answered where the database refuses something; nothing that is so of the rest. */
const REFUSED: Partial<Record<Refusal, Problem>> = {
  gone: new Problem(
    507,
    'Database gone',
    'The database was removed or replaced while the server runs: nothing can be recorded. Stop the server, and put the database back.',
  ),
  taken: new Problem(409, 'Already here', 'There is one like this already. Nothing was changed.'),
  dangling: new Problem(409, 'Not here', 'It points to something that is not there. Nothing was changed.'),
  full: FULL,
};

/** Stands in the page where the nonce of each answer goes. */
const NONCE_PLACE = '%NONCE%';

export interface AppParts {
  /** Folder of the server: its database, photos, and files that readings are worked out from. */
  data: string;
  instruments: InstrumentDriver;
  /** The thread for work that takes long. */
  heavy: Heavy;
  /** Folder of the built pages; none while developing. */
  pages?: string | undefined;
}

/**
 * Puts what instruments were sending when the server ended into its studies; what cannot be is said and hinders no other.
 */
async function keepLeft(
  store: Store,
  hub: LiveHub,
  written: readonly (InstrumentLogs | InstrumentRecordings)[],
): Promise<void> {
  const failed = (what: string) => (error: unknown) => {
    console.error(`${what} was being written down when the server ended, and could not be kept:`, error);
  };
  for (const kind of written) {
    const left = await kind.left().catch(failed('Something'));
    for (const kept of left ?? []) await addWritten(store, hub, kept).catch(failed(kept.title));
  }
}

/** What is answered where work on a request threw this. */
function problemOf(error: unknown, database: Database): Problem {
  if (error instanceof Problem) return error;
  const refusal = database.refusal(error);
  const refused = refusal ? REFUSED[refusal] : DISK_FULL.test(saidBy(error)) ? FULL : undefined;
  return (
    refused ??
    new Problem(500, 'Server error', 'Something went wrong in the server. Nothing that was recorded is lost.')
  );
}

/** All of the API. */
function apiRoutes(store: Store, { data, instruments, heavy }: AppParts): Hono {
  const hub = new LiveHub();
  const underWay = new UnderWay();
  const kept = keptIn(data);
  const logs = new InstrumentLogs(kept.files, instruments);
  const recordings = new InstrumentRecordings(kept.files, instruments);
  const api = new Hono();
  api.use(async (context, next) => {
    // No name here holds a NUL, which the database cannot be asked for.
    if (context.req.url.includes('%00'))
      throw new Problem(404, 'Not found', 'There is nothing at this address.');
    await next();
  });
  api.use(async (context, next) => {
    await next();
    // A photo is named by what is in it, so that it never changes.
    if (!context.res.headers.has('Cache-Control')) context.header('Cache-Control', 'no-store');
  });
  api.get('/health', (context) => context.json({ name: 'brackenridge', ok: true }));
  // Made when it is first asked for, and once.
  let described: string | undefined;
  api.get('/openapi.json', (context) =>
    context.body((described ??= JSON.stringify(openApi())), 200, { 'Content-Type': 'application/json' }),
  );
  api.get('/schema/study.json', (context) => context.json(StudyDocument));
  api.route('/studies/:studyId/import-readings', importRoutes(store, hub, heavy));
  for (const kind of PART_KIND_NAMES) {
    api.route(`/studies/:studyId/${kind}`, partRoutes(store, hub, kind));
  }
  api.route('/studies/:studyId', liveRoutes(store, hub, instruments));
  api.get('/under-way/:name', (context) => context.json(underWay.progress(context.req.param('name'))));
  api.route('/studies', studyRoutes(store, hub, heavy));
  api.route('/studies', studyFileRoutes(store, hub, heavy, underWay));
  api.route('/photos', photoRoutes(kept.photos));
  api.route('/files', fileRoutes(kept.files));
  api.route('/studies/:studyId/logs', logRoutes(store, hub, logs));
  api.route('/studies/:studyId/recordings', recordingRoutes(store, hub, recordings));
  api.route('/backup', backupRoutes(data));
  api.route('/instruments', instrumentRoutes(instruments));
  api.all('*', () => {
    throw new Problem(404, 'Not found', 'There is nothing at this address.');
  });
  // Once the folder of the files is there.
  void keepLeft(store, hub, [logs, recordings]);
  return api;
}

type App = Hono<{ Variables: { nonce: string } }>;

/** The built pages, and the page for whatever else is asked for. */
function servePages(app: App, pages: string, page: string): void {
  const file = (name: string) => path.relative(process.cwd(), path.join(pages, name));
  app.use('/assets/*', async (context, next) => {
    await next();
    // Each is named by what is in it.
    if (context.res.ok) context.header('Cache-Control', 'public, max-age=31536000, immutable');
  });
  app.use('/assets/*', serveStatic({ root: path.relative(process.cwd(), pages), precompressed: true }));
  app.get('/icon.svg', serveStatic({ path: file('icon.svg') }));
  app.get('/service-worker.js', (context, next) => {
    context.header('Cache-Control', 'no-store');
    return serveStatic({ path: file('service-worker.js') })(context, next);
  });
  app.get('/assets/*', () => {
    throw new Problem(404, 'Not found', 'There is no such file.');
  });
  app.get('*', (context) => {
    context.header('Cache-Control', 'no-store');
    return context.html(page.replaceAll(NONCE_PLACE, context.get('nonce')));
  });
}

/** The whole server: API, and the built pages where there are some. */
export function createApp(store: Store, parts: AppParts): App {
  const app: App = new Hono();
  app.use(secureHeaders);
  app.use(guardOrigin);
  app.onError((error, context) => {
    const problem = problemOf(error, store.database);
    // A failed statement may hold a whole study; its beginning tells enough.
    if (problem.status >= 500) console.error(error.stack?.slice(0, 2000));
    return context.body(JSON.stringify(problem.body()), problem.status, {
      'Content-Type': 'application/problem+json; charset=utf-8',
    });
  });
  app.route('/api/v1', apiRoutes(store, parts));
  const { pages } = parts;
  const index = pages === undefined ? undefined : path.join(pages, 'index.html');
  if (pages !== undefined && index !== undefined && existsSync(index))
    servePages(app, pages, readFileSync(index, 'utf8'));
  return app;
}
