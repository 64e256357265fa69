import { createHash } from 'node:crypto';
import { readdirSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { v7 } from 'uuid';
import type { StudyDocument } from '../core/model/study-document.ts';
import { traceParts, trace } from '../core/forms/trace.ts';
import { recordOf } from '../core/record/record.ts';
import { keptIn } from './kept.ts';
import { sharedServer, testServer } from './testing.ts';

const server = await sharedServer();
const BASE = 'http://127.0.0.1:4680/api/v1';
const HOST = { host: '127.0.0.1:4680' };
const TABLE = 'time (s),Ama (°C)\n0,80\n60,75\n120,71\n';

async function keep(bytes: string | Uint8Array<ArrayBuffer>, to: Pick<typeof server, 'app'> = server) {
  const answer = await to.app.request(`${BASE}/files`, {
    method: 'POST',
    headers: { ...HOST, 'content-type': 'text/csv' },
    body: bytes,
  });
  return { status: answer.status, body: (await answer.json()) as Record<string, unknown> };
}
const fetched = (name: string, from: Pick<typeof server, 'app'> = server) =>
  from.app.request(`${BASE}/files/${name}`, { headers: HOST });

/** A study with a trace of one item, and a reading that was worked out from it. */
async function tracedStudy() {
  const { studyId, itemId } = await server.readyStudy();
  const kept = await keep(TABLE);
  const file = { name: 'night.csv', file: kept.body.name, bytes: kept.body.bytes, note: '' };
  const fileId = v7();
  const address = `/studies/${studyId}`;
  const added = await server.send('POST', `${address}/files`, {
    ...{ id: fileId, ...file, addedAt: '2026-05-04T10:00:00.000Z' },
  });
  expect(added.status).toBe(201);
  const measurandId = v7();
  const settings = { quantity: 'mean', readUnit: '°C' };
  const document = (await server.send('GET', `${address}/document`)).body as unknown as StudyDocument;
  const {
    id: _id,
    studyId: _s,
    version: _v,
    createdAt: _c,
    updatedAt: _u,
    ...like
  } = document.measurands[0] ?? {};
  const measurand = await server.send('POST', `${address}/measurands`, {
    ...{ ...like, id: measurandId, name: 'Night', form: 'trace', settings, unit: '°C' },
  });
  expect([measurand.status, measurand.body.errors]).toEqual([201, undefined]);
  const texts = traceParts(
    { value: 75.25, remarks: [] },
    { from: 0, to: 120 },
    { fileId, column: 'Ama (°C)' },
    settings,
  );
  const read = trace.read(texts, { unit: '°C', settings });
  const readingId = v7();
  const reading = await server.send('POST', `${address}/readings`, {
    ...{ id: readingId, itemId, measurandId, sessionId: null, round: 1, place: 0, levels: [] },
    ...{ parts: 'parts' in read ? read.parts : [], source: 'recording', takenAt: '2026-05-04T10:00:00.000Z' },
  });
  expect([reading.status, reading.body.errors]).toEqual([201, undefined]);
  return { studyId, fileId, measurandId, readingId, name: kept.body.name as string };
}

describe('a file that readings are worked out from', () => {
  it('is kept as it came, under its hash, once', async () => {
    const kept = await keep(TABLE);
    const hash = createHash('sha256').update(TABLE).digest('hex');
    expect(kept).toEqual({
      status: 201,
      body: { name: `${hash}.csv`, bytes: Buffer.byteLength(TABLE) },
    });
    expect((await keep(TABLE)).body).toEqual(kept.body);
    const back = await fetched(`${hash}.csv`);
    expect([back.status, await back.text()]).toEqual([200, TABLE]);
    expect(back.headers.get('cache-control')).toContain('immutable');
  });
  it('is refused where it is no text, and leaves nothing behind', async () => {
    const before = readdirSync(keptIn(server.folder).files).sort();
    expect((await keep('')).body.detail).toBe('The file is empty.');
    expect((await keep(new Uint8Array([0x52, 0x49, 0x46, 0x46, 0xff, 0xfe]))).status).toBe(415);
    expect((await keep('a,b\n\0')).status).toBe(415);
    expect(readdirSync(keptIn(server.folder).files).sort()).toEqual(before);
  });
  it.each(['..%2f..%2fbrackenridge.sqlite', `${'0'.repeat(64)}.csv`, 'x'])(
    'is not found as %s',
    async (name) => {
      expect((await fetched(name)).status).toBe(404);
    },
  );
  it('is named by a study as it was kept, and in no other way', async () => {
    const { studyId } = await server.readyStudy();
    const refused = await server.send('POST', `/studies/${studyId}/files`, {
      ...{ id: v7(), name: 'night.csv', file: '../../brackenridge.sqlite', bytes: 1, note: '' },
      addedAt: '2026-05-04T10:00:00.000Z',
    });
    expect([refused.status, refused.body.errors]).toEqual([
      422,
      [{ path: '/file', message: '“file” must be the name that keeping it gave.' }],
    ]);
  });
  it('stays while readings are worked out from it', async () => {
    const { studyId, fileId } = await tracedStudy();
    const address = `/studies/${studyId}/files/${fileId}`;
    const refused = await server.send('DELETE', `${address}?version=1`);
    expect(refused.body.detail).toBe('This file has 1 reading, so it stays in the record.');
    const renamed = await server.send('PATCH', address, { version: 1, name: 'First night.csv' });
    expect([renamed.status, renamed.body.name]).toEqual([200, 'First night.csv']);
  });
  it('makes a value that another setting does not take for its own', async () => {
    const { studyId, measurandId } = await tracedStudy();
    const value = async () => {
      const { body } = await server.send('GET', `/studies/${studyId}/document`);
      return recordOf(body as unknown as StudyDocument).readings[0]?.value;
    };
    expect(await value()).toBe(75.25);
    const other = { version: 1, settings: { quantity: 'peak', readUnit: '°C' } };
    expect((await server.send('PATCH', `/studies/${studyId}/measurands/${measurandId}`, other)).status).toBe(
      200,
    );
    expect(await value()).toBeNull();
  });
  it('goes along in a package, and copies point to their own', async () => {
    const { studyId, name, fileId } = await tracedStudy();
    const zip = await server.app.request(`${BASE}/studies/${studyId}/export.zip`, { headers: HOST });
    const other = await testServer();
    try {
      const taken = await other.app.request(`${BASE}/studies/import?copy=yes`, {
        method: 'POST',
        headers: { ...HOST, 'content-type': 'application/zip' },
        body: new Uint8Array(await zip.arrayBuffer()),
      });
      expect(taken.status).toBe(201);
      expect(await (await fetched(name, other)).text()).toBe(TABLE);
      const { study } = (await taken.json()) as { study: { id: string } };
      const copy = (await other.send('GET', `/studies/${study.id}/document`))
        .body as unknown as StudyDocument;
      const [file] = copy.files;
      expect([file?.name, file?.id === fileId]).toEqual(['night.csv', false]);
      expect(copy.readings[0]?.parts).toContainEqual({ name: 'file', text: file?.id, number: null });
    } finally {
      await other.close();
    }
  });
});
