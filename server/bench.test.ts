import { existsSync, readdirSync } from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import { v7 } from 'uuid';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { type Served, serveStandIn } from '../instruments/serve.ts';
import type { StudyPreview } from '../core/analysis/preview.ts';
import type { StudyDocument } from '../core/model/study-document.ts';
import type { Reading } from '../core/model/parts.ts';
import { newCondition, newSession } from '../core/plan/new-parts.ts';
import { StandIn } from '../instruments/stand-in.ts';
import { anemometer } from '../instruments/stand-ins/anemometer.ts';
import { type TestServer, testServer } from './testing.ts';

let server: TestServer;
beforeEach(async () => {
  server = await testServer();
});
afterEach(async () => {
  await server.close();
});

const HERE = 'http://127.0.0.1:4680';
const headers = { host: '127.0.0.1:4680' };

const sessionFields = (change: object = {}) => ({
  id: v7(),
  ...newSession('2026-05-04T10:00:00Z'),
  ...change,
});

describe('sessions and notes', () => {
  it('are recorded, changed by version, and point only to what is there', async () => {
    const { studyId } = await server.readyStudy();
    const session = sessionFields();
    expect((await server.send('POST', `/studies/${studyId}/sessions`, session)).status).toBe(201);
    const changed = await server.send('PATCH', `/studies/${studyId}/sessions/${session.id}`, {
      version: 1,
      endedAt: '2026-05-04T12:00:00Z',
    });
    expect(changed.body).toMatchObject({ version: 2, endedAt: '2026-05-04T12:00:00Z' });
    const stale = { version: 1, endedAt: null };
    expect((await server.send('PATCH', `/studies/${studyId}/sessions/${session.id}`, stale)).status).toBe(
      409,
    );
    const lost = sessionFields({ continuesId: v7() });
    const refused = await server.send('POST', `/studies/${studyId}/sessions`, lost);
    expect(refused.status).toBe(422);
    expect(refused.body.errors).toMatchObject([{ path: '/continuesId' }]);
    const note = {
      ...{ id: v7(), readingId: null, itemId: null, sessionId: session.id, run: null },
      ...{ text: 'Warm', photo: 'x.svg', removed: false, notedAt: '2026-05-04T10:00:00Z' },
    };
    expect((await server.send('POST', `/studies/${studyId}/notes`, note)).status).toBe(422);
    expect((await server.send('POST', `/studies/${studyId}/notes`, { ...note, photo: null })).status).toBe(
      201,
    );
    expect((await server.send('DELETE', `/studies/${studyId}/sessions/${session.id}?version=2`)).status).toBe(
      405,
    );
  });
});

describe('a condition that was read in a session', () => {
  it('stays in the plan, since the record speaks of it', async () => {
    const { studyId } = await server.readyStudy();
    const condition = {
      ...{ id: v7(), ...newCondition('Wind', 'm/s', 1) },
      limits: { low: null, high: 4 },
    };
    await server.send('POST', `/studies/${studyId}/conditions`, condition);
    const read = {
      conditionId: condition.id,
      at: 'start',
      takenAt: '2026-05-04T10:00:00Z',
      text: '3',
      number: 3,
    };
    await server.send('POST', `/studies/${studyId}/sessions`, sessionFields({ conditions: [read] }));
    const refused = await server.send('DELETE', `/studies/${studyId}/conditions/${condition.id}?version=1`);
    expect(refused.status).toBe(409);
    expect(refused.body.detail).toContain('1 session');
  });
});

describe('readings of a table', () => {
  const body = (itemId: string, measurandId: string, texts: string[], change: object = {}) => ({
    session: sessionFields({ kind: 'import', endedAt: '2026-05-04T10:00:00Z' }),
    items: [itemId],
    measurands: [measurandId],
    settings: [[]],
    rows: texts.map((text, i) => ({
      ...{ item: 0, measurand: 0, setting: 0, round: i + 1, texts: { value: text }, takenAt: null },
    })),
    ...change,
  });
  it('are written all together, once, whatever number of times they are sent', async () => {
    const { studyId, itemId, measurandId } = await server.readyStudy();
    const sent = body(itemId, measurandId, ['3', '4,5', '12 kg']);
    const page = await listen(studyId, v7(), false);
    expect((await server.send('POST', `/studies/${studyId}/import-readings`, sent)).status).toBe(201);
    // Pages that show the study are to fetch it again.
    expect(await page.next('refetch')).toBeDefined();
    await page.stop();
    expect((await server.send('POST', `/studies/${studyId}/import-readings`, sent)).status).toBe(200);
    const readings = (await server.send('GET', `/studies/${studyId}/readings`)).body as unknown as {
      parts: { number: number }[];
      source: string;
      sessionId: string;
      place: number;
    }[];
    expect(readings.map(({ parts }) => parts[0]?.number)).toEqual([3, 4.5, 12000]);
    expect(readings.map(({ place }) => place)).toEqual([0, 1, 2]);
    expect(new Set(readings.map(({ sessionId }) => sessionId))).toEqual(new Set([sent.session.id]));
  });
  it('are seen by others all at once, and not while they are being written', async () => {
    const { studyId, itemId, measurandId } = await server.readyStudy();
    const texts = Array.from({ length: 9000 }, (_, i) => String(i));
    const writer = { isDone: false };
    const writing = server
      .send('POST', `/studies/${studyId}/import-readings`, body(itemId, measurandId, texts))
      .finally(() => {
        writer.isDone = true;
      });
    const seen = new Set<number>();
    while (!writer.isDone) {
      const document = (await server.send('GET', `/studies/${studyId}/document`))
        .body as unknown as StudyDocument;
      seen.add(document.readings.length);
      const list = (await server.send('GET', '/studies')).body as unknown as {
        study: { id: string };
        preview: StudyPreview | null;
      }[];
      // None was made yet, perhaps.
      const preview = list.find(({ study }) => study.id === studyId)?.preview;
      expect([0, 3]).toContain(preview?.runs.done ?? 0);
    }
    expect((await writing).status).toBe(201);
    expect([...seen].every((count) => count === 0 || count === 9000)).toBe(true);
    expect(seen.has(0)).toBe(true);
  });
  it('are known to be written or not, also where that is asked while they are being written', async () => {
    const { studyId, itemId, measurandId } = await server.readyStudy();
    const ask = async (session: { id: string }) =>
      (await server.send('GET', `/studies/${studyId}/import-readings/${session.id}`)).body;
    const texts = Array.from({ length: 9000 }, (_, i) => String(i));
    const [good, bad] = [body(itemId, measurandId, texts), body(itemId, measurandId, [...texts, 'heavy'])];
    expect(await ask(good.session)).toEqual({ written: false });
    for (const [sent, written] of [
      [bad, false],
      [good, true],
    ] as const) {
      const writing = server.send('POST', `/studies/${studyId}/import-readings`, sent);
      // Once the request is read and checked it is in the queue of the writer.
      await new Promise((resolve) => setTimeout(resolve, 300));
      expect(await ask(sent.session)).toEqual({ written });
      await writing;
    }
    expect((await server.send('GET', `/studies/${v7()}/import-readings/${good.session.id}`)).status).toBe(
      404,
    );
  });
  it('are refused where they come as anything but JSON', async () => {
    const { studyId, itemId, measurandId } = await server.readyStudy();
    const text = JSON.stringify(body(itemId, measurandId, ['3']));
    const type = { 'content-type': 'text/plain' };
    const sent = await server.send('POST', `/studies/${studyId}/import-readings`, text, type);
    expect([sent.status, sent.body.title]).toEqual([415, 'Wrong media type']);
    expect((await server.send('GET', `/studies/${studyId}/readings`)).body).toEqual([]);
  });
  it('are refused as a whole where one of them is wrong, with its row', async () => {
    const { studyId, itemId, measurandId } = await server.readyStudy();
    const send = (change: object, texts = ['3', '4']) =>
      server.send('POST', `/studies/${studyId}/import-readings`, body(itemId, measurandId, texts, change));
    expect((await send({}, ['3', 'heavy'])).body.errors).toMatchObject([{ path: '/rows/1/texts' }]);
    expect((await send({ items: [v7()] })).body.errors).toMatchObject([{ path: '/rows/0/item' }]);
    expect((await send({ measurands: [] })).body.errors).toMatchObject([{ path: '/rows/0/measurand' }]);
    expect((await send({ settings: [[{ factorId: v7(), levelId: v7() }]] })).status).toBe(422);
    expect((await send({ settings: [] })).body.errors).toMatchObject([{ path: '/rows/0/setting' }]);
    expect((await send({ rows: [] })).status).toBe(422);
    // Some thousand rows are written already when this one is read.
    const late = Array.from({ length: 9000 }, (_, i) => (i === 8000 ? 'heavy' : String(i)));
    expect((await send({}, late)).body.errors).toMatchObject([{ path: '/rows/8000/texts' }]);
    expect((await server.send('GET', `/studies/${studyId}/readings`)).body).toEqual([]);
    expect((await server.send('GET', `/studies/${studyId}/sessions`)).body).toEqual([]);
    // Nothing is left half done: the same table without its bad row goes in, each in its place.
    const good = late.filter((text) => text !== 'heavy');
    expect((await send({}, good)).status).toBe(201);
    const written = (await server.send('GET', `/studies/${studyId}/readings`)).body as unknown as Reading[];
    expect(written.map(({ parts }) => parts[0]?.text)).toEqual(good);
    const ids = written.map(({ id }) => id);
    expect(ids).toEqual([...new Set(ids)].sort());
  });
});

describe('photos', () => {
  const send = (bytes: Uint8Array, type = 'image/jpeg') =>
    server.app.request(`${HERE}/api/v1/photos`, {
      method: 'POST',
      headers: { ...headers, 'content-type': type },
      body: new Uint8Array(bytes),
    });
  const jpeg = () =>
    sharp({ create: { width: 1600, height: 1200, channels: 3, background: '#a63' } })
      .jpeg()
      .withExifMerge({ IFD3: { GPSLatitude: '51/1 30/1 0/1' } })
      .withMetadata({ orientation: 6 })
      .toBuffer();
  it('are kept once under their hash, shown small, and without their place', async () => {
    const taken = await send(await jpeg());
    expect(taken.status).toBe(201);
    const first = (await taken.json()) as { name: string };
    const again = (await (await send(await jpeg())).json()) as { name: string };
    expect(again).toEqual(first);
    expect(first.name).toMatch(/^[0-9a-f]{64}\.jpg$/);
    expect(readdirSync(path.join(server.folder, 'photos'))).toHaveLength(2);
    const get = async (query: string) => {
      const answer = await server.app.request(`${HERE}/api/v1/photos/${first.name}${query}`, { headers });
      return { answer, head: await sharp(Buffer.from(await answer.arrayBuffer())).metadata() };
    };
    const shown = await get('');
    // Turned the right way up, and made smaller.
    expect([shown.head.format, shown.head.width, shown.head.height]).toEqual(['webp', 720, 960]);
    expect(shown.answer.headers.get('cache-control')).toContain('immutable');
    const original = await get('?original=yes');
    expect([shown, original].map(({ answer }) => answer.headers.get('content-type'))).toEqual([
      'image/webp',
      'image/jpeg',
    ]);
    expect([original.head.format, original.head.width, original.head.orientation]).toEqual(['jpeg', 1600, 6]);
    expect(Buffer.from(original.head.exif ?? []).length).toBeLessThan(60);
  });
  it.each([
    ['an executable', Buffer.from(`\u007fELF${'\0'.repeat(100)}`), 'image/png'],
    ['a drawing with a script', Buffer.from('<svg><script>alert(1)</script></svg>'), 'image/svg+xml'],
    ['the head of a picture and nothing behind it', undefined, 'image/jpeg'],
  ])('are not %s', async (_what, bytes, type) => {
    const answer = await send(bytes ?? (await jpeg()).subarray(0, 700), type);
    expect(answer.status).toBe(415);
    expect(existsSync(path.join(server.folder, 'photos'))).toBe(true);
    expect(readdirSync(path.join(server.folder, 'photos'))).toEqual([]);
  });
  it('are refused where what is behind a right head cannot be drawn', async () => {
    const chunk = (name: string, body: number[]) => [
      0,
      0,
      0,
      body.length,
      ...Buffer.from(name),
      ...body,
      0,
      0,
      0,
      0,
    ];
    // ISO/IEC 15948: 64 by 48, eight bits, colours; then data that are none.
    const broken = Buffer.from([
      ...[0x89, ...Buffer.from('PNG\r\n\u001a\n', 'latin1')],
      ...chunk('IHDR', [0, 0, 0, 64, 0, 0, 0, 48, 8, 2, 0, 0, 0]),
      ...chunk('IDAT', [1, 2, 3]),
      ...chunk('IEND', []),
    ]);
    const answer = await send(broken, 'image/png');
    expect(answer.status).toBe(415);
    expect(await answer.json()).toMatchObject({ detail: 'The picture is damaged: it cannot be drawn.' });
  });
  it('are looked for by their name only', async () => {
    for (const name of ['..%2F..%2Fbrackenridge.sqlite', `${'0'.repeat(64)}.jpg`, `${'0'.repeat(64)}.exe`]) {
      expect((await server.app.request(`${HERE}/api/v1/photos/${name}`, { headers })).status).toBe(404);
    }
  });
});

/** Reads server-sent events from the app as they come. */
async function listen(studyId: string, tab: string, bench: boolean) {
  const abort = new AbortController();
  const answer = await server.app.request(
    `${HERE}/api/v1/studies/${studyId}/live?tab=${tab}${bench ? '&bench=yes' : ''}`,
    { headers, signal: abort.signal },
  );
  const reader = answer.body?.getReader();
  const decoder = new TextDecoder();
  let held = '';
  const next = async (wanted: string): Promise<Record<string, unknown>> => {
    for (;;) {
      const end = held.indexOf('\n\n');
      if (end !== -1) {
        const block = held.slice(0, end);
        held = held.slice(end + 2);
        const event = /^event: (.*)$/m.exec(block)?.[1];
        const told = /^data: (.*)$/m.exec(block)?.[1] ?? '{}';
        if (event === wanted) return JSON.parse(told) as Record<string, unknown>;
        continue;
      }
      const chunk = await reader?.read();
      if (!chunk || chunk.done) throw new Error('the stream ended');
      held += decoder.decode(chunk.value, { stream: true });
    }
  };
  return {
    status: answer.status,
    next,
    stop: async () => {
      await reader?.cancel();
      abort.abort();
    },
  };
}

describe('what happens is told as it happens', () => {
  it('to every page at the study, and to none at another', async () => {
    const { studyId, itemId, measurandId } = await server.readyStudy();
    const other = await server.newStudy('Other');
    const here = await listen(studyId, v7(), false);
    const there = await listen(other, v7(), false);
    await here.next('hello');
    const reading = server.readingFields(itemId, measurandId, '3');
    await server.send('POST', `/studies/${studyId}/readings`, reading);
    expect(await here.next('part')).toMatchObject({ kind: 'readings', part: { id: reading.id } });
    await server.send('PATCH', `/studies/${other}`, { version: 1, question: 'Which?' });
    // The first that the other page hears is its own study's change.
    await there.next('hello');
    expect(await there.next('study')).toMatchObject({ study: { id: other, question: 'Which?' } });
    await here.stop();
    await there.stop();
  });
  it('says who is at the bench: the first to come, whoever takes over, the next when one leaves', async () => {
    const { studyId } = await server.readyStudy();
    const [firstTab, secondTab] = [v7(), v7()];
    const first = await listen(studyId, firstTab, true);
    expect(await first.next('hello')).toMatchObject({ holder: firstTab });
    const second = await listen(studyId, secondTab, true);
    expect(await second.next('hello')).toMatchObject({ holder: firstTab });
    await server.send('POST', `/studies/${studyId}/bench`, { tab: secondTab });
    expect(await second.next('bench')).toEqual({ holder: secondTab });
    await second.stop();
    for (;;) {
      const { holder } = await first.next('bench');
      if (holder === firstTab) break;
    }
    await first.stop();
  });
  it('once for a tab that was loaded again, and the bench stays with it', async () => {
    const { studyId } = await server.readyStudy();
    const [firstTab, secondTab] = [v7(), v7()];
    const old = await listen(studyId, firstTab, true);
    const waiting = await listen(studyId, secondTab, true);
    const again = await listen(studyId, firstTab, true);
    expect(await again.next('hello')).toMatchObject({ holder: firstTab });
    // The old connection is noticed to be gone only now.
    await old.stop();
    expect(await again.next('bench')).toEqual({ holder: firstTab });
    await waiting.stop();
    await again.stop();
  });
  it('of a takeover only where the tab is at the bench', async () => {
    const { studyId } = await server.readyStudy();
    const [tab, gone] = [v7(), v7()];
    const stream = await listen(studyId, tab, true);
    const refused = await server.send('POST', `/studies/${studyId}/bench`, { tab: gone });
    expect(refused.status).toBe(409);
    const again = await listen(studyId, v7(), false);
    expect(await again.next('hello')).toMatchObject({ holder: tab });
    await stream.stop();
    await again.stop();
  });
  it('says in which state a study was read, and which state it is in since', async () => {
    const studyId = await server.newStudy('Read and listened to');
    const read = await server.app.request(`${HERE}/api/v1/studies/${studyId}/document`, { headers });
    const page = await listen(studyId, v7(), false);
    expect((await page.next('hello')).state).toBe(read.headers.get('Study-State'));
    await server.send('POST', `/studies/${studyId}/items`, server.itemFields('Elm', 'E'));
    const told = await page.next('part');
    expect(told.state).not.toBe(read.headers.get('Study-State'));
    const later = await listen(studyId, v7(), false);
    expect((await later.next('hello')).state).toBe(told.state);
    await page.stop();
    await later.stop();
  });

  it('to nobody who does not say which tab it is, nor of a study that is not there', async () => {
    const { studyId } = await server.readyStudy();
    const ask = (address: string) => server.app.request(`${HERE}/api/v1${address}`, { headers });
    expect((await ask(`/studies/${studyId}/live?tab=1`)).status).toBe(400);
    expect((await ask(`/studies/${v7()}/live?tab=${v7()}`)).status).toBe(404);
  });
});

describe('instruments', () => {
  let served: Served;
  beforeEach(async () => {
    served = await serveStandIn(new StandIn(anemometer, 5), 0);
  });
  afterEach(async () => {
    await served.close();
  });
  it('are connected by address, read, told of in the stream, and let go', async () => {
    const { studyId } = await server.readyStudy();
    const stream = await listen(studyId, v7(), false);
    const made = await server.send('POST', '/instruments', { host: '127.0.0.1', port: served.port });
    expect(made.status).toBe(201);
    const id = String(made.body.id);
    for (;;) {
      const { instrument } = (await stream.next('instrument')) as { instrument: { state: string } };
      if (instrument.state === 'ready') break;
    }
    expect((await server.send('PUT', '/instruments/bench', { item: 'Brunnow', level: 2 })).status).toBe(204);
    const read = await server.send('POST', `/instruments/${encodeURIComponent(id)}/reading`);
    expect(read.body).toMatchObject({ id, unit: 'm/s' });
    served.trigger();
    expect(await stream.next('triggered')).toMatchObject({ reading: { id } });
    expect((await server.send('DELETE', `/instruments/${encodeURIComponent(id)}`)).status).toBe(204);
    expect(await stream.next('removed')).toEqual({ id });
    expect((await server.send('POST', `/instruments/${encodeURIComponent(id)}/reading`)).status).toBe(404);
    await stream.stop();
  });
  it('elsewhere are refused, and so is what is no address', async () => {
    const refused = await server.send('POST', '/instruments', { host: '192.0.2.1', port: 5025 });
    expect(refused.status).toBe(422);
    const [wrongHost] = refused.body.errors as unknown as { path: string; message: string }[];
    expect(wrongHost?.path).toBe('/host');
    expect(wrongHost?.message).toContain('allowed addresses');
    const short = await server.send('POST', '/instruments', { host: 'a', port: 5025 });
    expect(short.body.errors).toMatchObject([
      { message: expect.stringContaining('allowed addresses') as string },
    ]);
    for (const wrong of [
      { host: 'a b', port: 1 },
      { host: '127.0.0.1', port: 0 },
      { host: '127.0.0.1' },
      {},
    ]) {
      expect((await server.send('POST', '/instruments', wrong)).status).toBe(422);
    }
  });
});
