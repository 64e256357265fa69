import { FolderInUse } from './db/lock.ts';
import { LaterVersion } from './db/open.ts';
import { DISK_FULL, saidBy } from './problems.ts';

/** Something that keeps the server from starting, in one sentence that says what to do. */
export class StartProblem extends Error {}

const SENTENCES: readonly (readonly [RegExp, (data: string) => string])[] = [
  [
    /SQLITE_NOTADB|SQLITE_CORRUPT|file is not a database|disk image is malformed/,
    (data) =>
      `The database in ${data} is damaged. Move it aside and put a copy of it there, or name another folder by --data.`,
  ],
  [
    /SQLITE_BUSY|database is locked/,
    (data) => `The database in ${data} is held by another program. Close that, then start again.`,
  ],
  [DISK_FULL, (data) => `The disk is full: nothing can be recorded in ${data}. Make room, then start again.`],
  [
    /EACCES|EPERM|EROFS|SQLITE_READONLY|SQLITE_CANTOPEN|SQLITE_PERM/,
    (data) =>
      `The folder ${data} cannot be written to. Change who may write there, or name another by --data.`,
  ],
  [/ENOTDIR|EEXIST/, (data) => `${data} is not a folder. Name one by --data.`],
  [/EADDRINUSE/, () => 'The port is taken by another program. Name another by --port, or leave it out.'],
];

/** Why the server could not start, in one sentence. */
export function startSentence(error: unknown, data: string): string {
  if (error instanceof StartProblem || error instanceof FolderInUse || error instanceof LaterVersion)
    return error.message;
  const said = saidBy(error);
  const known = SENTENCES.find(([pattern]) => pattern.test(said));
  return known ? known[1](data) : `The server cannot start: ${(error as Error).message || String(error)}.`;
}
