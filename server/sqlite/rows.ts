import { DataTypes } from 'sequelize';
import type sqlite3 from 'sqlite3';
import type { Reads, Row, TableName, Writes } from '../database.ts';
import type { Table } from './models.ts';
import { allRows, runSql } from './statements.ts';

/** Values that one statement takes at most; SQLite allows 32,766. */
const MOST_VALUES = 30000;

const columnsOf = (table: Table) =>
  Object.entries(table.getAttributes())
    .filter(([name]) => name !== 'seq')
    .map(([name, { type }]) => ({
      name,
      isJson: type instanceof DataTypes.JSON,
      isBoolean: type instanceof DataTypes.BOOLEAN,
      hasFractions: type instanceof DataTypes.DOUBLE,
    }));

/** Rows that are made into JSON at a time. */
const ROWS_AT_A_TIME = 2000;

/**
 * The rows of a study as JSON texts, in the order in which they were written, some at a time. The database makes the
 * texts, on a thread of its own; where a column holds fractions they are made here, since it would round them.
 * @param behind only those behind the row with this id
 * @param most so many at most
 */
async function* jsonRows(
  connection: sqlite3.Database,
  table: Table,
  studyId: string,
  { behind, most = Infinity }: { behind?: string | undefined; most?: number } = {},
): AsyncGenerator<string[]> {
  const columns = columnsOf(table);
  if (behind === undefined && columns.some(({ hasFractions }) => hasFractions)) {
    const rows = await selectRows(connection, table, { studyId });
    if (rows.length > 0) yield rows.map((row) => JSON.stringify(row));
    return;
  }
  const fields = columns.map(({ name, isJson, isBoolean }) => {
    if (isJson) return `'${name}', json("${name}")`;
    return isBoolean ? `'${name}', json(iif("${name}", 'true', 'false'))` : `'${name}', "${name}"`;
  });
  let from = 0;
  if (behind !== undefined) {
    const [last] = await allRows(connection, `SELECT seq FROM "${table.tableName}" WHERE id = ?`, [behind]);
    from = Number(last?.seq ?? 0);
  }
  for (let left = most; left > 0;) {
    const limit = Math.min(left, ROWS_AT_A_TIME);
    const rows = await allRows(
      connection,
      `SELECT seq, json_object(${fields.join(', ')}) AS text FROM "${table.tableName}" WHERE studyId = ? AND seq > ? ORDER BY seq LIMIT ${String(limit)}`,
      [studyId, from],
    );
    if (rows.length > 0) yield rows.map(({ text }) => text as string);
    if (rows.length < limit) return;
    from = rows.at(-1)?.seq as number;
    left -= rows.length;
  }
}

/**
 * Rows that hold what is asked for, in the order in which they were written.
 * @param connection the reader, which knows what is committed, or the writer's in the middle of its work
 * @param where columns and the values that they must have; none for all rows
 */
async function selectRows(
  connection: sqlite3.Database,
  table: Table,
  where: Readonly<Record<string, string>>,
): Promise<Row[]> {
  const columns = columnsOf(table);
  const names = columns.map(({ name }) => `"${name}"`).join(', ');
  const asked = ['seq > ?', ...Object.keys(where).map((name) => `"${name}" = ?`)].join(' AND ');
  const json = columns.filter(({ isJson }) => isJson).map(({ name }) => name);
  const booleans = columns.filter(({ isBoolean }) => isBoolean).map(({ name }) => name);
  const found: Row[] = [];
  for (let from = 0; ;) {
    // Some at a time: the database holds all that it gives at once in memory of its own.
    const rows = await allRows(
      connection,
      `SELECT seq, ${names} FROM "${table.tableName}" WHERE ${asked} ORDER BY seq LIMIT ${String(ROWS_AT_A_TIME)}`,
      [from, ...Object.values(where)],
    );
    for (const { seq, ...row } of rows) {
      for (const name of json) {
        if (typeof row[name] === 'string') row[name] = JSON.parse(row[name]) as unknown;
      }
      for (const name of booleans) row[name] = row[name] === 1;
      const before = found.at(-1);
      // A text that is the one of the row before, such as the study, is kept once.
      if (before) for (const { name } of columns) if (row[name] === before[name]) row[name] = before[name];
      found.push(row);
      from = seq as number;
    }
    if (rows.length < ROWS_AT_A_TIME) return found;
  }
}

/** Up to so many of what comes, at a time. */
function* batches<T>(all: Iterable<T>, size: number): Generator<T[]> {
  let batch: T[] = [];
  for (const next of all) {
    batch.push(next);
    if (batch.length === size) {
      yield batch;
      batch = [];
    }
  }
  if (batch.length > 0) yield batch;
}

/**
 * Writes rows past the model, about five times as fast as through it. The caller holds a transaction where there is
 * more than one.
 * @param rows may be made as they are asked for: the database writes some while the next are made. What is thrown
 *   in the making stops the writing
 * @param signal stops between two statements
 */
async function insertRows(
  connection: sqlite3.Database,
  table: Table,
  rows: Iterable<Row>,
  signal?: AbortSignal,
): Promise<void> {
  const columns = columnsOf(table);
  const value = (given: unknown, isJson: boolean): unknown => {
    if (given === null || given === undefined) return null;
    if (isJson) return JSON.stringify(given);
    return typeof given === 'boolean' ? Number(given) : given;
  };
  const names = columns.map(({ name }) => `"${name}"`).join(', ');
  const size = Math.max(1, Math.floor(MOST_VALUES / columns.length));
  // A value that is the same in all rows, such as the study, is handed over once, before those of the rows.
  const prepare = (count: number, shared: readonly boolean[]) => {
    let places = 0;
    const place = () => `?${String((places += 1))}`;
    const sharedPlaces = shared.map((isShared) => (isShared ? place() : undefined));
    const rowsOfPlaces = Array.from(
      { length: count },
      () => `(${sharedPlaces.map((shares) => shares ?? place()).join()})`,
    );
    return connection.prepare(`INSERT INTO "${table.tableName}" (${names}) VALUES ${rowsOfPlaces.join()}`);
  };
  // Each is read by the database once: one for the full batches, mostly, and one for the rest.
  const statements = new Map<string, sqlite3.Statement>();
  const insertion = (batch: readonly Row[]) => {
    const first = batch[0] ?? {};
    const shared = columns.map(({ name }) => batch.every((row) => row[name] === first[name]));
    const [alike, differing] = [true, false].map((is) => columns.filter((_, i) => shared[i] === is));
    const valuesOf = (row: Row, of = differing ?? []) =>
      of.map(({ name, isJson }) => value(row[name], isJson));
    const shape = `${String(batch.length)} ${shared.join()}`;
    const statement = statements.get(shape) ?? prepare(batch.length, shared);
    statements.set(shape, statement);
    return { statement, values: [...valuesOf(first, alike), ...batch.flatMap((row) => valuesOf(row))] };
  };
  let written: Promise<void> = Promise.resolve();
  try {
    for (const batch of batches(rows, size)) {
      const { statement, values } = insertion(batch);
      await written;
      signal?.throwIfAborted();
      written = new Promise((resolve, reject) => {
        statement.run(values, (error) => {
          if (error) reject(error);
          else resolve();
        });
      });
    }
  } finally {
    // Nothing may still be written when the caller ends its transaction, whatever was thrown above.
    await Promise.allSettled([written]);
    for (const prepared of statements.values()) prepared.finalize();
  }
  await written;
}

const equal = (where: Readonly<Record<string, string>>) =>
  Object.keys(where)
    .map((name) => ` AND "${name}" = ?`)
    .join('');

/** Ids that are looked for at a time. */
const IDS_AT_A_TIME = 500;

/** Reads the tables by a connection. */
export function readsBy(connection: sqlite3.Database, tables: Record<TableName, Table>): Reads {
  const numberOf = async (sql: string, values: readonly (string | number)[]) =>
    (await allRows<{ n: number | null }>(connection, sql, values))[0]?.n ?? 0;
  const count: Reads['count'] = (table, where) =>
    numberOf(`SELECT count(*) AS n FROM "${table}" WHERE 1${equal(where)}`, Object.values(where));
  return {
    select: (table, where) => selectRows(connection, tables[table], where),
    count,
    countNaming: (kind, studyId, field, id) =>
      numberOf(`SELECT count(*) AS n FROM "${kind}" WHERE studyId = ? AND instr("${field}", ?) > 0`, [
        studyId,
        id,
      ]),
    hasMore: async (kind, studyId, most) =>
      // Rows of all studies are numbered through: the last number costs nothing.
      (await numberOf(`SELECT max(seq) AS n FROM "${kind}"`, [])) > most &&
      (await count(kind, { studyId })) > most,
    hasAny: async (table, ids) => {
      for (let from = 0; from < ids.length; from += IDS_AT_A_TIME) {
        const some = ids.slice(from, from + IDS_AT_A_TIME);
        const places = some.map(() => '?').join();
        if ((await numberOf(`SELECT count(*) AS n FROM "${table}" WHERE id IN (${places})`, some)) > 0)
          return true;
      }
      return false;
    },
    jsonTexts: (kind, studyId, options) => jsonRows(connection, tables[kind], studyId, options),
  };
}

/** Writes the tables by a connection, and reads them by the same. */
export function writesBy(connection: sqlite3.Database, tables: Record<TableName, Table>): Writes {
  return {
    ...readsBy(connection, tables),
    insert: (table, rows, signal) => insertRows(connection, tables[table], rows, signal),
    update: async (table, id, fields) => {
      await tables[table].update(fields, { where: { id } });
    },
    delete: async (table, id) => {
      await tables[table].destroy({ where: { id } });
    },
    deleteLast: (kind, studyId, most) =>
      runSql(
        connection,
        `DELETE FROM "${kind}" WHERE seq IN (SELECT seq FROM "${kind}" WHERE studyId = ? ORDER BY seq DESC LIMIT ?)`,
        [studyId, most],
      ),
  };
}
