import { Hono } from 'hono';
import { type SSEStreamingApi, streamSSE } from 'hono/streaming';
import Type from 'typebox';
import { Id, closed } from '../../core/model/common.ts';
import { jsonBody } from '../body.ts';
import type { InstrumentReading, InstrumentState } from '../../core/model/instrument.ts';
import type { InstrumentDriver } from '../instruments/driver.ts';
import type { LiveEvent, LiveHub } from '../live.ts';
import { Problem } from '../problems.ts';
import type { Store } from '../store/store.ts';

/** So often something is sent, so that a dead connection is noticed, ms. */
const SIGN_OF_LIFE_MS = 15000;
/** A listener that leaves more than this unread is dropped, in characters. */
const MOST_WAITING = 4e6;
const Tab = Type.Object({ tab: Id }, closed);
const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/** Sends to a stream what it can take; one that does not read any more is dropped. */
function sender(stream: SSEStreamingApi) {
  /** What was sent and not read yet, in characters. */
  let waiting = 0;
  return ({ event, ...about }: LiveEvent | { event: string; [name: string]: unknown }) => {
    const data = JSON.stringify(about);
    waiting += data.length;
    // A page that does not read any more would fill the memory; it asks again when it is back.
    if (waiting > MOST_WAITING) {
      stream.abort();
      return;
    }
    void stream
      .writeSSE({ event, data })
      .catch(() => undefined)
      .finally(() => {
        waiting -= data.length;
      });
  };
}

/** Sends what instruments do. @returns ends it */
function sendInstruments(send: ReturnType<typeof sender>, instruments: InstrumentDriver): () => void {
  const changed = (instrument: InstrumentState) => {
    send({ event: 'instrument', instrument });
  };
  const triggered = (reading: InstrumentReading) => {
    send({ event: 'triggered', reading });
  };
  const removed = (id: string) => {
    send({ event: 'removed', id });
  };
  instruments.on('changed', changed).on('triggered', triggered).on('removed', removed);
  return () => {
    instruments.off('changed', changed).off('triggered', triggered).off('removed', removed);
  };
}

/** What happens in a study and at its instruments, as server-sent events; and who is at its bench. */
export function liveRoutes(store: Store, hub: LiveHub, instruments: InstrumentDriver): Hono {
  const routes = new Hono<Record<string, never>, Record<string, never>>();

  routes.get('/live', async (context) => {
    const studyId = context.req.param('studyId') as string;
    await store.study(studyId);
    const tab = context.req.query('tab') ?? '';
    if (!UUID.test(tab)) throw new Problem(400, 'No tab', 'Say which tab is asking.');
    const atBench = context.req.query('bench') === 'yes';
    return streamSSE(context, async (stream) => {
      const send = sender(stream);
      const unsubscribe = hub.subscribe(studyId, (event, state) => {
        send(event.event === 'bench' ? event : { ...event, state });
      });
      const leaveInstruments = sendInstruments(send, instruments);
      const ended = new Promise<void>((resolve) => {
        stream.onAbort(resolve);
      });
      if (atBench) hub.come(studyId, tab);
      send({
        event: 'hello',
        state: hub.state(studyId),
        holder: hub.holder(studyId),
        instruments: instruments.list(),
      });
      const timer = setInterval(() => {
        send({ event: 'alive' });
      }, SIGN_OF_LIFE_MS);
      await ended;
      clearInterval(timer);
      unsubscribe();
      leaveInstruments();
      if (atBench) hub.leave(studyId, tab);
    });
  });

  routes.post('/bench', async (context) => {
    const studyId = context.req.param('studyId') as string;
    await store.study(studyId);
    const { tab } = await jsonBody(context, Tab);
    if (!hub.takeOver(studyId, tab as string)) {
      throw new Problem(409, 'Not at the bench', 'This page is not at the bench, or not connected just now.');
    }
    return context.json({ holder: hub.holder(studyId) });
  });

  return routes;
}
