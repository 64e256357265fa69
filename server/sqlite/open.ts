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
import type { Database } from '../database.ts';
import { defineTables } from './models.ts';
import { keepPreview, keptPreviews, markSeen, stateOf } from './previews.ts';
import { DatabaseGone, LaterVersion, refusalOf } from './refusal.ts';
import { readsBy, writesBy } from './rows.ts';
import { connect, disconnect, runSql } from './statements.ts';

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

/** Does something as a whole, or undoes it. */
async function inTransaction<T>(writer: sqlite3.Database, work: () => Promise<T>): Promise<T> {
  await runSql(writer, 'BEGIN IMMEDIATE');
  try {
    const result = await work();
    await runSql(writer, 'COMMIT');
    return result;
  } catch (error) {
    await runSql(writer, 'ROLLBACK');
    throw error;
  }
}

/** Runs the migrations that a database has not had. @throws LaterVersion where it has had others */
async function bringUpToDate(sequelize: Sequelize, writer: sqlite3.Database, folder: string): Promise<void> {
  const migrator = new Umzug({
    migrations: MIGRATIONS.map(({ name, up }) => ({
      name,
      up: () =>
        inTransaction(writer, async () => {
          for (const statement of up) await runSql(writer, statement);
        }),
    })),
    storage: new SequelizeStorage({ sequelize, tableName: 'migrations' }),
    logger: undefined,
  });
  const known = new Set<string>(MIGRATIONS.map(({ name }) => name));
  if ((await migrator.executed()).some(({ name }) => !known.has(name)))
    throw new LaterVersion(
      `The database in ${folder} was written by a later version of Brackenridge. Start that one, or name another folder by --data.`,
    );
  await migrator.up();
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
 * @throws LaterVersion
 */
export async function openDatabase(file: string): Promise<Database> {
  mkdirSync(path.dirname(file), { recursive: true });
  const { sequelize, writer } = await openWriter(file);
  await bringUpToDate(sequelize, writer, path.dirname(file));
  const tables = defineTables(sequelize);
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
    committed: readsBy(reader, tables),
    writer: writesBy(writer, tables),
    snapshot: async () => {
      const connection = await openReader(file);
      await runSql(connection, 'BEGIN');
      return { ...readsBy(connection, tables), close: () => disconnect(connection) };
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
