import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { NEW_STUDY } from '../../core/model/new-study.ts';
import { PART_KIND_NAMES } from '../../core/model/part-kinds.ts';
import { StudyDocument } from '../../core/model/study-document.ts';
import { newMeasurand } from '../../core/plan/new-parts.ts';
import { sharedServer } from '../testing.ts';
import { contentsOf, copyDatabase } from './copy.ts';
import { openWriter } from './open.ts';
import { allRows } from './statements.ts';

const server = await sharedServer();
const { committed, writer, write } = server.database;

const stamp = { version: 1, createdAt: '2026-05-04T10:00:00.000Z', updatedAt: '2026-05-04T10:00:00.000Z' };
const study = (id: string) => ({
  ...{ id, ...stamp, title: 'T', question: '' },
  ...{ ...NEW_STUDY, rounds: 1, seed: 1 },
});

describe('the database', () => {
  it('writes ahead, waits for the disk and holds to its references', async () => {
    const { sequelize, writer: connection } = await openWriter(path.join(server.folder, 'settings.sqlite'));
    const pragma = async (name: string) =>
      Object.values((await allRows(connection, `PRAGMA ${name}`))[0] ?? {})[0];
    expect(await pragma('journal_mode')).toBe('wal');
    expect(await pragma('synchronous')).toBe(2); // FULL
    expect(await pragma('foreign_keys')).toBe(1);
    await sequelize.close();
  });
  it.each(['studies', ...PART_KIND_NAMES] as const)('has the fields of its schema in %s', async (table) => {
    const columns = await server.sql(`PRAGMA table_info(${table})`);
    const { properties } =
      table === 'studies' ? StudyDocument.properties.study : StudyDocument.properties[table].items;
    expect(new Set(columns.map(({ name }) => name))).toEqual(new Set(['seq', ...Object.keys(properties)]));
  });
  it('says of a copy whether it is whole', async () => {
    await write(() => writer.insert('studies', [study('whole')]), { transaction: true });
    const copy = path.join(server.folder, 'copy.sqlite');
    await copyDatabase(path.join(server.folder, 'brackenridge.sqlite'), copy);
    expect(await contentsOf(copy)).toMatchObject({ studies: await committed.count('studies', {}) });
    // The file goes on as a database, and its second page says nothing.
    const bytes = readFileSync(copy);
    writeFileSync(copy, bytes.fill(0, 4096, 8192));
    expect(await contentsOf(copy)).toBeUndefined();
  });
  it('writes nothing where a field holds nothing, structured or not', async () => {
    await write(() => writer.insert('studies', [study('nothing')]));
    const measurand = {
      ...stamp,
      studyId: 'nothing',
      ...newMeasurand('Pull', 1),
      spec: null,
      expression: null,
    };
    await write(() => writer.insert('measurands', [{ ...measurand, id: 'nothing' }]));
    const [types] = await server.sql(
      `SELECT typeof(spec) AS spec, typeof(expression) AS expression, typeof(margin) AS margin FROM measurands WHERE id = 'nothing'`,
    );
    expect(types).toEqual({ spec: 'null', expression: 'null', margin: 'text' });
  });
  it('undoes a transaction that fails half way', async () => {
    const before = await committed.count('studies', {});
    const failing = write(
      async () => {
        await writer.insert('studies', [study('x')]);
        throw new Error('half way');
      },
      { transaction: true },
    );
    await expect(failing).rejects.toThrow('half way');
    expect(await committed.count('studies', {})).toBe(before);
  });
  it('shows what is being written to the writer alone, and a snapshot as it was', async () => {
    const snapshot = await server.database.snapshot();
    expect(await snapshot.count('studies', { id: 'y' })).toBe(0);
    await write(
      async () => {
        await writer.insert('studies', [study('y')]);
        expect(await writer.count('studies', { id: 'y' })).toBe(1);
        expect(await committed.count('studies', { id: 'y' })).toBe(0);
      },
      { transaction: true },
    );
    expect(await committed.count('studies', { id: 'y' })).toBe(1);
    expect(await snapshot.count('studies', { id: 'y' })).toBe(0);
    await snapshot.close();
  });
  it('says why it refuses something', async () => {
    const refusal = async (work: () => Promise<void>) => {
      try {
        await write(work);
        return 'nothing';
      } catch (error) {
        return server.database.refusal(error);
      }
    };
    await write(() => writer.insert('studies', [study('z')]));
    expect(await refusal(() => writer.insert('studies', [study('z')]))).toBe('taken');
    const item = { ...server.itemFields('Ama', 'A'), ...stamp, studyId: 'nowhere' };
    expect(await refusal(() => writer.insert('items', [item]))).toBe('dangling');
    expect(await refusal(() => Promise.reject(new Error('something else')))).toBeUndefined();
  });
  it('finds ids among many, and within lists', async () => {
    const ids = Array.from({ length: 1200 }, (_, i) => `none ${String(i)}`);
    await write(() => writer.insert('studies', [study('w')]));
    const item = server.itemFields('Ama', 'A');
    await write(() => writer.insert('items', [{ ...item, ...stamp, studyId: 'w', attributes: ['an-id'] }]));
    expect(await committed.hasAny('items', ids)).toBe(false);
    expect(await committed.hasAny('items', [...ids, item.id])).toBe(true);
    expect(await committed.countNaming('items', 'w', 'attributes', 'an-id')).toBe(1);
    expect(await committed.countNaming('items', 'y', 'attributes', 'an-id')).toBe(0);
    expect(await committed.hasMore('items', 'w', 0)).toBe(true);
    expect(await committed.hasMore('items', 'w', 1)).toBe(false);
    expect(await committed.hasMore('items', 'y', 0)).toBe(false);
  });
});

describe('the published schema', () => {
  it('is the one that the server checks by', () => {
    const published: unknown = JSON.parse(
      readFileSync(new URL('../../docs/study.schema.json', import.meta.url), 'utf8'),
    );
    expect(published).toEqual(JSON.parse(JSON.stringify(StudyDocument)));
  });
});
