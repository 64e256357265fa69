import type { Refusal } from '../database.ts';
import { saidBy } from '../problems.ts';

/** A later version of the program has changed the tables. */
export class LaterVersion extends Error {}

/** The file that was opened is not in its folder any more. */
export class DatabaseGone extends Error {}

/** What SQLite and Sequelize say, and what that means. */
const MEANINGS: readonly (readonly [RegExp, Refusal])[] = [
  [/UNIQUE constraint|Validation error/i, 'taken'],
  [/FOREIGN KEY constraint/i, 'dangling'],
  [/SQLITE_FULL|database or disk is full/, 'full'],
  [/SQLITE_NOTADB|SQLITE_CORRUPT|file is not a database|disk image is malformed/, 'damaged'],
  [/SQLITE_BUSY|database is locked/, 'busy'],
  [/SQLITE_READONLY|SQLITE_CANTOPEN|SQLITE_PERM/, 'read-only'],
];

/** Why SQLite refuses something, where it is SQLite that does. */
export function refusalOf(error: unknown): Refusal | undefined {
  if (error instanceof DatabaseGone) return 'gone';
  const said = saidBy(error);
  return MEANINGS.find(([pattern]) => pattern.test(said))?.[1];
}
