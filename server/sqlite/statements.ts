import sqlite3 from 'sqlite3';

/** Opens a file with a connection of its own. */
export const connect = (
  file: string,
  mode = sqlite3.OPEN_READWRITE | sqlite3.OPEN_CREATE,
): Promise<sqlite3.Database> =>
  new Promise((resolve, reject) => {
    const opened = new sqlite3.Database(file, mode, (error) => {
      if (error) reject(error);
      else resolve(opened);
    });
  });

export const disconnect = (connection: sqlite3.Database): Promise<void> =>
  new Promise((resolve, reject) => {
    connection.close((error) => {
      if (error) reject(error);
      else resolve();
    });
  });

/** All rows that a statement gives, as the database has them. */
export const allRows = <T = Record<string, unknown>>(
  connection: sqlite3.Database,
  sql: string,
  values: readonly (string | number)[] = [],
): Promise<T[]> =>
  new Promise((resolve, reject) => {
    connection.all<T>(sql, values, (error, found) => {
      if (error) reject(error);
      else resolve(found);
    });
  });

/** Runs a statement that gives nothing back. */
export const runSql = (
  connection: sqlite3.Database,
  sql: string,
  values: readonly (string | number)[] = [],
): Promise<void> =>
  new Promise((resolve, reject) => {
    connection.run(sql, values, (error) => {
      if (error) reject(error);
      else resolve();
    });
  });

/** Does something as a whole, or undoes it. */
export async function inTransaction<T>(writer: sqlite3.Database, work: () => Promise<T>): Promise<T> {
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
