import { DataTypes, type Sequelize } from 'sequelize';
import type sqlite3 from 'sqlite3';
import type { Table } from './models.ts';

/** Values that one statement takes at most; SQLite allows 32,766. */
const MOST_VALUES = 30000;

/** The one connection of the database, past the models: they make an object of every row, which many rows feel. */
export const connectionOf = async (sequelize: Sequelize): Promise<sqlite3.Database> =>
  (await sequelize.connectionManager.getConnection({ type: 'write' } as never)) as sqlite3.Database;

const columnsOf = (table: Table) =>
  Object.entries(table.getAttributes())
    .filter(([name]) => name !== 'seq')
    .map(([name, { type }]) => ({
      name,
      isJson: type instanceof DataTypes.JSON,
      isBoolean: type instanceof DataTypes.BOOLEAN,
      hasFractions: type instanceof DataTypes.DOUBLE,
    }));

/** All rows that a statement gives, as the database has them. */
export const allRows = (
  connection: sqlite3.Database,
  sql: string,
  values: readonly (string | number)[] = [],
): Promise<Record<string, unknown>[]> =>
  new Promise((resolve, reject) => {
    connection.all<Record<string, unknown>>(sql, values, (error, found) => {
      if (error) reject(error);
      else resolve(found);
    });
  });

/** Runs a statement that gives nothing back, on the connection that writes. */
export const runSql = async (
  sequelize: Sequelize,
  sql: string,
  values: readonly (string | number)[] = [],
): Promise<void> => {
  const connection = await connectionOf(sequelize);
  await new Promise<void>((resolve, reject) => {
    connection.run(sql, values, (error) => {
      if (error) reject(error);
      else resolve();
    });
  });
};

/** Rows that are made into JSON at a time. */
const ROWS_AT_A_TIME = 2000;

/**
 * The rows of a study as JSON texts, in the order in which they were written, some at a time. The database makes the
 * texts, on a thread of its own; where a column holds fractions they are made here, since it would round them.
 * @param behind only those behind the row with this id
 * @param most so many at most
 */
export async function* jsonRows(
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
export async function selectRows(
  connection: sqlite3.Database,
  table: Table,
  where: Readonly<Record<string, string>>,
): Promise<Record<string, unknown>[]> {
  const columns = columnsOf(table);
  const names = columns.map(({ name }) => `"${name}"`).join(', ');
  const asked = ['seq > ?', ...Object.keys(where).map((name) => `"${name}" = ?`)].join(' AND ');
  const json = columns.filter(({ isJson }) => isJson).map(({ name }) => name);
  const booleans = columns.filter(({ isBoolean }) => isBoolean).map(({ name }) => name);
  const found: Record<string, unknown>[] = [];
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
  for (const one of all) {
    batch.push(one);
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
export async function insertRows(
  sequelize: Sequelize,
  table: Table,
  rows: Iterable<Record<string, unknown>>,
  signal?: AbortSignal,
): Promise<void> {
  const columns = columnsOf(table);
  const value = (given: unknown, isJson: boolean): unknown => {
    if (given === null || given === undefined) return null;
    if (isJson) return JSON.stringify(given);
    return typeof given === 'boolean' ? Number(given) : given;
  };
  const connection = await connectionOf(sequelize);
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
  const insertion = (batch: readonly Record<string, unknown>[]) => {
    const first = batch[0] ?? {};
    const shared = columns.map(({ name }) => batch.every((row) => row[name] === first[name]));
    const [alike, own] = [true, false].map((is) => columns.filter((_, i) => shared[i] === is));
    const valuesOf = (row: Record<string, unknown>, of = own ?? []) =>
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
