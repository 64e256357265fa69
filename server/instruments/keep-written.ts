import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { rename, stat } from 'node:fs/promises';
import path from 'node:path';

/** What an instrument sent, as a file that is kept, with the study that it belongs to. */
export interface KeptFile {
  studyId: string;
  /** What it is called in the study. */
  title: string;
  file: string;
  bytes: number;
}

/** Gives what was written down the name of what is in it. */
export async function keepWritten(
  written: string,
  type: 'csv' | 'wav',
): Promise<Pick<KeptFile, 'file' | 'bytes'>> {
  const hash = createHash('sha256');
  for await (const chunk of createReadStream(written)) hash.update(chunk as Buffer);
  const file = `${hash.digest('hex')}.${type}`;
  const { size } = await stat(written);
  await rename(written, path.join(path.dirname(written), file));
  return { file, bytes: size };
}

/** When something was begun, as its title says it: 2026-05-04 10:00. */
export const titleMoment = (startedAt: string): string => startedAt.slice(0, 16).replace('T', ' ');
