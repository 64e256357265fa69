import { Hono } from 'hono';
import Type from 'typebox';
import { closed } from '../../core/model/common.ts';
import { MOST_FILE_BYTES } from '../../core/model/limits.ts';
import type { FilePart } from '../../core/model/parts.ts';
import { jsonBody } from '../body.ts';
import type { InstrumentRecordings } from '../instruments/recordings.ts';
import type { LiveHub } from '../live.ts';
import { Problem } from '../problems.ts';
import type { Store } from '../store.ts';
import { addWritten } from './logs.ts';

export const RecordingStarted = Type.Object(
  { instrumentId: Type.String({ minLength: 1, maxLength: 300 }) },
  closed,
);

/** What instruments hear, recorded: begin, look, end. */
export function recordingRoutes(store: Store, hub: LiveHub, recordings: InstrumentRecordings): Hono {
  const routes = new Hono();

  routes.get('/', async (context) => {
    const studyId = context.req.param('studyId') as string;
    await store.study(studyId);
    return context.json(recordings.list(studyId));
  });

  routes.post('/', async (context) => {
    const studyId = context.req.param('studyId') as string;
    await store.study(studyId);
    const { instrumentId } = (await jsonBody(context, RecordingStarted)) as { instrumentId: string };
    const files = await store.list<FilePart>('files', studyId);
    const taken = files.reduce((sum, { bytes }) => sum + bytes, 0);
    return context.json(recordings.start(studyId, instrumentId, MOST_FILE_BYTES - taken), 201);
  });

  routes.post('/:id/stop', async (context) => {
    const { studyId, id } = context.req.param() as unknown as { studyId: string; id: string };
    const kept = await recordings.stop(studyId, id);
    if (!kept)
      throw new Problem(
        409,
        'Nothing recorded',
        'It was stopped before anything was heard: nothing was kept.',
      );
    return context.json(await addWritten(store, hub, kept), 201);
  });

  return routes;
}
