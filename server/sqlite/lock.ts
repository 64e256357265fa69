import { mkdirSync } from 'node:fs';
import path from 'node:path';
import { connect, disconnect } from './statements.ts';

/** The folder of the data is in use by another server. */
export class FolderInUse extends Error {}

/**
 * Takes a folder for this server alone. The lock is the operating system's, on a file of the folder, so that it is gone
 * with the server however it ends.
 * @returns lets the folder go
 * @throws FolderInUse where another server has it
 */
export async function lockFolder(folder: string): Promise<() => Promise<void>> {
  mkdirSync(folder, { recursive: true });
  const file = path.join(folder, 'in-use.lock');
  const lock = await connect(file);
  const close = () => disconnect(lock);
  try {
    await new Promise<void>((resolve, reject) => {
      lock.exec('PRAGMA journal_mode = DELETE; BEGIN EXCLUSIVE', (error) => {
        if (error) reject(error);
        else resolve();
      });
    });
  } catch (error) {
    await close();
    if ((error as { code?: string }).code === 'SQLITE_BUSY')
      throw new FolderInUse(
        `Another Brackenridge server uses ${folder}. Stop it, or name another folder by --data.`,
      );
    throw error;
  }
  return close;
}
