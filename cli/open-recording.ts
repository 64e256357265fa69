import { closeSync, fstatSync, openSync, readSync } from 'node:fs';
import { FileProblem } from '../core/formats/file-problem.ts';
import type { ReadAt } from '../core/formats/wav.ts';

/**
 * Does something with a file that is read a little at a time, each time into the same room. Nothing else waits in a command:
 * it reads while it waits.
 * @throws FileProblem where it cannot be read
 */
export async function withFile<T>(
  file: string,
  work: (read: ReadAt, size: number) => Promise<T>,
): Promise<T> {
  let handle;
  try {
    handle = openSync(file, 'r');
  } catch {
    throw new FileProblem(`There is no file “${file}”, or it cannot be read.`);
  }
  let room = new Uint8Array(0);
  const read: ReadAt = (from, length) => {
    if (room.length < length) room = new Uint8Array(length);
    return Promise.resolve(room.subarray(0, readSync(handle, room, 0, length, from)));
  };
  try {
    return await work(read, fstatSync(handle).size);
  } finally {
    closeSync(handle);
  }
}
