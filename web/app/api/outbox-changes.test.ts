import 'fake-indexeddb/auto';
import { IDBFactory } from 'fake-indexeddb';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { NotePart, Session } from '../../../core/model/parts.ts';
import { newSession } from '../../../core/plan/new-parts.ts';
import { testId, testStudy } from '../../../core/testing-study.ts';
import { withOutgoing } from './merge.ts';
import { Outbox } from './outbox.ts';
import { eventually } from '../../testing.ts';

interface Stored {
  id: string;
  version: number;
  [field: string]: unknown;
}

/** A server of the mind that keeps parts by version, and photos by name. */
class VersionServer {
  parts = new Map<string, Stored>();
  log: string[] = [];
  away = false;

  fetch = (address: string, { method, body }: { method: string; body: string | Blob }): Promise<Response> => {
    if (this.away) return Promise.reject(new TypeError('failed to fetch'));
    const [what] = address.split('/').slice(-1);
    this.log.push(`${method} ${address.split('/').slice(3).join('/')}`);
    const answer = (status: number, value: unknown) =>
      Promise.resolve(new Response(JSON.stringify(value), { status }));
    if (address.endsWith('/photos')) return answer(201, { name: `${'a'.repeat(64)}.jpg` });
    const sent = JSON.parse(body as string) as Stored;
    if (method === 'POST') {
      const known = this.parts.get(sent.id);
      const part = known ?? { ...sent, version: 1 };
      this.parts.set(sent.id, part);
      return answer(known ? 200 : 201, part);
    }
    const current = this.parts.get(what ?? '');
    if (!current) return answer(404, { detail: 'There is no such part.' });
    if (current.version !== sent.version) return answer(409, { detail: 'Changed elsewhere.', current });
    const next = { ...current, ...sent, version: current.version + 1 };
    this.parts.set(current.id, next);
    return answer(200, next);
  };
}

let server: VersionServer;
const running: Outbox[] = [];
beforeEach(() => {
  server = new VersionServer();
  vi.stubGlobal('indexedDB', new IDBFactory());
  vi.stubGlobal('fetch', server.fetch);
  vi.stubGlobal('addEventListener', () => undefined);
  vi.stubGlobal('removeEventListener', () => undefined);
  vi.stubGlobal('navigator', { locks: { request: (_name: string, work: () => Promise<void>) => work() } });
});
afterEach(() => {
  for (const outbox of running.splice(0)) outbox.stop();
  vi.unstubAllGlobals();
});

const started = () => {
  const outbox = new Outbox();
  running.push(outbox);
  outbox.start();
  return outbox;
};
const idle = (outbox: Outbox) =>
  eventually(() => {
    expect(outbox.snapshot()).toEqual({ entries: [], status: 'idle' });
  });

const { document } = testStudy(['Ama']);
const NOW = '2026-05-04T10:00:00.000Z';
const stamp = { studyId: document.study.id, version: 1, createdAt: NOW, updatedAt: NOW };
const sessionOf = (): Session => ({ id: testId(), ...stamp, ...newSession(NOW), operator: 'Ola' });
const change = (session: Session, changes: Partial<Session>) => ({
  kind: 'sessions' as const,
  part: { ...session, ...changes },
  before: Object.fromEntries(Object.entries(session).filter(([name]) => name in changes)),
});

describe('a session on its way', () => {
  it('that began, was paused and ended while the server was away arrives as it ended', async () => {
    server.away = true;
    const outbox = started();
    const session = sessionOf();
    const pauses = [{ from: NOW, to: null }];
    await outbox.add([{ kind: 'sessions', part: session }]);
    await outbox.add([change(session, { pauses })]);
    await outbox.add([change({ ...session, pauses }, { endedAt: NOW })]);
    // In view all along, as if it had been recorded.
    const seen = withOutgoing(document, outbox.snapshot().entries);
    expect(seen.sessions).toMatchObject([{ id: session.id, endedAt: NOW, pauses }]);
    server.away = false;
    await idle(outbox);
    expect(server.parts.get(session.id)).toMatchObject({ endedAt: NOW, pauses, operator: 'Ola', version: 3 });
  });
  it('keeps what another tablet changed in the meantime, where this one did not touch it', async () => {
    const outbox = started();
    const session = sessionOf();
    await outbox.add([{ kind: 'sessions', part: session }]);
    await idle(outbox);
    server.parts.set(session.id, { ...(server.parts.get(session.id) as Stored), note: 'theirs', version: 5 });
    await outbox.add([change(session, { endedAt: NOW })]);
    await idle(outbox);
    expect(server.parts.get(session.id)).toMatchObject({ note: 'theirs', endedAt: NOW, version: 6 });
  });
  it('keeps the conditions that another tablet read in the meantime', async () => {
    const outbox = started();
    const session = sessionOf();
    await outbox.add([{ kind: 'sessions', part: session }]);
    await idle(outbox);
    const read = (number: number): Session['conditions'][number] => ({
      ...{ conditionId: testId(), at: 'during', takenAt: NOW, text: String(number), number },
    });
    const [theirs, ours] = [read(20), read(21)];
    const there = server.parts.get(session.id) as Stored;
    server.parts.set(session.id, { ...there, conditions: [theirs], version: 2 });
    await outbox.add([change(session, { conditions: [ours] })]);
    await idle(outbox);
    expect(server.parts.get(session.id)).toMatchObject({ conditions: [theirs, ours], version: 3 });
  });
  it('that is not there any more is told as refused, and holds nothing else up', async () => {
    const outbox = started();
    const [lost, good] = [sessionOf(), sessionOf()];
    await outbox.add([change(lost, { endedAt: NOW }), { kind: 'sessions', part: good }]);
    await eventually(() => {
      expect(server.parts.has(good.id)).toBe(true);
    });
    await eventually(() => {
      expect(outbox.snapshot().entries).toMatchObject([{ refused: 'There is no such part.' }]);
    });
  });
});

describe('a note on its way', () => {
  it('has its photo there first, and points to it by its name', async () => {
    const outbox = started();
    const note: NotePart = {
      ...{ id: testId(), ...stamp, readingId: null, itemId: null, sessionId: null, run: null },
      ...{ text: 'Vane low', photo: null, removed: false, notedAt: NOW },
    };
    await outbox.add([{ kind: 'notes', part: note, photo: new Blob(['x'], { type: 'image/jpeg' }) }]);
    await idle(outbox);
    expect(server.log).toEqual(['POST photos', `POST studies/${document.study.id}/notes`]);
    expect(server.parts.get(note.id)).toMatchObject({ text: 'Vane low', photo: `${'a'.repeat(64)}.jpg` });
  });
  it('keeps both texts where it was written on two pages', async () => {
    const outbox = started();
    const note: NotePart = {
      ...{ id: testId(), ...stamp, readingId: null, itemId: null, sessionId: null, run: null },
      ...{ text: 'Vane low', photo: null, removed: false, notedAt: NOW },
    };
    await outbox.add([{ kind: 'notes', part: note }]);
    await idle(outbox);
    const there = server.parts.get(note.id) as Stored;
    server.parts.set(note.id, { ...there, text: 'Vane low, bent', version: 2 });
    await outbox.add([
      { kind: 'notes', part: { ...note, text: 'Vane low by 2 mm' }, before: { text: note.text } },
    ]);
    await idle(outbox);
    expect(server.parts.get(note.id)).toMatchObject({ text: 'Vane low, bent\nVane low by 2 mm', version: 3 });
  });
});
