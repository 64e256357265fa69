import { readFileSync, readdirSync } from 'node:fs';
import path from 'node:path';
import { v7 } from 'uuid';
import { describe, expect, it } from 'vitest';
import { newSession } from '../../core/plan/new-parts.ts';
import { EMPTY } from '../../core/model/new-study.ts';
import type { Reading } from '../../core/model/parts.ts';
import type { StudyDocument } from '../../core/model/study-document.ts';
import { allRows, runSql } from '../db/rows.ts';
import { sharedServer } from '../testing.ts';

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
    expect(sent.map(({ status }) => status).sort()).toEqual([200, 201]);
    expect(await get(`/studies/${document.study.id}/document`)).toEqual(document);
  });

  it('is not seen before it is complete, and can be read in again when it was broken off', async () => {
    const document = large(9000);
    const { id } = document.study;
    const importing = server.send('POST', '/studies/import', document);
    const shown = () =>
      get<{ study: { id: string } }[]>('/studies').then((list) => list.some(({ study }) => study.id === id));
    const reading = async () =>
      Number(
        (
          await allRows(server.database.reader, 'SELECT count(*) AS n FROM readings WHERE studyId = ?', [id])
        )[0]?.n,
      );
    while ((await reading()) === 0) await new Promise((resolve) => setTimeout(resolve, 5));
    if ((await reading()) < 9000) expect(await shown()).toBe(false);
    expect((await importing).status).toBe(201);
    expect(await shown()).toBe(true);
    // As a server leaves it that was killed in the middle.
    await runSql(server.database.sequelize, 'DELETE FROM readings WHERE studyId = ? AND place > 4000', [id]);
    await runSql(server.database.sequelize, "UPDATE studies SET status = 'deleted' WHERE id = ?", [id]);
    expect((await server.send('POST', '/studies/import', document)).status).toBe(201);
    expect(await get(`/studies/${id}/document`)).toEqual(document);
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
    const made = () =>
      allRows(server.database.reader, 'SELECT made FROM previews WHERE studyId = ?', [studyId]);
    const before = await made();
    await listed(studyId);
    expect(await made()).toEqual(before);
    await record('2', 2);
    expect((await listed(studyId))?.preview?.runs.done).toBe(2);
  });

  it('is missing for one that cannot be shown, and the others are there', async () => {
    const { studyId } = await server.readyStudy();
    const { studyId: broken } = await server.readyStudy();
    await runSql(server.database.sequelize, `UPDATE items SET attributes = 'no JSON' WHERE studyId = ?`, [
      broken,
    ]);
    expect((await listed(broken))?.preview).toBeNull();
    expect((await listed(studyId))?.preview?.runs.done).toBe(0);
    await runSql(server.database.sequelize, `UPDATE items SET attributes = '[]' WHERE studyId = ?`, [broken]);
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
