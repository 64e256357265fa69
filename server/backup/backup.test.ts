import { createHash } from 'node:crypto';
import {
  createWriteStream,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { pipeline } from 'node:stream/promises';
import { v7 } from 'uuid';
import { afterAll, afterEach, describe, expect, it } from 'vitest';
import yazl from 'yazl';
import deskFans from '../../demo/desk-fans.json' with { type: 'json' };
import type { StudyDocument } from '../../core/model/study-document.ts';
import { copyDatabase } from '../sqlite/copy.ts';
import { openDatabase } from '../sqlite/open.ts';
import { Store } from '../store/store.ts';
import { documentText, insertDocument } from '../store/whole-study.ts';
import { backUp, inWords, restore } from './backup.ts';

const root = mkdtempSync(path.join(tmpdir(), 'brackenridge-backup-'));
const closing: (() => Promise<void>)[] = [];
afterEach(async () => {
  for (const close of closing.splice(0)) await close();
});
afterAll(() => {
  rmSync(root, { recursive: true, force: true });
});

let made = 0;
const place = (name: string) => {
  made += 1;
  return path.join(root, `${String(made)}-${name}`);
};

/** A store on a folder, as a running server has it. */
async function opened(data: string) {
  mkdirSync(data, { recursive: true });
  const database = await openDatabase(path.join(data, 'brackenridge.sqlite'));
  closing.push(() => database.close());
  return new Store(database);
}

const PICTURE = Buffer.from('as good as a picture');
const PHOTO = `${createHash('sha256').update(PICTURE).digest('hex')}.jpg`;
const TABLE = Buffer.from('time (s),A\n0,1\n1,2\n');
const TRACE = `${createHash('sha256').update(TABLE).digest('hex')}.csv`;

/** A folder with the desk fans and a note with a photo, and its open store. */
async function folderOfFans() {
  const data = place('data');
  const store = await opened(data);
  const document = structuredClone(deskFans) as unknown as StudyDocument;
  const stamp = {
    studyId: document.study.id,
    version: 1,
    createdAt: '2026-05-04T10:00:00.000Z',
    updatedAt: '2026-05-04T10:00:00.000Z',
  };
  document.notes.push({
    ...{ id: v7(), ...stamp, readingId: null, itemId: null, sessionId: null, run: null },
    ...{ text: 'Vane', photo: PHOTO, removed: false, notedAt: '2026-05-04T10:00:00.000Z' },
  });
  document.files.push({
    ...{ id: v7(), ...stamp, name: 'night.csv', file: TRACE, bytes: 1, note: '' },
    addedAt: '2026-05-04T10:00:00.000Z',
  });
  await store.database.write(() => insertDocument(store.database.writer, document), { transaction: true });
  mkdirSync(path.join(data, 'files'));
  writeFileSync(path.join(data, 'files', TRACE), TABLE);
  mkdirSync(path.join(data, 'photos'));
  writeFileSync(path.join(data, 'photos', PHOTO), PICTURE);
  return { data, store, document };
}

const textOf = async (store: Awaited<ReturnType<typeof opened>>, id: string) => {
  let text = '';
  for await (const piece of documentText(store.database, id)) text += piece;
  return JSON.parse(text) as StudyDocument;
};

/** A zip file with these entries. */
async function zipOf(entries: Record<string, Buffer>): Promise<string> {
  const file = place('made.zip');
  const zip = new yazl.ZipFile();
  for (const [name, bytes] of Object.entries(entries)) zip.addBuffer(bytes, name);
  zip.end();
  await pipeline(zip.outputStream, createWriteStream(file));
  return file;
}

describe('a backup', () => {
  it('made while readings are written brings back the same studies and photos', async () => {
    const { data, store, document } = await folderOfFans();
    const [first] = document.readings;
    const hand = { writing: true };
    let written = 0;
    const writing = (async () => {
      while (hand.writing) {
        await store.database.write(() =>
          store.createOnce('readings', { ...first, id: v7(), round: 9, studyId: document.study.id }),
        );
        written += 1;
      }
    })();
    const file = place('all.zip');
    const about = await backUp(data, file);
    hand.writing = false;
    await writing;
    expect(about).toMatchObject({ studies: 1, photos: 1, files: 1, missing: 0 });
    expect(about.readings).toBeGreaterThanOrEqual(document.readings.length);
    expect(about.readings).toBeLessThanOrEqual(document.readings.length + written);
    const back = place('back');
    expect(await restore(file, back)).toEqual(about);
    expect(readFileSync(path.join(back, 'photos', PHOTO))).toEqual(PICTURE);
    expect(readFileSync(path.join(back, 'files', TRACE))).toEqual(TABLE);
    const restored = await textOf(await opened(back), document.study.id);
    const now = await textOf(store, document.study.id);
    expect(restored).toEqual({ ...now, readings: now.readings.slice(0, about.readings) });
  });
  it('writes over nothing: neither a file, nor a folder with anything in it', async () => {
    const { data } = await folderOfFans();
    const file = place('all.zip');
    await backUp(data, file);
    await expect(backUp(data, file)).rejects.toThrow('is there already');
    await expect(restore(file, data)).rejects.toThrow('is not empty');
    await expect(backUp(place('nowhere'), place('x.zip'))).rejects.toThrow('There is no database');
    await expect(restore(place('no.zip'), place('y'))).rejects.toThrow('There is no file');
  });
  it('says how many photos and files were missing', async () => {
    const { data } = await folderOfFans();
    rmSync(path.join(data, 'photos', PHOTO));
    rmSync(path.join(data, 'files', TRACE));
    expect(await backUp(data, place('all.zip'))).toMatchObject({ photos: 0, files: 0, missing: 2 });
  });
  it('is said in words, one of something and many', async () => {
    const { data } = await folderOfFans();
    const about = await backUp(data, place('all.zip'));
    expect(inWords(about)).toBe('1 study, 145 readings, 1 photo, 1 file of traces');
    const many = { ...about, studies: 2, readings: 1, photos: 0 };
    delete many.files;
    expect(inWords(many)).toBe('2 studies, 1 reading, 0 photos, 0 files of traces');
  });
});

describe('what is no whole backup is refused, and leaves nothing behind', () => {
  const refused = async (file: string, why: RegExp) => {
    const data = place('back');
    await expect(restore(file, data)).rejects.toThrow(why);
    expect(existsSync(data)).toBe(false);
    expect(readdirSync(root).filter((name) => name.includes('.part-'))).toEqual([]);
  };
  const about = (change = {}) =>
    Buffer.from(
      JSON.stringify({
        ...{ format: 'brackenridge-backup', madeAt: '', studies: 0, readings: 0, photos: 0, missing: 0 },
        ...{ sha256: createHash('sha256').update('x').digest('hex'), ...change },
      }),
    );
  it('a file that is cut off, at any place', async () => {
    const { data } = await folderOfFans();
    const file = place('all.zip');
    await backUp(data, file);
    const whole = readFileSync(file);
    for (const share of [0, 0.3, 0.7, 0.99]) {
      const cut = place('cut.zip');
      writeFileSync(cut, whole.subarray(0, Math.floor(share * whole.length)));
      await refused(cut, /zip file|cannot be read/);
    }
  });
  it('one with a changed byte in its database', async () => {
    const { data } = await folderOfFans();
    const file = place('all.zip');
    await backUp(data, file);
    const bytes = readFileSync(file);
    const middle = Math.floor(bytes.length / 2);
    bytes.writeUInt8(bytes.readUInt8(middle) ^ 0xff, middle);
    const changed = place('changed.zip');
    writeFileSync(changed, bytes);
    await refused(changed, /./);
  });
  it('no zip at all, or another program’s', async () => {
    const text = place('text.zip');
    writeFileSync(text, 'readings\n');
    await refused(text, /no zip file/);
    await refused(await zipOf({ 'a.txt': Buffer.from('x') }), /no part of a backup/);
    await refused(await zipOf({ 'about.json': Buffer.from('{}') }), /no backup of Brackenridge/);
  });
  it('one that is not what it says: another program’s, another database, fewer files, other counts', async () => {
    const { data } = await folderOfFans();
    const database = readFileSync(path.join(data, 'brackenridge.sqlite'));
    const hash = (bytes: Buffer) => createHash('sha256').update(bytes).digest('hex');
    const say = (change: object) => ({ 'about.json': about({ sha256: hash(database), ...change }) });
    const held = { 'brackenridge.sqlite': database, [`photos/${PHOTO}`]: PICTURE, [`files/${TRACE}`]: TABLE };
    const whole = { photos: 1, files: 1 };
    const refusedZip = async (entries: Record<string, Buffer>, why: RegExp) => {
      await refused(await zipOf(entries), why);
    };
    await refusedZip(held, /^It is no backup of Brackenridge\.$/);
    await refusedZip(
      { ...say({ ...whole, format: 'another' }), ...held },
      /^It is no backup of Brackenridge\.$/,
    );
    await refusedZip({ ...say({ ...whole, sha256: 'x' }), ...held }, /^It is no backup of Brackenridge\.$/);
    await refusedZip(
      { 'about.json': Buffer.from('{"format"'), ...held },
      /^It is no backup of Brackenridge\.$/,
    );
    await refusedZip(
      { 'about.json': Buffer.alloc(10_001, ' '), ...held },
      /^It is no backup of Brackenridge\.$/,
    );
    await refusedZip(
      { ...say({ ...whole, sha256: hash(TABLE) }), ...held },
      /^The database in it is damaged\.$/,
    );
    await refusedZip({ ...say({ photos: 2, files: 1 }), ...held }, /^Photos are missing in it\.$/);
    await refusedZip({ ...say({ photos: 1, files: 2 }), ...held }, /^Files are missing in it\.$/);
    await refusedZip({ ...say({ photos: 1 }), ...held }, /^Files are missing in it\.$/);
    await refusedZip(
      { ...say(whole), ...held, [`photos/${'0'.repeat(64)}.jpg`]: PICTURE },
      /^The photo photos\/0{64}\.jpg is damaged\.$/,
    );
    const copy = place('copy.sqlite');
    await copyDatabase(path.join(data, 'brackenridge.sqlite'), copy);
    const complete = readFileSync(copy);
    for (const [bytes, why] of [
      [complete, /^The database in it is not the one that it says\.$/],
      // Of its tables nothing is in the file itself yet.
      [database, /^The copy of the database is damaged\.$/],
      [Buffer.from('x'), /^The copy of the database is damaged\.$/],
    ] as const) {
      const sha256 = hash(bytes);
      await refusedZip(
        { ...say({ ...whole, studies: 7, sha256 }), ...held, 'brackenridge.sqlite': bytes },
        why,
      );
    }
  });
  it('one with a file that does not belong there, or a photo under another’s name', async () => {
    await refused(
      await zipOf({ 'about.json': about(), 'server.js': Buffer.from('x') }),
      /no part of a backup/,
    );
    await refused(await zipOf({ 'about.json': about(), 'brackenridge.sqlite': Buffer.from('x') }), /./);
    await refused(
      await zipOf({
        'about.json': about({ photos: 2 }),
        'brackenridge.sqlite': Buffer.from('x'),
        [`photos/${PHOTO}`]: Buffer.from('other'),
      }),
      /Photos are missing|damaged/,
    );
  });
});
