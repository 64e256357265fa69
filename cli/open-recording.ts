import { open } from 'node:fs/promises';
import { FileProblem } from '../core/formats/file-problem.ts';
import type { ReadAt } from '../core/formats/wav.ts';

/**
 * Does something with a file that is read a little at a time.
 * @throws FileProblem where it cannot be read
 */
export async function withFile<T>(
  file: string,
  work: (read: ReadAt, size: number) => Promise<T>,
): Promise<T> {
  let handle;
  try {
    handle = await open(file, 'r');
  } catch {
    throw new FileProblem(`There is no file “${file}”, or it cannot be read.`);
  }
  try {
    const { size } = await handle.stat();
    return await work(async (from, length) => {
      const bytes = Buffer.allocUnsafeSlow(length);
      const { bytesRead } = await handle.read(bytes, 0, length, from);
      return bytes.subarray(0, bytesRead);
    }, size);
  } finally {
    await handle.close();
  }
}
