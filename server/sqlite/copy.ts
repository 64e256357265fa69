import sqlite3 from 'sqlite3';
import type { KeptFolder } from '../kept.ts';
import { allRows, connect, disconnect, runSql } from './statements.ts';

/** Does something with a file by a connection of its own. */
async function connected<T>(file: string, work: (connection: sqlite3.Database) => Promise<T>): Promise<T> {
  const connection = await connect(file, sqlite3.OPEN_READONLY);
  try {
    return await work(connection);
  } finally {
    await disconnect(connection);
  }
}

/** Copies a database as it is at one moment, whatever is written meanwhile, into a file that is not there yet. */
export const copyDatabase = (file: string, copy: string): Promise<void> =>
  connected(file, async (connection) => {
    await runSql(connection, 'PRAGMA busy_timeout = 60000');
    await runSql(connection, 'VACUUM INTO ?', [copy]);
  });

/** What a database holds. */
export interface Contents {
  studies: number;
  readings: number;
  /** Names of the photos and files that its studies name. */
  kept: Record<KeptFolder, string[]>;
}

/** Tables that a database of every program so far has. */
const ALWAYS = ['studies', 'readings', 'notes'];
/** What SQLite says of a file that is no database, or a damaged one. */
const NO_DATABASE = new Set(['SQLITE_NOTADB', 'SQLITE_CORRUPT']);

/** Whether a database is undamaged. */
async function isWhole(connection: sqlite3.Database): Promise<boolean> {
  try {
    const [check] = await allRows(connection, 'PRAGMA integrity_check(1)');
    return check?.integrity_check === 'ok';
  } catch (error) {
    if (NO_DATABASE.has((error as { code?: string }).code ?? '')) return false;
    throw error;
  }
}

/** What a database holds; undefined where it is damaged, or another one. It may be one of an earlier program. */
export const contentsOf = (file: string): Promise<Contents | undefined> =>
  connected(file, async (connection) => {
    if (!(await isWhole(connection))) return undefined;
    const tables = await allRows<{ name: string }>(
      connection,
      "SELECT name FROM sqlite_master WHERE type = 'table'",
    );
    const there = new Set(tables.map(({ name }) => name));
    if (!ALWAYS.every((name) => there.has(name))) return undefined;
    const [counts] = await allRows<{ studies: number; readings: number }>(
      connection,
      'SELECT (SELECT count(*) FROM studies) AS studies, (SELECT count(*) FROM readings) AS readings',
    );
    const photos = await allRows<{ photo: string }>(
      connection,
      'SELECT DISTINCT photo FROM notes WHERE photo IS NOT NULL ORDER BY photo',
    );
    // An earlier program had no such table.
    const files = there.has('files')
      ? await allRows<{ file: string }>(connection, 'SELECT DISTINCT file FROM files ORDER BY file')
      : [];
    return {
      studies: counts?.studies ?? 0,
      readings: counts?.readings ?? 0,
      kept: { photos: photos.map(({ photo }) => photo), files: files.map(({ file: name }) => name) },
    };
  });
