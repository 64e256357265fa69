import { readFileSync } from 'node:fs';
import { FileProblem } from '../core/formats/file-problem.ts';

/**
 * All of a file that the command line names.
 * @throws FileProblem where it cannot be read
 */
export function readBytes(file: string): Uint8Array {
  try {
    return readFileSync(file);
  } catch (error) {
    const code = error instanceof Error && 'code' in error ? String(error.code) : '';
    throw new FileProblem(
      code === 'ENOENT' ? `There is no file “${file}”.` : `The file “${file}” cannot be read (${code}).`,
    );
  }
}
