import { createHash } from 'node:crypto';
import { mkdtempSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { v7 } from 'uuid';
import type { StudyDocument } from '../core/model/study-document.ts';
import { traceParts, trace } from '../core/forms/trace.ts';
import { recordOf } from '../core/record/record.ts';
import { wavOf } from '../instruments/recorder.ts';
import { keptIn } from './kept.ts';
import { fileRoutes } from './routes/files.ts';
import { errorsOf, sharedServer, testServer } from './testing.ts';

const server = await sharedServer();
const BASE = 'http://127.0.0.1:4680/api/v1';
const HOST = { host: '127.0.0.1:4680' };
const TABLE = 'time (s),Ama (°C)\n0,80\n60,75\n120,71\n';

async function keep(
  bytes: string | Uint8Array<ArrayBuffer>,
  to: Pick<typeof server, 'app'> = server,
  type = 'text/csv',
) {
  const answer = await to.app.request(`${BASE}/files`, {
    method: 'POST',
    headers: { ...HOST, 'content-type': type },
    body: bytes,
  });
  return { status: answer.status, body: (await answer.json()) as Record<string, unknown> };
}
const fetched = (name: string, from: Pick<typeof server, 'app'> = server, headers = {}) =>
  from.app.request(`${BASE}/files/${name}`, { headers: { ...HOST, ...headers } });
/** A second of a tone. */
const SOUND = new Uint8Array(
  wavOf(
    Float64Array.from({ length: 8000 }, (_, k) => Math.sin(k / 3) / 2),
    8000,
  ),
);

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
    // Nobody else on the machine reads it.
    expect(statSync(path.join(keptIn(server.folder).files, `${hash}.csv`)).mode & 0o777).toBe(0o600);
    expect(back.headers.get('cache-control')).toContain('immutable');
  });
  it('is refused where it is no text, and leaves nothing behind', async () => {
    const before = readdirSync(keptIn(server.folder).files).sort();
    expect((await keep('')).body.detail).toBe('The file is empty.');
    expect((await keep(new Uint8Array([0x52, 0x49, 0x46, 0x46, 0xff, 0x01]))).status).toBe(415);
    expect((await keep('a,b\n\0')).status).toBe(415);
    expect(readdirSync(keptIn(server.folder).files).sort()).toEqual(before);
  });
  it('is a recording where it comes as one, and is sent in pieces', async () => {
    const kept = await keep(SOUND, server, 'audio/wav');
    const name = `${createHash('sha256').update(SOUND).digest('hex')}.wav`;
    expect(kept).toEqual({ status: 201, body: { name, bytes: SOUND.length } });
    const whole = await fetched(name);
    expect(whole.headers.get('content-length')).toBe(String(SOUND.length));
    expect([whole.status, whole.headers.get('content-type'), whole.headers.get('accept-ranges')]).toEqual([
      200,
      'audio/wav',
      'bytes',
    ]);
    expect(new Uint8Array(await whole.arrayBuffer())).toEqual(SOUND);
    for (const [range, from, to] of [
      ['bytes=100-199', 100, 200],
      ['bytes=15000-', 15000, SOUND.length],
      ['bytes=0-99999999', 0, SOUND.length],
      ['bytes=7-7', 7, 8],
    ] as const) {
      const part = await fetched(name, server, { range });
      expect([part.status, part.headers.get('content-length'), part.headers.get('content-range')]).toEqual([
        206,
        String(to - from),
        `bytes ${String(from)}-${String(to - 1)}/${String(SOUND.length)}`,
      ]);
      expect(new Uint8Array(await part.arrayBuffer())).toEqual(SOUND.slice(from, to));
    }
    for (const range of ['bytes=99999999-', 'bytes=20-10', 'bytes=-5', 'lines=1-2', 'bytes=0-1,5-6'])
      expect((await fetched(name, server, { range })).status).toBe(416);
  });
  it.each([
    ['empty', new Uint8Array(0), 'The file is empty.'],
    ['an MP3', new TextEncoder().encode('ID3 and so on, and so on'), 'This is no WAV file but an MP3.'],
    ['half a head', SOUND.slice(0, 30), 'The file’s format is cut off.'],
  ])('is refused as a recording where it is %s', async (_what, bytes, sentence) => {
    const before = readdirSync(keptIn(server.folder).files).length;
    const refused = await keep(bytes, server, 'audio/wav');
    expect([refused.status, refused.body.detail]).toEqual([415, sentence]);
    expect(readdirSync(keptIn(server.folder).files)).toHaveLength(before);
  });
  it('that was arriving when the server was killed is cleared away, and no other', () => {
    const folder = mkdtempSync(path.join(tmpdir(), 'brackenridge-files-'));
    try {
      for (const name of ['0190.part', `${'a'.repeat(64)}.csv`, 'running.log'])
        writeFileSync(path.join(folder, name), 'x');
      fileRoutes(folder);
      expect(readdirSync(folder).sort()).toEqual([`${'a'.repeat(64)}.csv`, 'running.log']);
    } finally {
      rmSync(folder, { recursive: true });
    }
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

describe('the files of a study', () => {
  it('are together no more than a package can carry', async () => {
    const { studyId } = await server.readyStudy();
    const add = (bytes: number) =>
      server.send('POST', `/studies/${studyId}/files`, {
        ...{ id: v7(), name: 'long.wav', file: `${'a'.repeat(64)}.wav`, bytes, note: '' },
        addedAt: '2026-05-04T10:00:00.000Z',
      });
    expect((await add(10e9)).status).toBe(201);
    const refused = await add(10e9);
    expect([refused.status, refused.body.errors]).toEqual([
      422,
      [
        {
          path: '/files',
          message: 'The files of a study take at most 16 GB together; these take 20.0 GB.',
        },
      ],
    ]);
  });
});

describe('a calibration of a recorder', () => {
  const stamp = { calibratedAt: '2026-05-04T10:00:00.000Z', instrument: 'Recorder', note: '' };
  const typed = { ...stamp, fullScale: 113.2, fileId: null, channel: null, toneFrom: null, toneTo: null };
  const add = (studyId: string, change: object) =>
    server.send('POST', `/studies/${studyId}/calibrations`, {
      ...{ id: v7(), ...typed, toneLevel: null },
      ...change,
    });

  it('is kept with the tone that it comes from, and stays as it was', async () => {
    const { studyId, fileId } = await tracedStudy();
    const tone = { fileId, channel: 1, toneFrom: 1, toneTo: 4, toneLevel: 94 };
    const made = await add(studyId, tone);
    expect(made.status).toBe(201);
    const address = `/studies/${studyId}/calibrations/${String(made.body.id)}`;
    const named = await server.send('PATCH', address, { version: 1, note: 'with a new battery' });
    expect([named.status, named.body.note, named.body.fullScale]).toEqual([200, 'with a new battery', 113.2]);
    expect((await server.send('PATCH', address, { version: 2, fullScale: 90 })).status).toBe(422);
    const file = await server.send('DELETE', `/studies/${studyId}/files/${fileId}?version=1`);
    expect(file.body.detail).toContain('1 calibration');
    const gone = await server.send('DELETE', `${address}?version=2`);
    expect(gone.status).toBe(204);
  });
  it('is refused where its tone is half said', async () => {
    const { studyId, fileId } = await tracedStudy();
    const tone = { fileId, channel: 1, toneFrom: 4, toneTo: 1, toneLevel: 94 };
    const errors = async (change: object) => errorsOf((await add(studyId, change)).body);
    expect(await errors(tone)).toEqual([{ path: '/toneTo', message: 'The tone ends before it begins.' }]);
    expect(await errors({ ...tone, toneFrom: 0, channel: null })).toEqual([
      { path: '/channel', message: 'A tone has a channel, its two ends, and a level.' },
    ]);
    expect(await errors({ toneLevel: 94 })).toEqual([
      { path: '/toneLevel', message: 'There is no tone without a file.' },
    ]);
    expect((await errors({ fileId: v7() }))[0]?.message).toContain('has no file with this id');
  });
});
