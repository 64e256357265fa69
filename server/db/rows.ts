import { DataTypes, type Sequelize } from 'sequelize';
import type sqlite3 from 'sqlite3';
import type { Table } from './models.ts';

/** Values that one statement takes at most; SQLite allows 32,766. */
const MOST_VALUES = 30000;

/** The one connection of the database, past the models: they make an object of every row, which many rows feel. */
const connectionOf = async (sequelize: Sequelize): Promise<sqlite3.Database> =>
  (await sequelize.connectionManager.getConnection({ type: 'write' } as never)) as sqlite3.Database;

const columnsOf = (table: Table) =>
  Object.entries(table.getAttributes())
    .filter(([name]) => name !== 'seq')
    .map(([name, { type }]) => ({
      name,
      isJson: type instanceof DataTypes.JSON,
      isBoolean: type instanceof DataTypes.BOOLEAN,
    }));

/**
 * Rows that hold what is asked for, in the order in which they were written.
 * @param where columns and the values that they must have
 */
export async function selectRows(
  sequelize: Sequelize,
  table: Table,
  where: Readonly<Record<string, string>>,
): Promise<Record<string, unknown>[]> {
  const connection = await connectionOf(sequelize);
  const columns = columnsOf(table);
  const names = columns.map(({ name }) => `"${name}"`).join(', ');
  const asked = Object.keys(where)
    .map((name) => `"${name}" = ?`)
    .join(' AND ');
  const rows = await new Promise<Record<string, unknown>[]>((resolve, reject) => {
    connection.all<Record<string, unknown>>(
      `SELECT ${names} FROM "${table.tableName}" WHERE ${asked} ORDER BY seq`,
      Object.values(where),
      (error, found) => {
        if (error) reject(error);
        else resolve(found);
      },
    );
  });
  const json = columns.filter(({ isJson }) => isJson).map(({ name }) => name);
  const booleans = columns.filter(({ isBoolean }) => isBoolean).map(({ name }) => name);
  for (const row of rows) {
    for (const name of json) {
      if (typeof row[name] === 'string') row[name] = JSON.parse(row[name]) as unknown;
    }
    for (const name of booleans) row[name] = row[name] === 1;
  }
  return rows;
}

/**
 * Writes rows past the model, about five times as fast as through it. The caller holds a transaction where there is
 * more than one.
 * @param signal stops between two statements
 */
export async function insertRows(
  sequelize: Sequelize,
  table: Table,
  rows: readonly Record<string, unknown>[],
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
  const one = `(${columns.map(() => '?').join(', ')})`;
  const batch = Math.max(1, Math.floor(MOST_VALUES / columns.length));
  const statement = (count: number) =>
    connection.prepare(
      `INSERT INTO "${table.tableName}" (${names}) VALUES ${Array.from({ length: count }, () => one).join(', ')}`,
    );
  // Read by the database once, and run for each full batch.
  const full = rows.length >= batch ? statement(batch) : undefined;
  try {
    for (let from = 0; from < rows.length; from += batch) {
      signal?.throwIfAborted();
      const part = rows.slice(from, from + batch);
      const values = part.flatMap((row) => columns.map(({ name, isJson }) => value(row[name], isJson)));
      const prepared = part.length === batch && full ? full : statement(part.length);
      try {
        await new Promise<void>((resolve, reject) => {
          prepared.run(values, (error) => {
            if (error) reject(error);
            else resolve();
          });
        });
      } finally {
        if (prepared !== full) prepared.finalize();
      }
    }
  } finally {
    full?.finalize();
  }
}
