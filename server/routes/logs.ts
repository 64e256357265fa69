import type { Hono } from 'hono';
import Type from 'typebox';
import { closed } from '../../core/model/common.ts';
import { jsonBody } from '../body.ts';
import type { InstrumentLogs } from '../instruments/logs.ts';
import type { LiveHub } from '../live.ts';
import { Problem } from '../problems.ts';
import type { Store } from '../store/store.ts';
import { writtenRoutes } from './written.ts';

export const LogStarted = Type.Object(
  {
    instrumentId: Type.String({ minLength: 1, maxLength: 300 }),
    column: Type.String({
      minLength: 1,
      maxLength: 120,
      description: 'what is measured: the name of the item',
    }),
    periodS: Type.Number({ minimum: 0.2, maximum: 3600, description: 'seconds from row to row' }),
  },
  closed,
);

/** What instruments show, written down as a trace. */
export const logRoutes = (store: Store, hub: LiveHub, logs: InstrumentLogs): Hono =>
  writtenRoutes(
    { store, hub },
    logs,
    async (studyId, context) => {
      const { instrumentId, column, periodS } = (await jsonBody(context, LogStarted)) as {
        instrumentId: string;
        column: string;
        periodS: number;
      };
      return logs.start(studyId, instrumentId, column, periodS);
    },
    new Problem(409, 'Nothing logged', 'It was stopped before the second row: nothing was kept.'),
  );
