import { mkdirSync, statSync } from 'node:fs';
import path from 'node:path';
import { Sequelize } from 'sequelize';
import sqlite3 from 'sqlite3';
import type { Database } from '../database.ts';
import { defineTables } from './models.ts';
import { keepPreview, keptPreviews, markSeen, stateOf } from './previews.ts';
import { DatabaseGone, refusalOf } from './refusal.ts';
import { readsBy, writesBy } from './rows.ts';
import { connect, disconnect, inTransaction, runSql } from './statements.ts';

const openReader = async (file: string): Promise<sqlite3.Database> => {
  const reader = await connect(file, sqlite3.OPEN_READONLY);
  reader.configure('busyTimeout', 5000);
  return reader;
};

/** The library for Sequelize to open its one connection with, and that connection once it has. */
function openedBySequelize(): { library: object; connection: () => sqlite3.Database } {
  let opened: sqlite3.Database | undefined;
  const Database = function (...given: ConstructorParameters<typeof sqlite3.Database>) {
    opened = new sqlite3.Database(...given);
    return opened;
  };
  return {
    library: { ...sqlite3, Database },
    connection: () => {
      if (!opened) throw new Error('Sequelize has opened no database.');
      return opened;
    },
  };
}

/** The one connection that writes, with settings by which nothing is lost that was committed. */
export async function openWriter(file: string): Promise<{ sequelize: Sequelize; writer: sqlite3.Database }> {
  const { library, connection } = openedBySequelize();
  const sequelize = new Sequelize({
    dialect: 'sqlite',
    dialectModule: library,
    storage: file,
    logging: false,
    pool: { max: 1, min: 1, idle: 2147483647 },
  });
  for (const pragma of [
    'journal_mode = WAL',
    'synchronous = FULL',
    'foreign_keys = ON',
    // The thread for long work writes too, and may be in the middle of a whole table.
    'busy_timeout = 60000',
  ]) {
    await sequelize.query(`PRAGMA ${pragma}`);
  }
  return { sequelize, writer: connection() };
}

/** Whether the file that is there now is still the one that was opened. */
function watchFile(file: string): () => boolean {
  const { ino } = statSync(file);
  return () => {
    try {
      return statSync(file).ino === ino;
    } catch {
      return false;
    }
  };
}

/**
 * Opens the database file, brings its tables up to date and sets it to lose nothing that was committed: write-ahead
 * log, synchronous FULL, foreign keys on. One connection writes, so the settings hold for all that is done.
 * @param tables whether they are up to date already, as for a second connection
 * @throws LaterVersion
 */
export async function openDatabase(file: string, tables: 'any' | 'up to date' = 'any'): Promise<Database> {
  mkdirSync(path.dirname(file), { recursive: true });
  const { sequelize, writer } = await openWriter(file);
  if (tables === 'any') {
    // What migrates takes longer to load than a database to open.
    const { bringUpToDate } = await import('./bring-up-to-date.ts');
    await bringUpToDate(sequelize, writer, path.dirname(file));
  }
  const models = defineTables(sequelize);
  const reader = await openReader(file);
  const isStillThere = watchFile(file);
  let last: Promise<unknown> = Promise.resolve();
  const write: Database['write'] = (work, options) => {
    const next = last
      .then(() => (options?.transaction ? inTransaction(writer, work) : work()))
      .then((result) => {
        // What was written into a file that nobody will find again is not acknowledged.
        if (!isStillThere()) throw new DatabaseGone();
        return result;
      });
    last = next.catch(() => undefined);
    return next;
  };
  return {
    committed: readsBy(reader, models),
    writer: writesBy(writer, models),
    snapshot: async () => {
      const connection = await openReader(file);
      await runSql(connection, 'BEGIN');
      return { ...readsBy(connection, models), close: () => disconnect(connection) };
    },
    write,
    previews: () => keptPreviews(reader),
    renewPreview: async (studyId, make) => {
      await write(() => markSeen(writer, studyId));
      const state = await stateOf(reader, studyId);
      const preview = await make();
      await write(() => keepPreview(writer, studyId, preview, state));
    },
    refusal: refusalOf,
    close: async () => {
      await last;
      await disconnect(reader);
      await sequelize.close();
    },
  };
}
