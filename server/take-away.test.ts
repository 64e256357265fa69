import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import deskFans from '../demo/desk-fans.json' with { type: 'json' };
import { restore } from './backup/backup.ts';
import { errorsOf, sharedServer } from './testing.ts';

const server = await sharedServer();

describe('taking away and bringing back', () => {
  const take = async (body: string, type: string, query = '') =>
    server.send('POST', `/studies/import${query}`, body, { 'content-type': type });
  const fans = JSON.stringify(deskFans);

  it('is the identity, by JSON and by CSV', async () => {
    const taken = await take(fans, 'application/json');
    expect(taken.status).toBe(201);
    expect(taken.body).toMatchObject({ readings: deskFans.readings.length, missing: 0 });
    const studyId = deskFans.study.id;
    const { body: document } = await server.send('GET', `/studies/${studyId}/document`);
    expect(document).toEqual(deskFans);
    const json = await server.app.request(`http://127.0.0.1:4680/api/v1/studies/${studyId}/export.json`, {
      headers: { host: '127.0.0.1:4680' },
    });
    const csv = await server.app.request(`http://127.0.0.1:4680/api/v1/studies/${studyId}/export.csv`, {
      headers: { host: '127.0.0.1:4680' },
    });
    expect(csv.headers.get('content-disposition')).toContain('desk-fans.csv');
    for (const [text, type] of [
      [await json.text(), 'application/json'],
      [await csv.text(), 'text/csv'],
    ] as const) {
      // Here already, and nothing differs.
      const same = await take(text, type);
      expect([same.status, same.body.already]).toEqual([200, true]);
      // Deleted and brought back from the file, it is the same study again.
      const { body: study } = await server.send('GET', `/studies/${studyId}`);
      await server.send('DELETE', `/studies/${studyId}?version=${String(study.version)}`);
      expect((await take(text, type)).status).toBe(201);
      expect((await server.send('GET', `/studies/${studyId}/document`)).body).toEqual(deskFans);
    }
  });
  it('gives readings as a plain table, as it is asked for', async () => {
    await take(fans, 'application/json');
    const ask = (query: string) => server.send('GET', `/studies/${deskFans.study.id}/readings.csv?${query}`);
    const [, , sound] = deskFans.measurands;
    const wide = await ask(`layout=wide&decimal=comma&measurand=${sound?.id ?? ''}`);
    expect(wide.headers.get('content-disposition')).toContain('desk-fans-readings.csv');
    expect(String(wide.body.text)).toMatch(/^round;Brunnow \(W\);/);
    expect(String((await ask('')).body.text)).toMatch(/^item,measurand,unit,value,round,taken at\r\n/);
    for (const [query, why] of [
      ['layout=tall', '“layout” is “long” or “wide”, not “tall”.'],
      ['decimal=;', '“decimal” is “point” or “comma”, not “;”.'],
    ] as const) {
      const refused = await ask(query);
      expect([refused.status, refused.body.detail]).toEqual([400, why]);
    }
    expect((await ask('layout=wide&measurand=none')).status).toBe(404);
  });
  it('gives everything as one file, which is brought back into an empty folder', async () => {
    await take(fans, 'application/json');
    const ask = (method: string) =>
      server.app.request('http://127.0.0.1:4680/api/v1/backup', {
        method,
        headers: { host: '127.0.0.1:4680' },
      });
    const head = await ask('HEAD');
    expect([head.status, await head.text()]).toEqual([200, '']);
    const answers = await Promise.all([ask('GET'), ask('GET')]);
    const folder = mkdtempSync(path.join(tmpdir(), 'brackenridge-whole-'));
    try {
      for (const [i, answer] of answers.entries()) {
        expect(answer.headers.get('content-disposition')).toMatch(
          /filename="brackenridge-\d{4}-\d\d-\d\d\.zip"/,
        );
        const bytes = Buffer.from(await answer.arrayBuffer());
        expect(String(bytes.length)).toBe(answer.headers.get('content-length'));
        const file = path.join(folder, `${String(i)}.zip`);
        writeFileSync(file, bytes);
        const about = await restore(file, path.join(folder, String(i)));
        expect(about.readings).toBeGreaterThanOrEqual(deskFans.readings.length);
      }
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
  });
  it('offers a copy when another version is here', async () => {
    await take(fans, 'application/json');
    const changed = structuredClone(deskFans);
    changed.study.title = 'Desk fans, changed';
    const clash = await take(JSON.stringify(changed), 'application/json');
    expect(clash.status).toBe(409);
    expect(clash.body.detail).toContain('as a copy');
    const copy = await take(JSON.stringify(changed), 'application/json', '?copy=yes');
    expect(copy.status).toBe(201);
    expect((copy.body.study as unknown as { id: string }).id).not.toBe(deskFans.study.id);
  });
  it('is open again where it had been deleted when its file was written', async () => {
    const deleted = structuredClone(deskFans);
    deleted.study.status = 'deleted';
    const copy = await take(JSON.stringify(deleted), 'application/json', '?copy=yes');
    expect([copy.status, copy.body.study]).toMatchObject([201, { status: 'open' }]);
  });
  it('tells where one field deep inside is wrong, and stores nothing', async () => {
    const before = (await server.send('GET', '/studies')).body.length;
    const damaged = structuredClone(deskFans) as { readings: { parts: { number: unknown }[] }[] };
    (damaged.readings[17] as { parts: { number: unknown }[] }).parts = [{ number: 'fast' }];
    const answer = await take(JSON.stringify(damaged), 'application/json', '?copy=yes');
    expect(answer.status).toBe(422);
    expect(errorsOf(answer.body)[0]?.path).toMatch(/^\/readings\/17\/parts\/0/);
    expect((await server.send('GET', '/studies')).body.length).toBe(before);
  });
  it('tells the line of a CSV that is wrong', async () => {
    const ragged = await take('item,value\nAma,3\nBel,4,5\n', 'text/csv');
    expect([ragged.status, ragged.body.detail]).toEqual([422, 'Line 3: 3 fields, where the header has 2.']);
    expect((await take('\u0000\u0001', 'text/csv')).body.detail).toBe('The file is not text.');
    expect((await take('item,value\nAma,3', 'image/png')).status).toBe(415);
    expect((await take('{"format":"other"}', 'application/json')).status).toBe(422);
    expect((await take('[]', 'application/json')).status).toBe(422);
  });
  it('makes a study of a plain table', async () => {
    const answer = await take('item;value\nAma;3,5\nBel;4\n', 'text/csv', '?title=Small%20table');
    expect(answer.status).toBe(201);
    expect(answer.body).toMatchObject({ readings: 2, missing: 0, study: { title: 'Small table' } });
  });
  it('takes a table of 20,000 readings', async () => {
    const rows = Array.from(
      { length: 20000 },
      (_, i) => `item ${String(i % 10)},${String(3 + (i % 7) / 10)}`,
    ).join('\n');
    const answer = await take(`item,value\n${rows}\n`, 'text/csv');
    expect(answer.body).toMatchObject({ readings: 20000 });
  });
});
