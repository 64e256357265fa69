import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream, existsSync } from 'node:fs';
import { copyFile, mkdir, mkdtemp, readFile, rename, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import yazl from 'yazl';
import {
  DATA_PACKAGE,
  STUDY_IN_PACKAGE,
  TABLES_VERSION,
  type Cell,
  type WrittenFile,
  dataPackage,
  packageTables,
  tableCsv,
  tablePath,
} from '../core/formats/data-package.ts';
import { studyJsonPieces } from '../core/formats/study-json.ts';
import type { StudyDocument } from '../core/model/study-document.ts';
import { STUDY_FORMAT_VERSION } from '../core/model/study-format.ts';
import { IMPORT_LIMIT } from './body.ts';
import { KEPT_FOLDERS, KEPT_WORD, type Kept, halfOf, isCompressible, keptAs } from './kept.ts';
import type { Way } from './heavy/heavy.ts';
import { Problem } from './problems.ts';
import { eachEntry } from './zip.ts';

const TABLE = /^data\/[a-z][a-z-]{0,40}\.csv$/;
const MOST_DESCRIPTION = 5e6;
const LIMITS = {
  ...{ bytes: 4 * IMPORT_LIMIT, entries: 30000 },
  refuse: (why: string) => notReadable(why),
};

const notReadable = (why: string) => new Problem(422, 'Not readable', why);

async function writtenAs(file: string): Promise<WrittenFile> {
  const hash = createHash('sha256');
  let bytes = 0;
  for await (const chunk of createReadStream(file)) {
    hash.update(chunk as Buffer);
    bytes += (chunk as Buffer).byteLength;
  }
  return { bytes, hash: hash.digest('hex') };
}

/** Writes text into a file as it is made, and says what was written. */
async function write(pieces: Iterable<string>, file: string, signal?: AbortSignal): Promise<WrittenFile> {
  const hash = createHash('sha256');
  let bytes = 0;
  const counted = function* () {
    for (const text of pieces) {
      const piece = Buffer.from(text);
      hash.update(piece);
      bytes += piece.byteLength;
      yield piece;
    }
  };
  await pipeline(Readable.from(counted()), createWriteStream(file), { signal });
  return { bytes, hash: hash.digest('hex') };
}

/** The tables of a study as files in a folder, and what each was written as. */
async function writeTables(
  document: StudyDocument,
  folder: string,
  doing: string,
  { signal, say }: Way,
): Promise<Map<string, WrittenFile>> {
  await mkdir(path.join(folder, 'data'), { recursive: true });
  const written = new Map<string, WrittenFile>();
  // Readings, their levels and their parts are nearly all of the rows.
  const all = document.readings.reduce((sum, { levels, parts }) => sum + 1 + levels.length + parts.length, 1);
  let done = 0;
  const counted = function* (rows: Iterable<Cell[]>) {
    for (const row of rows) {
      done += 1;
      if (done % 1000 === 0) say?.({ doing, share: Math.min(1, done / all) });
      yield row;
    }
  };
  for (const table of packageTables(document)) {
    const name = tablePath(table.name);
    const pieces = tableCsv({ ...table, rows: () => counted(table.rows()) });
    written.set(name, await write(pieces, path.join(folder, name), signal));
  }
  return written;
}

/** What is kept beside a study, by its paths in a package. */
const keptNames = ({ notes, files }: StudyDocument): Set<string> =>
  new Set([
    ...notes.flatMap(({ photo }) => (photo === null ? [] : [`photos/${photo}`])),
    ...files.map(({ file }) => `files/${file}`),
  ]);

/**
 * Writes a study as a zipped Tabular Data Package: a table each of what is compared, read and decided, the study as one
 * document, its photos, and the files that readings were worked out from.
 * @param kept where photos and files are kept
 */
export async function writePackage(
  document: StudyDocument,
  kept: Kept,
  file: string,
  way: Way = {},
): Promise<void> {
  const { signal, say } = way;
  const folder = await mkdtemp(path.join(tmpdir(), 'brackenridge-package-'));
  try {
    const written = await writeTables(document, folder, 'Writing the tables', way);
    say?.({ doing: 'Writing the study', share: null });
    // Of the same state as the tables, whatever is recorded meanwhile.
    const study = await write(studyJsonPieces(document), path.join(folder, STUDY_IN_PACKAGE), signal);
    written.set(STUDY_IN_PACKAGE, study);
    say?.({ doing: 'Zipping it', share: null });
    const zip = new yazl.ZipFile();
    for (const name of written.keys()) zip.addFile(path.join(folder, name), name);
    for (const name of keptNames(document)) {
      const { folder: where } = keptAs(name) ?? {};
      if (where === undefined) continue;
      const there = path.join(kept[where], path.basename(name));
      if (!existsSync(there)) continue;
      written.set(name, await writtenAs(there));
      zip.addFile(there, name, { compress: isCompressible(name) });
    }
    const description = `${JSON.stringify(dataPackage(document, written), null, 1)}\n`;
    zip.addBuffer(Buffer.from(description), DATA_PACKAGE);
    zip.end();
    await pipeline(zip.outputStream, createWriteStream(file, { mode: 0o600 }), { signal });
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** The files that a package says it holds, by their paths. */
function described(text: string): { resources: Map<string, string>; comparable: boolean } {
  const refuse = (why: string) => notReadable(`${DATA_PACKAGE}: ${why}`);
  let parsed: unknown;
  try {
    parsed = JSON.parse(text);
  } catch {
    throw refuse('it is not JSON.');
  }
  const { brackenridge, resources } = (parsed ?? {}) as {
    brackenridge?: { tables?: unknown; formatVersion?: unknown };
    resources?: unknown;
  };
  if (typeof brackenridge?.tables !== 'number' || !Array.isArray(resources)) {
    throw refuse('it does not say that it is a study of Brackenridge.');
  }
  const found = new Map<string, string>();
  for (const resource of resources as ({ path?: unknown; hash?: unknown } | null)[]) {
    const { path: name, hash } = resource ?? {};
    const sha256 = /^sha256:([0-9a-f]{64})$/.exec(String(hash))?.[1];
    if (typeof name !== 'string' || sha256 === undefined) {
      throw refuse('each file needs a path and a SHA-256.');
    }
    found.set(name, sha256);
  }
  return {
    resources: found,
    comparable: brackenridge.tables === TABLES_VERSION && brackenridge.formatVersion === STUDY_FORMAT_VERSION,
  };
}

/**
 * Unpacks a package and checks it: every file that it names is there and as it was written, nothing else is in it, and its
 * tables are those of the study beside them.
 * @param read reads the study, and refuses what is none
 * @param kept where photos and files are kept; those of the package are put there
 * @returns what was read of the study
 * @throws Problem for what is no package, is damaged, or does not go together
 */
export async function readPackage<T extends { whole: StudyDocument }>(
  file: string,
  kept: Kept,
  read: (study: string) => Promise<T>,
  way: Way = {},
): Promise<T> {
  const folder = await mkdtemp(path.join(tmpdir(), 'brackenridge-unpacked-'));
  try {
    way.say?.({ doing: 'Unpacking it', share: null });
    for (const inner of ['data', ...KEPT_FOLDERS]) await mkdir(path.join(folder, inner));
    const there = new Map<string, WrittenFile>();
    // Recordings are not compressed: beyond what text may grow to, no package holds more than came.
    const limits = { ...LIMITS, bytes: LIMITS.bytes + (await stat(file)).size };
    await eachEntry(file, limits, async (name, open, bytes) => {
      if (name.endsWith('/')) return;
      const known =
        name === DATA_PACKAGE || name === STUDY_IN_PACKAGE || TABLE.test(name) || keptAs(name) !== undefined;
      if (!known || there.has(name)) {
        throw notReadable(
          `It holds “${name.slice(0, 80)}”${known ? ' twice' : ', which is no part of a study'}.`,
        );
      }
      if (name === DATA_PACKAGE && bytes > MOST_DESCRIPTION)
        throw notReadable(`${DATA_PACKAGE} is too large.`);
      const unpacked = path.join(folder, name);
      await pipeline(await open(), createWriteStream(unpacked, { flags: 'wx' }), { signal: way.signal });
      there.set(name, await writtenAs(unpacked));
    });
    if (!there.has(DATA_PACKAGE)) throw notReadable(`It holds no ${DATA_PACKAGE}, so it is no package.`);
    const { resources, comparable } = described(await readFile(path.join(folder, DATA_PACKAGE), 'utf8'));
    if (!resources.has(STUDY_IN_PACKAGE)) throw notReadable(`It holds no ${STUDY_IN_PACKAGE}.`);
    for (const [name, hash] of resources) {
      const found = there.get(name);
      if (!found) throw notReadable(`${name} is named in ${DATA_PACKAGE} and is not in the file.`);
      if (found.hash !== hash) {
        throw notReadable(
          `${name} is not as it was written: it was changed or is damaged. The study is in ${STUDY_IN_PACKAGE}.`,
        );
      }
    }
    const unnamed = [...there.keys()].find((name) => name !== DATA_PACKAGE && !resources.has(name));
    if (unnamed !== undefined) throw notReadable(`${unnamed} is not named in ${DATA_PACKAGE}.`);
    const study = await read(path.join(folder, STUDY_IN_PACKAGE));
    // Another version of the program may have made other tables of the same study.
    if (comparable) await checkTables(study.whole, resources, folder, way);
    await keepAll([...there], folder, kept);
    return study;
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** Refuses tables that are not those of the study beside them. */
async function checkTables(
  document: StudyDocument,
  resources: ReadonlyMap<string, string>,
  folder: string,
  way: Way,
): Promise<void> {
  const again = path.join(folder, 'again');
  const written = await writeTables(document, again, 'Checking its tables', way);
  for (const [name, { hash }] of written) {
    if (!resources.has(name)) throw notReadable(`The table ${name} is missing.`);
    if (resources.get(name) !== hash) {
      throw notReadable(
        `${name} does not go with ${STUDY_IN_PACKAGE}: one of the two was changed. Import ${STUDY_IN_PACKAGE} alone, or the table as a new study.`,
      );
    }
  }
}

/** Puts photos and files where they are kept: each under the hash of what is in it, which is checked. */
async function keepAll(
  files: readonly (readonly [string, WrittenFile])[],
  folder: string,
  kept: Kept,
): Promise<void> {
  for (const [name, { hash }] of files) {
    const named = keptAs(name);
    if (named === undefined) continue;
    if (named.hash !== hash)
      throw notReadable(`The ${KEPT_WORD[named.folder]} ${name} is not the one that its name says.`);
    await mkdir(kept[named.folder], { recursive: true });
    const place = path.join(kept[named.folder], path.basename(name));
    if (existsSync(place) && (await stat(place)).size > 0) continue;
    const half = halfOf(place);
    await copyFile(path.join(folder, name), half);
    await rename(half, place);
  }
}
