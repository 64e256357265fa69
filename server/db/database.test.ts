import { readFileSync } from 'node:fs';
import { QueryTypes } from 'sequelize';
import { describe, expect, it } from 'vitest';
import { NEW_STUDY } from '../../core/model/new-study.ts';
import { PART_KIND_NAMES } from '../../core/model/part-kinds.ts';
import { StudyDocument } from '../../core/model/study-document.ts';
import { sharedServer } from '../testing.ts';

const server = await sharedServer();

const pragma = async (name: string) => {
  const [row] = await server.database.sequelize.query(`PRAGMA ${name}`, { type: QueryTypes.SELECT });
  return Object.values(row as object)[0] as unknown;
};

describe('the database', () => {
  it('writes ahead, waits for the disk and holds to its references', async () => {
    expect(await pragma('journal_mode')).toBe('wal');
    expect(await pragma('synchronous')).toBe(2); // FULL
    expect(await pragma('foreign_keys')).toBe(1);
  });
  it.each(['studies', ...PART_KIND_NAMES] as const)('has the columns of its model in %s', async (table) => {
    const columns = await server.database.sequelize.query(`PRAGMA table_info(${table})`, {
      type: QueryTypes.SELECT,
    });
    const names = (columns as { name: string }[]).map(({ name }) => name).sort();
    expect(names).toEqual(Object.keys(server.database.tables[table].getAttributes()).sort());
  });
  it('undoes a transaction that fails half way', async () => {
    const { tables, write } = server.database;
    const before = await tables.studies.count();
    const now = new Date().toISOString();
    const study = {
      id: 'x',
      version: 1,
      createdAt: now,
      updatedAt: now,
      title: 'T',
      question: '',
      ...NEW_STUDY,
      rounds: 1,
      seed: 1,
    };
    const failing = write(
      async () => {
        await tables.studies.create(study);
        throw new Error('half way');
      },
      { transaction: true },
    );
    await expect(failing).rejects.toThrow('half way');
    expect(await tables.studies.count()).toBe(before);
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
