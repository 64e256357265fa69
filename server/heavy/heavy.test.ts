import { mkdtempSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { once } from 'node:events';
import { tmpdir } from 'node:os';
import type { Worker } from 'node:worker_threads';
import path from 'node:path';
import { v7 } from 'uuid';
import { describe, expect, it, vi } from 'vitest';
import { newSession } from '../../core/plan/new-parts.ts';
import { EMPTY } from '../../core/model/new-study.ts';
import type { Reading } from '../../core/model/parts.ts';
import type { StudyDocument } from '../../core/model/study-document.ts';
import { BUILT_THREAD, sharedServer } from '../testing.ts';
import { Heavy } from './heavy.ts';

const server = await sharedServer();
const DEMO = path.join(import.meta.dirname, '../../demo');
const demo = (file: string) => JSON.parse(readFileSync(path.join(DEMO, file), 'utf8')) as StudyDocument;

/** A study of many readings, with numbers that only a double with all its digits holds. */
function large(count: number): StudyDocument {
  const aerators = demo('tap-aerators.json');
  const [item, measurand] = [aerators.items[0], aerators.measurands[0]];
  const id = v7();
  const stamp = {
    studyId: id,
    version: 1,
    createdAt: aerators.study.createdAt,
    updatedAt: '2026-07-04T09:00:00.000Z',
  };
  const itemId = v7();
  const measurandId = v7();
  const attributes = [{ name: 'Mass', value: 0.1 + 0.2, unit: 'g' }];
  const readings = Array.from({ length: count }, (_, i) => ({
    ...{ id: v7(), ...stamp, itemId, measurandId, sessionId: null, round: 1 + i, place: i, levels: [] },
    parts: [{ name: 'value', text: String(i / 7), number: i / 7 }],
    ...{ source: 'typed', takenAt: '2026-07-04T09:00:00.000Z' },
  })) as Reading[];
  return {
    ...aerators,
    ...EMPTY,
    study: { ...aerators.study, id, reorders: [], deviations: [] },
    items: [{ ...item, ...stamp, id: itemId, position: 1 / 3, attributes }],
    measurands: [{ ...measurand, ...stamp, id: measurandId, position: 2 / 3, onItems: null }],
    readings,
  } as StudyDocument;
}

const get = async <T>(address: string) => (await server.send('GET', address)).body as unknown as T;

describe('a study that is read and written piece by piece', () => {
  it('comes out as it went in, to the last digit, whatever is in it', async () => {
    for (const document of [
      large(4500),
      ...readdirSync(DEMO)
        .filter((name) => name.endsWith('.json'))
        .map(demo),
    ]) {
      expect((await server.send('POST', '/studies/import', document)).status).toBe(201);
      const { id } = document.study;
      expect(await get(`/studies/${id}/document`)).toEqual(document);
      expect(await get(`/studies/${id}/export.json`)).toEqual(document);
    }
  });

  it('can be fetched some readings at a time', async () => {
    const document = large(2500);
    const { id } = document.study;
    await server.send('POST', '/studies/import', document);
    const head = await get<StudyDocument>(`/studies/${id}/document?readings=1000`);
    expect(head.readings).toEqual(document.readings.slice(0, 1000));
    const behind = (reading: Reading | undefined, most: number) =>
      get(`/studies/${id}/readings-behind/${reading?.id ?? ''}?most=${String(most)}`);
    expect(await behind(document.readings[999], 1000)).toEqual(document.readings.slice(1000, 2000));
    expect(await behind(document.readings[1999], 1000)).toEqual(document.readings.slice(2000));
    expect(await behind(document.readings[2499], 1000)).toEqual([]);
    expect((await server.send('GET', `/studies/${id}/document?readings=x`)).status).toBe(400);
    expect((await server.send('GET', `/studies/${v7()}/document`)).status).toBe(404);
    expect((await server.send('GET', `/studies/${id}/readings-behind/${v7()}`)).status).toBe(404);
  });

  it('that is sent twice at once is written once', async () => {
    const document = large(3000);
    const sent = await Promise.all([1, 2].map(() => server.send('POST', '/studies/import', document)));
    expect(new Set(sent.map(({ status }) => status))).toEqual(new Set([200, 201]));
    expect(await get(`/studies/${document.study.id}/document`)).toEqual(document);
  });

  it('is not seen before it is complete, and can be read in again when it was broken off', async () => {
    const document = large(9000);
    const { id } = document.study;
    const importing = server.send('POST', '/studies/import', document);
    const shown = () =>
      get<{ study: { id: string } }[]>('/studies').then((list) => list.some(({ study }) => study.id === id));
    const reading = async () =>
      Number((await server.sql('SELECT count(*) AS n FROM readings WHERE studyId = ?', [id]))[0]?.n);
    while ((await reading()) === 0) await new Promise((resolve) => setTimeout(resolve, 5));
    if ((await reading()) < 9000) expect(await shown()).toBe(false);
    expect((await importing).status).toBe(201);
    expect(await shown()).toBe(true);
    // As a server leaves it that was killed in the middle.
    await server.sql('DELETE FROM readings WHERE studyId = ? AND place > 4000', [id]);
    await server.sql("UPDATE studies SET status = 'deleted' WHERE id = ?", [id]);
    expect((await server.send('POST', '/studies/import', document)).status).toBe(201);
    expect(await get(`/studies/${id}/document`)).toEqual(document);
  });
});

describe('long work that is watched', () => {
  interface Said {
    doing: string;
    share: number | null;
  }
  const headers = { host: '127.0.0.1:4680' };
  const said = async (name: string) =>
    (await (
      await server.app.request(`http://127.0.0.1:4680/api/v1/under-way/${name}`, { headers })
    ).json()) as Said | null;

  it('says how far it has come, and nothing once it is over', async () => {
    const document = large(9000);
    const name = v7();
    const over = new AbortController();
    const importing = server.send('POST', `/studies/import?under-way=${name}`, document).finally(() => {
      over.abort();
    });
    const heard: Said[] = [];
    while (!over.signal.aborted) {
      const progress = await said(name);
      if (progress) heard.push(progress);
      await new Promise((resolve) => setTimeout(resolve, 5));
    }
    expect((await importing).status).toBe(201);
    expect(new Set(heard.map(({ doing }) => doing))).toContain('Writing it down');
    const shares = heard.flatMap(({ share }) => share ?? []);
    expect(shares.length).toBeGreaterThan(0);
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    expect(shares.every((share) => share > 0 && share <= 1)).toBe(true);
    expect(await said(name)).toBeNull();
    expect((await server.send('GET', `/studies/${v7()}/export.zip?under-way=x`)).status).toBe(404);
    const { id } = document.study;
    expect((await server.send('GET', `/studies/${id}/export.zip?under-way=x`)).status).toBe(400);
  });

  it.each(['export.zip', 'export.csv', 'readings.csv'])(
    '%s can be stopped, and leaves no file',
    async (file) => {
      const document = large(9900);
      const { id } = document.study;
      expect((await server.send('POST', '/studies/import', document)).status).toBe(201);
      // A place of its own for what is made on the way: other tests make theirs meanwhile.
      const place = mkdtempSync(path.join(tmpdir(), 'brackenridge-stopped-'));
      vi.stubEnv('TMPDIR', place);
      const stopping = new AbortController();
      const name = v7();
      const asked = server.app.request(
        `http://127.0.0.1:4680/api/v1/studies/${id}/${file}?under-way=${name}`,
        {
          headers: { host: '127.0.0.1:4680' },
          signal: stopping.signal,
        },
      );
      while (!(await said(name))) await new Promise((resolve) => setTimeout(resolve, 1));
      stopping.abort();
      const answer = await asked;
      expect([answer.status, ((await answer.json()) as { title: string }).title]).toEqual([409, 'Stopped']);
      expect(readdirSync(place)).toEqual([]);
      vi.unstubAllEnvs();
      rmSync(place, { recursive: true });
    },
  );

  it('an import that is stopped leaves nothing, and can be done again', async () => {
    const document = large(9900);
    const { id } = document.study;
    const stopping = new AbortController();
    const name = v7();
    const asked = server.app.request(`http://127.0.0.1:4680/api/v1/studies/import?under-way=${name}`, {
      method: 'POST',
      headers: { ...headers, 'content-type': 'application/json' },
      body: JSON.stringify(document),
      signal: stopping.signal,
    });
    await expect
      .poll(() => said(name), { interval: 1, timeout: 20000 })
      .toMatchObject({ doing: 'Writing it down' });
    stopping.abort();
    expect((await asked).status).toBe(409);
    expect((await server.send('GET', `/studies/${id}`)).status).toBe(404);
    const left = await server.sql('SELECT count(*) AS n FROM readings WHERE studyId = ?', [id]);
    expect(left[0]?.n).toBe(0);
    expect((await server.send('POST', '/studies/import', document)).status).toBe(201);
  });

  it('lets what is in the middle of a statement end before the thread does', async () => {
    const document = large(9900);
    const { id } = document.study;
    expect((await server.send('POST', '/studies/import', document)).status).toBe(201);
    const codes: number[] = [];
    const note = (thread: Worker) => thread.on('exit', (code) => codes.push(code));
    process.on('worker', note);
    const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
    const reads = { studyId: id, file: path.join(server.folder, 'x.csv') };
    for (const startedFor of [0, 100]) {
      const heavy = new Heavy(BUILT_THREAD, server.file);
      heavy.run('exportCsv', reads).catch(() => undefined);
      await wait(startedFor);
      await heavy.close();
    }
    for (const readingFor of [0, 20, 60]) {
      const heavy = new Heavy(BUILT_THREAD, server.file);
      await new Promise<void>((resolve) => {
        const say = () => {
          resolve();
        };
        heavy.run('exportCsv', reads, { say }).catch(() => undefined);
      });
      await wait(readingFor);
      await heavy.close();
    }
    process.off('worker', note);
    expect(codes).toEqual([0, 0, 0, 0, 0]);
  });

  it('gives back what it held when nothing is asked of it, and starts again', async () => {
    const threads: Worker[] = [];
    const count = (thread: Worker) => threads.push(thread);
    process.on('worker', count);
    // As it stands, as in development.
    const heavy = new Heavy(path.join(import.meta.dirname, 'worker.ts'), server.file, 20);
    const ask = () => heavy.run('ranking', { studyId: v7(), measurandId: v7() });
    await expect(ask()).rejects.toThrow('There is no study with this id.');
    await once(threads[0] as Worker, 'exit');
    await expect(ask()).rejects.toThrow('There is no study with this id.');
    expect(threads).toHaveLength(2);
    await heavy.close();
    process.off('worker', count);
  });
});

describe('a study that was deleted', () => {
  it('takes nothing, and is not given up for a file that has less', async () => {
    const { studyId, itemId, measurandId } = await server.readyStudy();
    const older = await get<StudyDocument>(`/studies/${studyId}/document`);
    const record = (text: string) =>
      server.send('POST', `/studies/${studyId}/readings`, server.readingFields(itemId, measurandId, text));
    expect((await record('1')).status).toBe(201);
    expect((await server.send('DELETE', `/studies/${studyId}?version=1`)).status).toBe(200);
    const refused = await record('2');
    expect([refused.status, refused.body.title]).toEqual([409, 'Deleted']);
    const sent = await server.send('POST', '/studies/import', older);
    expect([sent.status, sent.body.title]).toEqual([409, 'Already here']);
    await server.send('PATCH', `/studies/${studyId}`, { version: 2, status: 'open' });
    expect((await get<StudyDocument>(`/studies/${studyId}/document`)).readings).toHaveLength(1);
    expect((await record('2')).status).toBe(201);
  });
});

describe('what the list shows of a study', () => {
  interface Listed {
    study: { id: string };
    preview: { runs: { done: number } } | null;
    renewing?: boolean;
  }
  const listed = async (id: string): Promise<Listed | undefined> => {
    for (;;) {
      const found = (await get<Listed[]>('/studies')).find(({ study }) => study.id === id);
      if (!found?.renewing) return found;
    }
  };

  it('is kept, and made again for what was written since', async () => {
    const { studyId, itemId, measurandId } = await server.readyStudy();
    expect((await listed(studyId))?.preview?.runs.done).toBe(0);
    const record = (text: string, round: number) =>
      server.send(
        'POST',
        `/studies/${studyId}/readings`,
        server.readingFields(itemId, measurandId, text, round),
      );
    await record('1', 1);
    expect((await listed(studyId))?.preview?.runs.done).toBe(1);
    const made = () => server.sql('SELECT made FROM previews WHERE studyId = ?', [studyId]);
    const before = await made();
    await listed(studyId);
    expect(await made()).toEqual(before);
    await record('2', 2);
    expect((await listed(studyId))?.preview?.runs.done).toBe(2);
  });

  it('is missing for one that cannot be shown, and the others are there', async () => {
    const { studyId } = await server.readyStudy();
    const { studyId: broken } = await server.readyStudy();
    await server.sql(`UPDATE items SET attributes = 'no JSON' WHERE studyId = ?`, [broken]);
    expect((await listed(broken))?.preview).toBeNull();
    expect((await listed(studyId))?.preview?.runs.done).toBe(0);
    await server.sql(`UPDATE items SET attributes = '[]' WHERE studyId = ?`, [broken]);
    expect((await listed(broken))?.preview?.runs.done).toBe(0);
  });
});

describe('readings of a table under a session that is there', () => {
  it('are refused unless they are the same', async () => {
    const { studyId, itemId, measurandId } = await server.readyStudy();
    const { studyId: other } = await server.readyStudy();
    const time = '2026-07-04T09:00:00.000Z';
    const session = { id: v7(), ...newSession(time), kind: 'import', endedAt: time };
    const rows = (texts: string[]) => ({
      session,
      items: [itemId],
      measurands: [measurandId],
      settings: [[]],
      rows: texts.map((value, i) => ({
        item: 0,
        measurand: 0,
        setting: 0,
        round: 1 + i,
        texts: { value },
        takenAt: null,
      })),
    });
    const send = (id: string, texts: string[]) =>
      server.send('POST', `/studies/${id}/import-readings`, rows(texts));
    const first = await send(studyId, ['1', '2']);
    expect(first.body).toEqual({ readings: 2 });
    expect((await send(studyId, ['1', '2'])).status).toBe(200);
    expect((await send(studyId, ['1', '2', '3'])).status).toBe(409);
    expect((await send(other, ['1', '2'])).status).toBe(409);
  });
});
