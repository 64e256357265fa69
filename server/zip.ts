import type { Readable } from 'node:stream';
import yauzl from 'yauzl';

/** What is too much of a zip file, and how it is refused. */
export interface ZipLimits {
  /** Bytes of all files together, once unpacked. */
  bytes: number;
  entries: number;
  /** What is thrown, with a sentence that says why. */
  refuse: (why: string) => Error;
}

/**
 * Calls back for each file in a zip, one after the other. Nothing is unpacked that would be more than it may, and paths
 * that lead out of the archive are refused.
 * @throws whatever `refuse` makes
 */
export async function eachEntry(
  file: string,
  { bytes: most, entries, refuse }: ZipLimits,
  take: (name: string, open: () => Promise<Readable>, bytes: number) => Promise<void>,
): Promise<void> {
  const zip = await new Promise<yauzl.ZipFile>((resolve, reject) => {
    yauzl.open(file, { lazyEntries: true, autoClose: false, validateEntrySizes: true }, (error, opened) => {
      if (error) reject(refuse(`It is no zip file, or is cut off: ${error.message}.`));
      else resolve(opened);
    });
  });
  try {
    if (zip.entryCount > entries) throw refuse('There are too many files in it.');
    let bytes = 0;
    await new Promise<void>((resolve, reject) => {
      zip.on('end', resolve);
      zip.on('error', (error: Error) => {
        reject(refuse(`It cannot be read: ${error.message}.`));
      });
      zip.on('entry', (entry: yauzl.Entry) => {
        bytes += entry.uncompressedSize;
        const open = () =>
          new Promise<Readable>((opened, failed) => {
            zip.openReadStream(entry, (error, stream) => {
              if (error) failed(error);
              else opened(stream);
            });
          });
        const taken =
          bytes > most
            ? Promise.reject(refuse('It holds too much.'))
            : take(entry.fileName, open, entry.uncompressedSize);
        taken.then(
          () => {
            zip.readEntry();
          },
          (error: unknown) => {
            reject(error instanceof Error ? error : new Error(String(error)));
          },
        );
      });
      zip.readEntry();
    });
  } finally {
    zip.close();
  }
}
