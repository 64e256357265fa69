import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream, existsSync, mkdirSync, readdirSync } from 'node:fs';
import { mkdtemp, rename, rm, stat, writeFile } from 'node:fs/promises';
import path from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import yazl from 'yazl';
import { counted } from '../../core/quantity/format.ts';
import { KEPT_FOLDERS, KEPT_WORD, type KeptFolder, isCompressible, keptAs, keptIn } from '../kept.ts';
import { type Contents, contentsOf, copyDatabase } from '../sqlite/copy.ts';
import { eachEntry } from '../zip.ts';

/** Why nothing was backed up or brought back, in one sentence. */
export class BackupProblem extends Error {}

const DATABASE = 'brackenridge.sqlite';
const ABOUT = 'about.json';
/** More than this is no backup of a bench: a file that grows like this while it is unpacked is stopped. */
const MOST_BYTES = 64e9;
const MOST_ENTRIES = 500_000;
const LIMITS = {
  ...{ bytes: MOST_BYTES, entries: MOST_ENTRIES },
  refuse: (why: string) => new BackupProblem(why),
};

/** What a backup says about itself. */
export interface About {
  format: 'brackenridge-backup';
  madeAt: string;
  studies: number;
  readings: number;
  photos: number;
  /** Files that readings were worked out from; those of an earlier program had none. */
  files?: number;
  /** Photos and files that studies name and the folder did not have. */
  missing: number;
  /** SHA-256 of the database. */
  sha256: string;
}

/** What is in a backup, in a few words. */
export const inWords = ({ studies, readings, photos, files = 0 }: About): string =>
  [
    counted(studies, 'study', 'studies'),
    counted(readings, 'reading'),
    counted(photos, 'photo'),
    `${counted(files, 'file')} of traces`,
  ].join(', ');

async function sha256(stream: Readable): Promise<string> {
  const hash = createHash('sha256');
  for await (const chunk of stream) hash.update(chunk as Buffer);
  return hash.digest('hex');
}

/** What a database holds. @throws BackupProblem where it is damaged */
async function wholeContents(file: string): Promise<Contents> {
  const contents = await contentsOf(file);
  if (!contents) throw new BackupProblem('The copy of the database is damaged.');
  return contents;
}

/**
 * Writes everything in a folder of a server into one zip file: the database as it is at one moment, its photos,
 * and the files that readings were worked out from. The server may go on meanwhile. The file is read again before it takes
 * its name.
 * @param data folder of the server
 * @param file must not be there yet
 * @throws BackupProblem where there is nothing to back up, or the file is there
 */
export async function backUp(data: string, file: string): Promise<About> {
  const database = path.join(data, DATABASE);
  if (!existsSync(database)) throw new BackupProblem(`There is no database in ${data}.`);
  if (existsSync(file)) throw new BackupProblem(`${file} is there already; name another file.`);
  mkdirSync(path.dirname(file), { recursive: true });
  const folder = await mkdtemp(`${file}.part-`);
  try {
    const copy = path.join(folder, DATABASE);
    await copyDatabase(database, copy);
    const { studies, readings, kept } = await wholeContents(copy);
    const place = keptIn(data);
    const there = KEPT_FOLDERS.flatMap((folder) =>
      kept[folder].flatMap((name) => {
        const from = path.join(place[folder], name);
        return existsSync(from) ? [{ folder, from, to: `${folder}/${name}` }] : [];
      }),
    );
    const count = (wanted: KeptFolder) => there.filter(({ folder }) => folder === wanted).length;
    const about: About = {
      format: 'brackenridge-backup',
      madeAt: new Date().toISOString(),
      ...{ studies, readings, photos: count('photos'), files: count('files') },
      missing: kept.photos.length + kept.files.length - there.length,
      sha256: await sha256(createReadStream(copy)),
    };
    const zip = new yazl.ZipFile();
    zip.addBuffer(Buffer.from(`${JSON.stringify(about, null, 1)}\n`), ABOUT);
    zip.addFile(copy, DATABASE);
    for (const { from, to } of there) zip.addFile(from, to, { compress: isCompressible(to) });
    zip.end();
    const packed = path.join(folder, 'packed.zip');
    await pipeline(zip.outputStream, createWriteStream(packed));
    await checked(packed);
    await rename(packed, file);
    return about;
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

function aboutFrom(text: string): About {
  try {
    const about = JSON.parse(text) as Partial<Record<keyof About, unknown>>;
    if (about.format === 'brackenridge-backup' && /^[0-9a-f]{64}$/.test(String(about.sha256)))
      return about as unknown as About;
  } catch {
    // Said below.
  }
  throw new BackupProblem('It is no backup of Brackenridge.');
}

/**
 * Reads a backup through: its database by its SHA-256, each photo and file by its name.
 * @param into where to put what is read; nowhere when left out
 * @throws BackupProblem for what is no backup, is damaged, or holds what a backup does not
 */
async function checked(file: string, into?: string): Promise<About> {
  let about: About | undefined;
  let database = '';
  const found = { photos: 0, files: 0 };
  await eachEntry(file, LIMITS, async (name, open, bytes) => {
    if (name === ABOUT) {
      if (bytes > 10_000) throw new BackupProblem('It is no backup of Brackenridge.');
      const chunks: Buffer[] = [];
      for await (const chunk of await open()) chunks.push(chunk as Buffer);
      about = aboutFrom(Buffer.concat(chunks).toString('utf8'));
      return;
    }
    const kept = keptAs(name);
    if (name !== DATABASE && kept === undefined) {
      throw new BackupProblem(`It holds “${name.slice(0, 80)}”, which is no part of a backup.`);
    }
    if (into !== undefined)
      await pipeline(await open(), createWriteStream(path.join(into, name), { flags: 'wx' }));
    const hash = await sha256(into === undefined ? await open() : createReadStream(path.join(into, name)));
    if (kept === undefined) database = hash;
    else if (hash === kept.hash) found[kept.folder] += 1;
    else throw new BackupProblem(`The ${KEPT_WORD[kept.folder]} ${name} is damaged.`);
  });
  if (!about) throw new BackupProblem('It is no backup of Brackenridge.');
  if (database !== about.sha256) throw new BackupProblem('The database in it is damaged.');
  if (found.photos !== about.photos) throw new BackupProblem('Photos are missing in it.');
  if (found.files !== (about.files ?? 0)) throw new BackupProblem('Files are missing in it.');
  return about;
}

/**
 * Brings a backup back into an empty folder.
 * @throws BackupProblem where the folder holds anything, or the file is no whole backup; then the folder stays as it was
 */
export async function restore(file: string, data: string): Promise<About> {
  if (!existsSync(file) || !(await stat(file)).isFile()) throw new BackupProblem(`There is no file ${file}.`);
  if (existsSync(data) && readdirSync(data).length > 0) {
    throw new BackupProblem(`${data} is not empty. Name an empty folder: nothing is written over.`);
  }
  mkdirSync(path.dirname(path.resolve(data)), { recursive: true });
  const folder = await mkdtemp(`${path.resolve(data)}.part-`);
  try {
    for (const place of Object.values(keptIn(folder))) mkdirSync(place);
    const about = await checked(file, folder);
    const { studies, readings } = await wholeContents(path.join(folder, DATABASE));
    if (studies !== about.studies || readings !== about.readings) {
      throw new BackupProblem('The database in it is not the one that it says.');
    }
    await writeFile(
      path.join(folder, 'holds-studies'),
      'This folder holds the studies of a Brackenridge server.\n',
    );
    if (existsSync(data)) await rm(data, { recursive: true });
    await rename(folder, data);
    return about;
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
