import { Hono } from 'hono';
import { arrivedFile, mediaType } from '../body.ts';
import type { Heavy } from '../heavy/heavy.ts';
import type { LiveHub } from '../live.ts';
import { Problem } from '../problems.ts';
import type { Store } from '../store/store.ts';

/** Readings of a table, taken in by the thread for long work. */
export function importRoutes(store: Store, hub: LiveHub, heavy: Heavy): Hono {
  /** Imports that are under way. */
  const running = new Set<Promise<unknown>>();
  const routes = new Hono<Record<string, never>, Record<string, never>>();

  routes.post('/', async (context) => {
    const studyId = context.req.param('studyId') as string;
    if (mediaType(context) !== 'application/json') {
      throw new Problem(415, 'Wrong media type', 'Send JSON, with the content type application/json.');
    }
    const { signal } = context.req.raw;
    const work = arrivedFile(context, (file) => heavy.run('importReadings', { file, studyId }, { signal }));
    running.add(work);
    const { created, readings } = await work.finally(() => running.delete(work));
    if (created) hub.publish(studyId, { event: 'refetch' });
    return context.json({ readings }, created ? 201 : 200);
  });

  // Asked by a page that stopped an import; answered behind the import, so that it holds.
  routes.get('/:sessionId', async (context) => {
    const { studyId, sessionId } = context.req.param() as unknown as { studyId: string; sessionId: string };
    await Promise.allSettled(running);
    await store.study(studyId);
    return context.json({ written: (await store.part('sessions', studyId, sessionId)) !== undefined });
  });

  return routes;
}
