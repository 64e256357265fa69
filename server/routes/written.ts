import { type Context, Hono } from 'hono';
import { v7 } from 'uuid';
import type { KeptFile } from '../instruments/keep-written.ts';
import type { LiveHub } from '../live.ts';
import type { Problem } from '../problems.ts';
import type { Store } from '../store/store.ts';

/** Puts what an instrument sent into its study, as one of its files. */
export async function addWritten(store: Store, hub: LiveHub, { studyId, title, file, bytes }: KeptFile) {
  const made = await store.database.write(() =>
    store.createOnce('files', {
      ...{ id: v7(), studyId, name: title, file, bytes, note: '' },
      addedAt: new Date().toISOString(),
    }),
  );
  hub.publish(studyId, { event: 'part', kind: 'files', part: made.part });
  return made.part;
}

/** What is being written down for a study, of whatever kind. */
interface Written {
  list: (studyId: string) => object[];
  stop: (studyId: string, id: string) => Promise<KeptFile | undefined>;
}

/**
 * Routes of what instruments send and is written down: begin, look, end.
 * @param start begins, as the body says
 * @param nothing is answered where it is ended before there is anything
 */
export function writtenRoutes(
  { store, hub }: { store: Store; hub: LiveHub },
  written: Written,
  start: (studyId: string, context: Context) => Promise<object>,
  nothing: Problem,
): Hono {
  const routes = new Hono();

  routes.get('/', async (context) => {
    const studyId = context.req.param('studyId') as string;
    await store.study(studyId);
    return context.json(written.list(studyId));
  });

  routes.post('/', async (context) => {
    const studyId = context.req.param('studyId') as string;
    await store.refuseDeleted(studyId);
    return context.json(await start(studyId, context), 201);
  });

  routes.post('/:id/stop', async (context) => {
    const { studyId, id } = context.req.param() as unknown as { studyId: string; id: string };
    const kept = await written.stop(studyId, id);
    if (!kept) throw nothing;
    return context.json(await addWritten(store, hub, kept), 201);
  });

  return routes;
}
