import 'fake-indexeddb/auto';
import { IDBFactory } from 'fake-indexeddb';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { testStudy } from '../../../core/testing-study.ts';
import type { Reading } from '../../../core/model/parts.ts';
import { Outbox } from './outbox.ts';
import { eventually } from '../../testing.ts';

/** A server of the mind: stores by id, and can be away or refuse. */
class FakeServer {
  stored: string[] = [];
  /** Every request that arrived, repeated ones too. */
  requests: string[] = [];
  away = false;
  /** Takes what is sent and loses the answer on its way. */
  losesAnswers = false;
  refuses: string | undefined;

  fetch = (_address: string, { body }: { body: string }): Promise<Response> => {
    const { id } = JSON.parse(body) as { id: string };
    if (this.away) return Promise.reject(new TypeError('failed to fetch'));
    this.requests.push(id);
    if (id === this.refuses) {
      return Promise.resolve(
        new Response(
          JSON.stringify({
            detail: 'No such item.',
            errors: [{ path: '/itemId', message: 'No such item.' }],
          }),
          {
            status: 422,
          },
        ),
      );
    }
    if (!this.stored.includes(id)) this.stored.push(id);
    if (this.losesAnswers) return Promise.reject(new TypeError('connection reset'));
    return Promise.resolve(new Response(body, { status: 201 }));
  };
}

let server: FakeServer;
let locked = false;
const waiting: (() => void)[] = [];

beforeEach(() => {
  server = new FakeServer();
  locked = false;
  vi.stubGlobal('indexedDB', new IDBFactory());
  vi.stubGlobal('fetch', server.fetch);
  vi.stubGlobal('addEventListener', () => undefined);
  vi.stubGlobal('removeEventListener', () => undefined);
  vi.stubGlobal('navigator', {
    locks: {
      // One holder at a time, as the browser's own.
      request: async (_name: string, work: () => Promise<void>) => {
        while (locked) await new Promise<void>((resolve) => waiting.push(resolve));
        locked = true;
        try {
          await work();
        } finally {
          locked = false;
          waiting.shift()?.();
        }
      },
    },
  });
});
afterEach(() => {
  for (const outbox of running.splice(0)) outbox.stop();
  vi.unstubAllGlobals();
});

const { read } = testStudy(['Ama', 'Bel']);
const entryOf = (part: Reading) => ({ kind: 'readings' as const, part });
const running: Outbox[] = [];
const started = () => {
  const outbox = new Outbox();
  running.push(outbox);
  const recorded: string[] = [];
  outbox.onRecorded = (_kind, part) => recorded.push(part.id);
  outbox.start();
  return { outbox, recorded };
};
const settled = async (outbox: Outbox, status: string) => {
  await eventually(() => {
    expect(outbox.snapshot().status).toBe(status);
  });
};

describe('readings on their way', () => {
  it('are sent in the order in which they were taken, and leave once they are recorded', async () => {
    const { outbox, recorded } = started();
    const readings = [read(0, 1, '1'), read(1, 1, '2'), read(0, 2, '3')];
    for (const reading of readings) await outbox.add([entryOf(reading)]);
    await settled(outbox, 'idle');
    expect(server.stored).toEqual(readings.map(({ id }) => id));
    expect(recorded).toEqual(server.stored);
    expect(outbox.snapshot().entries).toEqual([]);
  });

  it('are in view at once, before anything has been sent', () => {
    server.away = true;
    const { outbox } = started();
    const reading = read(0, 1, '1');
    void outbox.add([entryOf(reading)]);
    expect(outbox.snapshot().entries.map(({ part }) => part.id)).toEqual([reading.id]);
  });

  it('wait while the server is away, and are sent when it is back', async () => {
    server.away = true;
    const { outbox } = started();
    const readings = [read(0, 1, '1'), read(1, 1, '2')];
    await outbox.add(readings.map(entryOf));
    await settled(outbox, 'away');
    expect(outbox.snapshot().entries).toHaveLength(2);
    server.away = false;
    await settled(outbox, 'idle');
    expect(server.stored).toEqual(readings.map(({ id }) => id));
  });

  it('survive a reload of the page', async () => {
    server.away = true;
    const first = started();
    const reading = read(0, 1, '1');
    await first.outbox.add([entryOf(reading)]);
    await settled(first.outbox, 'away');
    // A new page knows nothing but what the browser has stored.
    const second = started();
    await eventually(() => {
      expect(second.outbox.snapshot().entries.map(({ part }) => part.id)).toEqual([reading.id]);
    });
    server.away = false;
    await settled(second.outbox, 'idle');
    expect(server.stored).toEqual([reading.id]);
  });

  it('are sent again under their id when the answer was lost, and recorded once', async () => {
    server.losesAnswers = true;
    const { outbox } = started();
    const reading = read(0, 1, '1');
    await outbox.add([entryOf(reading)]);
    await settled(outbox, 'away');
    server.losesAnswers = false;
    await settled(outbox, 'idle');
    expect(server.requests.length).toBeGreaterThan(1);
    expect(new Set(server.requests)).toEqual(new Set([reading.id]));
    expect(server.stored).toEqual([reading.id]);
  });

  it('stay with the reason when the server refuses one, and hold nothing else up', async () => {
    const { outbox } = started();
    const [bad, good] = [read(0, 1, '1'), read(1, 1, '2')];
    server.refuses = bad.id;
    await outbox.add([entryOf(bad), entryOf(good)]);
    await eventually(() => {
      expect(server.stored).toEqual([good.id]);
    });
    await settled(outbox, 'idle');
    expect(outbox.snapshot().entries).toMatchObject([{ part: { id: bad.id }, refused: 'No such item.' }]);
    server.refuses = undefined;
    await outbox.retryRefused();
    await eventually(() => {
      expect(outbox.snapshot().entries).toEqual([]);
    });
    expect(server.stored).toEqual([good.id, bad.id]);
  });

  it('are forgotten when refused, only on the tester’s word', async () => {
    const { outbox } = started();
    const bad = read(0, 1, '1');
    server.refuses = bad.id;
    await outbox.add([entryOf(bad)]);
    await eventually(() => {
      expect(outbox.snapshot().entries[0]?.refused).toBeDefined();
    });
    await outbox.discardRefused();
    expect(outbox.snapshot().entries).toEqual([]);
    expect(server.stored).toEqual([]);
  });

  it('of two tabs are sent by one of them, and both come to know', async () => {
    server.away = true;
    const first = started();
    const second = started();
    const [a, b] = [read(0, 1, '1'), read(1, 1, '2')];
    await first.outbox.add([entryOf(a)]);
    await second.outbox.add([entryOf(b)]);
    await eventually(() => {
      expect(first.outbox.snapshot().entries).toHaveLength(2);
      expect(second.outbox.snapshot().entries).toHaveLength(2);
    });
    server.away = false;
    await eventually(() => {
      expect(first.outbox.snapshot().entries).toEqual([]);
      expect(second.outbox.snapshot().entries).toEqual([]);
    });
    expect([...server.stored].sort()).toEqual([a.id, b.id].sort());
    expect(server.requests).toHaveLength(2);
    expect([...first.recorded].sort()).toEqual([a.id, b.id].sort());
    expect([...second.recorded].sort()).toEqual([a.id, b.id].sort());
  });

  it('go straight to the server where the browser cannot store, and the page says so', async () => {
    vi.stubGlobal('indexedDB', {
      open: () => {
        throw new Error('storage is switched off');
      },
    });
    const { outbox, recorded } = started();
    const reading = read(0, 1, '1');
    await outbox.add([entryOf(reading)]);
    expect(outbox.snapshot().status).toBe('broken');
    expect(recorded).toEqual([reading.id]);
    expect(outbox.snapshot().entries).toEqual([]);
  });

  it('are stored again as soon as the browser can', async () => {
    const working = indexedDB;
    vi.stubGlobal('indexedDB', {
      open: () => {
        throw new Error('storage is switched off');
      },
    });
    server.away = true;
    const { outbox } = started();
    await settled(outbox, 'broken');
    vi.stubGlobal('indexedDB', working);
    const reading = read(0, 1, '1');
    await outbox.add([entryOf(reading)]);
    await settled(outbox, 'away');
    server.away = false;
    await settled(outbox, 'idle');
    expect(server.stored).toEqual([reading.id]);
  });
});
