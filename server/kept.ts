import { open, rename, stat } from 'node:fs/promises';
import path from 'node:path';

/** What is kept beside the database: each file under the SHA-256 of what is in it, so that it never changes. */
export const KEPT_FOLDERS = ['photos', 'files'] as const;
export type KeptFolder = (typeof KEPT_FOLDERS)[number];

/** Where a server keeps them. */
export type Kept = Record<KeptFolder, string>;

export const keptIn = (data: string): Kept => ({
  photos: path.join(data, 'photos'),
  files: path.join(data, 'files'),
});

const NAMES: Record<KeptFolder, RegExp> = {
  photos: /^photos\/([0-9a-f]{64})\.(?:jpg|png|webp)$/,
  files: /^files\/([0-9a-f]{64})\.(?:csv|wav)$/,
};

/** The folder and the hash that a path within a package or a backup says; undefined for anything else. */
export function keptAs(name: string): { folder: KeptFolder; hash: string } | undefined {
  for (const folder of KEPT_FOLDERS) {
    const hash = NAMES[folder].exec(name)?.[1];
    if (hash !== undefined) return { folder, hash };
  }
  return undefined;
}

/** Whether zipping it makes it smaller: pictures are compressed already, and of sound hardly anything goes. */
export const isCompressible = (name: string): boolean => name.endsWith('.csv');

/** What a sentence calls a file of a folder. */
export const KEPT_WORD: Record<KeptFolder, string> = { photos: 'photo', files: 'file' };

/** What a name of a kept file says it is; undefined for what is no such name. */
export const fileKind = (name: string): 'csv' | 'wav' | undefined =>
  /^[0-9a-f]{64}\.(csv|wav)$/.exec(name)?.[1] as 'csv' | 'wav' | undefined;

/** A name beside a file, under which half of it can be. */
export const halfOf = (file: string): string => `${file}.${process.hrtime.bigint().toString(36)}`;

/** Writes a file so that it is there whole or not at all. */
export async function writeWhole(file: string, bytes: Uint8Array): Promise<void> {
  const half = halfOf(file);
  const handle = await open(half, 'w');
  try {
    await handle.writeFile(bytes);
    await handle.sync();
  } finally {
    await handle.close();
  }
  await rename(half, file);
}

export const isThere = (file: string): Promise<boolean> =>
  stat(file).then(
    () => true,
    () => false,
  );
