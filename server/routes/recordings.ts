import type { Hono } from 'hono';
import Type from 'typebox';
import { closed } from '../../core/model/common.ts';
import { MOST_FILE_BYTES } from '../../core/model/limits.ts';
import type { FilePart } from '../../core/model/parts.ts';
import { jsonBody } from '../body.ts';
import type { InstrumentRecordings } from '../instruments/recordings.ts';
import type { LiveHub } from '../live.ts';
import { Problem } from '../problems.ts';
import type { Store } from '../store/store.ts';
import { writtenRoutes } from './written.ts';

export const RecordingStarted = Type.Object(
  { instrumentId: Type.String({ minLength: 1, maxLength: 300 }) },
  closed,
);

/** What instruments hear, recorded. */
export const recordingRoutes = (store: Store, hub: LiveHub, recordings: InstrumentRecordings): Hono =>
  writtenRoutes(
    { store, hub },
    recordings,
    async (studyId, context) => {
      const { instrumentId } = (await jsonBody(context, RecordingStarted)) as { instrumentId: string };
      const files = await store.list<FilePart>('files', studyId);
      const taken = files.reduce((sum, { bytes }) => sum + bytes, 0);
      return recordings.start(studyId, instrumentId, MOST_FILE_BYTES - taken);
    },
    new Problem(409, 'Nothing recorded', 'It was stopped before anything was heard: nothing was kept.'),
  );
