import type { Refusal } from './database.ts';
import { DISK_FULL, saidBy } from './problems.ts';
import { FolderInUse } from './sqlite/lock.ts';
import { LaterVersion, refusalOf } from './sqlite/refusal.ts';

/** Something that keeps the server from starting, in one sentence that says what to do. */
export class StartProblem extends Error {}

const full = (data: string) =>
  `The disk is full: nothing can be recorded in ${data}. Make room, then start again.`;
const notWritable = (data: string) =>
  `The folder ${data} cannot be written to. Change who may write there, or name another by --data.`;

/** What the database refuses. */
const REFUSED: Partial<Record<Refusal, (data: string) => string>> = {
  damaged: (data) =>
    `The database in ${data} is damaged. Move it aside and put a copy of it there, or name another folder by --data.`,
  busy: (data) => `The database in ${data} is held by another program. Close that, then start again.`,
  full,
  'read-only': notWritable,
};

/** What the operating system refuses. */
const SENTENCES: readonly (readonly [RegExp, (data: string) => string])[] = [
  [DISK_FULL, full],
  [/EACCES|EPERM|EROFS/, notWritable],
  [/ENOTDIR|EEXIST/, (data) => `${data} is not a folder. Name one by --data.`],
  [/EADDRINUSE/, () => 'The port is taken by another program. Name another by --port, or leave it out.'],
];

/** Why the server could not start, in one sentence. */
export function startSentence(error: unknown, data: string): string {
  if (error instanceof StartProblem || error instanceof FolderInUse || error instanceof LaterVersion)
    return error.message;
  const refusal = refusalOf(error);
  const said = saidBy(error);
  const sentence = (refusal && REFUSED[refusal]) ?? SENTENCES.find(([pattern]) => pattern.test(said))?.[1];
  return sentence ? sentence(data) : `The server cannot start: ${(error as Error).message || String(error)}.`;
}
