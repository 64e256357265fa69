import { mkdirSync, statSync } from 'node:fs';
import path from 'node:path';
import { Sequelize } from 'sequelize';
import sqlite3 from 'sqlite3';
import { SequelizeStorage, Umzug } from 'umzug';
import * as studyParts from './migrations/0001-study-parts.ts';
import * as planOfAStudy from './migrations/0002-plan-of-a-study.ts';
import * as changes from './migrations/0003-changes.ts';
import * as wholePlan from './migrations/0004-whole-plan.ts';
import * as bench from './migrations/0005-bench.ts';
import * as promises from './migrations/0006-promises.ts';
import * as previews from './migrations/0007-previews.ts';
import * as specAgainAnswers from './migrations/0008-spec-again-answers.ts';
import * as report from './migrations/0009-report.ts';
import * as scoring from './migrations/0010-scoring.ts';
import * as earlierControls from './migrations/0011-earlier-controls.ts';
import * as corrections from './migrations/0012-corrections.ts';
import * as figures from './migrations/0013-figures.ts';
import * as files from './migrations/0014-files.ts';
import * as calibrations from './migrations/0015-calibrations.ts';
import * as draws from './migrations/0016-draws.ts';
import { allRows } from './rows.ts';
import { type Table, type TableName, defineTables } from './models.ts';

const MIGRATIONS = [
  studyParts,
  planOfAStudy,
  changes,
  wholePlan,
  bench,
  promises,
  previews,
  specAgainAnswers,
  report,
  scoring,
  earlierControls,
  corrections,
  figures,
  files,
  calibrations,
  draws,
];

/** A later version of the program has changed the tables. */
export class LaterVersion extends Error {}

/** The file that was opened is not in its folder any more. */
export class DatabaseGone extends Error {}

export interface Database {
  sequelize: Sequelize;
  tables: Record<TableName, Table>;
  /** A second connection that only reads: it never sees half of a transaction, and never waits for one. */
  reader: sqlite3.Database;
  /** Reads one state of everything, whatever is written meanwhile, by a connection of its own. */
  snapshot: () => Promise<{ connection: sqlite3.Database; close: () => Promise<void> }>;
  /** Runs one writer after the other; in a transaction when asked, which is undone when the work throws. */
  write: <T>(work: () => Promise<T>, options?: { transaction: boolean }) => Promise<T>;
  close(): Promise<void>;
}

const openReader = async (file: string): Promise<sqlite3.Database> => {
  const reader = await new Promise<sqlite3.Database>((resolve, reject) => {
    const opened = new sqlite3.Database(file, sqlite3.OPEN_READONLY, (error) => {
      if (error) reject(error);
      else resolve(opened);
    });
  });
  reader.configure('busyTimeout', 5000);
  return reader;
};

const closeReader = (reader: sqlite3.Database) =>
  new Promise<void>((resolve, reject) => {
    reader.close((error) => {
      if (error) reject(error);
      else resolve();
    });
  });

/**
 * Opens the database file, brings its tables up to date and sets it to lose nothing that was committed: write-ahead
 * log, synchronous FULL, foreign keys on. One connection writes, so the settings hold for all that is done.
 */
export async function openDatabase(file: string): Promise<Database> {
  mkdirSync(path.dirname(file), { recursive: true });
  const sequelize = new Sequelize({
    dialect: 'sqlite',
    dialectModule: sqlite3,
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
  const migrator = new Umzug({
    migrations: MIGRATIONS.map(({ name, up }) => ({
      name,
      up: async () => {
        await sequelize.query('BEGIN IMMEDIATE');
        try {
          for (const statement of up) await sequelize.query(statement);
          await sequelize.query('COMMIT');
        } catch (error) {
          await sequelize.query('ROLLBACK');
          throw error;
        }
      },
    })),
    storage: new SequelizeStorage({ sequelize, tableName: 'migrations' }),
    logger: undefined,
  });
  const known = new Set<string>(MIGRATIONS.map(({ name }) => name));
  if ((await migrator.executed()).some(({ name }) => !known.has(name)))
    throw new LaterVersion(
      `The database in ${path.dirname(file)} was written by a later version of Brackenridge. Start that one, or name another folder by --data.`,
    );
  await migrator.up();

  const reader = await openReader(file);

  const { ino } = statSync(file);
  const isStillThere = () => {
    try {
      return statSync(file).ino === ino;
    } catch {
      return false;
    }
  };
  let last: Promise<unknown> = Promise.resolve();
  const inTransaction = async <T>(work: () => Promise<T>): Promise<T> => {
    await sequelize.query('BEGIN IMMEDIATE');
    try {
      const result = await work();
      await sequelize.query('COMMIT');
      return result;
    } catch (error) {
      await sequelize.query('ROLLBACK');
      throw error;
    }
  };
  return {
    sequelize,
    tables: defineTables(sequelize),
    reader,
    snapshot: async () => {
      const connection = await openReader(file);
      await allRows(connection, 'BEGIN');
      return { connection, close: () => closeReader(connection) };
    },
    write(work, options) {
      const next = last
        .then(() => (options?.transaction ? inTransaction(work) : work()))
        .then((result) => {
          // What was written into a file that nobody will find again is not acknowledged.
          if (!isStillThere()) throw new DatabaseGone();
          return result;
        });
      last = next.catch(() => undefined);
      return next;
    },
    close: async () => {
      await last;
      await closeReader(reader);
      await sequelize.close();
    },
  };
}
