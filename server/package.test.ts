import { createHash } from 'node:crypto';
import { createWriteStream, existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { mkdir } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Package } from 'datapackage';
import { afterAll, describe, expect, it } from 'vitest';
import yazl from 'yazl';
import { v7 } from 'uuid';
import deskFans from '../demo/desk-fans.json' with { type: 'json' };
import type { StudyDocument } from '../core/model/study-document.ts';
import { keptIn } from './kept.ts';
import { sharedServer, testServer } from './testing.ts';
import { eachEntry } from './zip.ts';

const server = await sharedServer();
const folder = mkdtempSync(path.join(tmpdir(), 'brackenridge-packages-'));
afterAll(() => {
  rmSync(folder, { recursive: true, force: true });
});

const ASKED = { host: '127.0.0.1:4680' };
const IMPORT = 'http://127.0.0.1:4680/api/v1/studies/import';

async function exported(from: typeof server, studyId: string): Promise<Buffer> {
  const answer = await from.app.request(`http://127.0.0.1:4680/api/v1/studies/${studyId}/export.zip`, {
    headers: ASKED,
  });
  expect([answer.status, answer.headers.get('content-type')]).toEqual([200, 'application/zip']);
  return Buffer.from(await answer.arrayBuffer());
}

async function take(into: typeof server, zip: Buffer, query = '') {
  const answer = await into.app.request(`${IMPORT}${query}`, {
    method: 'POST',
    headers: { ...ASKED, 'content-type': 'application/zip' },
    body: new Uint8Array(zip),
  });
  return { status: answer.status, body: (await answer.json()) as Record<string, unknown> };
}

/** What is in a zip, file by file. */
async function unpacked(zip: Buffer): Promise<Map<string, Buffer>> {
  const file = path.join(folder, `${v7()}.zip`);
  writeFileSync(file, zip);
  const files = new Map<string, Buffer>();
  await eachEntry(file, { bytes: 1e9, entries: 1000, refuse: Error }, async (name, open) => {
    const chunks: Buffer[] = [];
    for await (const chunk of await open()) chunks.push(chunk as Buffer);
    files.set(name, Buffer.concat(chunks));
  });
  return files;
}

async function packed(files: Iterable<readonly [string, Buffer]>): Promise<Buffer> {
  const zip = new yazl.ZipFile();
  for (const [name, bytes] of files)
    if (name.endsWith('/')) zip.addEmptyDirectory(name);
    // To compress nothing takes a thread each time.
    else zip.addBuffer(bytes, name, { compress: bytes.length > 0 });
  zip.end();
  const file = path.join(folder, `${v7()}.zip`);
  await pipeline(zip.outputStream, createWriteStream(file));
  return readFileSync(file);
}

const hashOf = (bytes: Buffer) => `sha256:${createHash('sha256').update(bytes).digest('hex')}`;

/** A package in which a file was changed, and its description with it. */
async function forged(zip: Buffer, name: string, change: (text: string) => string): Promise<Buffer> {
  const files = await unpacked(zip);
  const changed = Buffer.from(change((files.get(name) as Buffer).toString('utf8')));
  files.set(name, changed);
  const description = JSON.parse((files.get('datapackage.json') as Buffer).toString('utf8')) as {
    resources: { path: string; hash: string; bytes: number }[];
  };
  for (const resource of description.resources) {
    if (resource.path !== name) continue;
    resource.hash = hashOf(changed);
    resource.bytes = changed.length;
  }
  files.set('datapackage.json', Buffer.from(JSON.stringify(description)));
  return packed(files);
}

/** The fans on the server, with a photo to a reading. */
async function fansWithPhoto(): Promise<{ id: string; document: StudyDocument; photo: string }> {
  const { id } = deskFans.study;
  await server.send('POST', '/studies/import', JSON.stringify(deskFans));
  const { default: sharp } = await import('sharp');
  const picture = await sharp({ create: { width: 40, height: 30, channels: 3, background: '#468' } })
    .png()
    .toBuffer();
  const answer = await server.app.request('http://127.0.0.1:4680/api/v1/photos', {
    method: 'POST',
    headers: { ...ASKED, 'content-type': 'image/png' },
    body: new Uint8Array(picture),
  });
  const { name: photo } = (await answer.json()) as { name: string };
  const { body } = await server.send('GET', `/studies/${id}/document`);
  const before = body as unknown as StudyDocument;
  if (!before.notes.some((note) => note.photo === photo)) {
    await server.send('POST', `/studies/${id}/notes`, {
      ...{ id: v7(), readingId: before.readings[0]?.id, itemId: null, sessionId: null, run: null },
      ...{ text: '=2+2 as it stood', photo, removed: false, notedAt: '2026-05-04T10:00:00.000Z' },
    });
  }
  const { body: after } = await server.send('GET', `/studies/${id}/document`);
  return { id, photo, document: after as unknown as StudyDocument };
}

/** Studies with every kind of part among them: weights, levels, conditions, an earlier test. */
const demos = ['desk-fans.json', 'tap-aerators.json', 'vacuum-flasks-again.json'].map(
  (file) => [file, JSON.parse(readFileSync(`demo/${file}`, 'utf8')) as StudyDocument] as const,
);

describe('a study as a package', () => {
  it.each(demos)('is valid to the published profile, tables, types and keys: %s', async (file, document) => {
    if (file !== 'desk-fans.json') await server.send('POST', '/studies/import', JSON.stringify(document));
    const { id } = file === 'desk-fans.json' ? await fansWithPhoto() : document.study;
    const files = await unpacked(await exported(server, id));
    const place = path.join(folder, file);
    for (const [name, bytes] of files) {
      await mkdir(path.dirname(path.join(place, name)), { recursive: true });
      writeFileSync(path.join(place, name), bytes);
    }
    // The validator of the specification’s authors, from the registry of packages.
    const found = await Package.load(path.join(place, 'datapackage.json'), { strict: true });
    expect(found.errors).toEqual([]);
    const tables = found.resources.filter(({ tabular }) => tabular);
    expect(tables.length).toBe(17);
    for (const table of tables) {
      const rows = (await table.read({ keyed: true, relations: true })) as unknown[];
      const key = table.name as keyof StudyDocument;
      const parts: unknown = document[key];
      if (Array.isArray(parts) && key !== 'notes') expect(rows, table.name).toHaveLength(parts.length);
    }
  });
  it('says of each of its files how long it is, and its hash', async () => {
    const { id } = await fansWithPhoto();
    const files = await unpacked(await exported(server, id));
    const { resources } = JSON.parse((files.get('datapackage.json') as Buffer).toString('utf8')) as {
      resources: { path: string; bytes: number; hash: string }[];
    };
    expect(resources.map(({ path: name }) => name).sort()).toEqual(
      [...files.keys()].filter((name) => name !== 'datapackage.json').sort(),
    );
    for (const { path: name, bytes, hash } of resources) {
      const there = files.get(name) as Buffer;
      expect([bytes, hash], name).toEqual([there.length, hashOf(there)]);
    }
  });
  it('is the same study again on an empty server, photos included', async () => {
    const { id, document, photo } = await fansWithPhoto();
    const zip = await exported(server, id);
    const other = await testServer();
    try {
      const taken = await take(other, zip);
      expect([taken.status, taken.body.readings]).toEqual([201, document.readings.length]);
      expect((await other.send('GET', `/studies/${id}/document`)).body).toEqual(document);
      // The picture itself, and the smaller copy that pages show, which is drawn when it is asked for.
      for (const query of ['', '?original=yes']) {
        const answer = await other.app.request(`http://127.0.0.1:4680/api/v1/photos/${photo}${query}`, {
          headers: ASKED,
        });
        expect(answer.status).toBe(200);
      }
      const again = await take(other, zip);
      expect([again.status, again.body.already]).toEqual([200, true]);
      expect((await take(other, zip, '?copy=yes')).status).toBe(201);
      expect((await exported(other, id)).length).toBeGreaterThan(1000);
      // A picture that a full disk left empty is put right; one that is there is left alone.
      const kept = path.join(keptIn(other.folder).photos, photo);
      const whole = readFileSync(kept);
      writeFileSync(kept, '');
      expect((await take(other, zip, '?copy=yes')).status).toBe(201);
      expect(readFileSync(kept).equals(whole)).toBe(true);
      writeFileSync(kept, 'as it is');
      expect((await take(other, zip, '?copy=yes')).status).toBe(201);
      expect(readFileSync(kept, 'utf8')).toBe('as it is');
    } finally {
      await other.close();
    }
  });
  it('has tables that no spreadsheet runs', async () => {
    const { id } = await fansWithPhoto();
    const notes = (await unpacked(await exported(server, id))).get('data/notes.csv')?.toString('utf8');
    expect(notes).toContain("'=2+2 as it stood");
    expect(notes?.endsWith('\r\n')).toBe(true);
  });
});

describe('refused, with what and where, is a package', () => {
  const refusal = async (zip: Buffer) => {
    const { status, body } = await take(server, zip);
    expect(status).toBe(422);
    return String(body.detail);
  };
  const fans = async () => exported(server, (await fansWithPhoto()).id);
  it('that is no zip, is cut off, or is another program’s', async () => {
    expect(await refusal(Buffer.from('not a zip'))).toMatch(/^It is no zip file/);
    const zip = await fans();
    expect(await refusal(zip.subarray(0, zip.length / 2))).toMatch(/zip file|cannot be read/);
    expect(await refusal(await packed(new Map([['study.json', Buffer.from('{}')]])))).toBe(
      'It holds no datapackage.json, so it is no package.',
    );
    for (const description of ['null', '7', '{"brackenridge":{"tables":1},"resources":[null]}', '{']) {
      const nothing = new Map([['datapackage.json', Buffer.from(description)]]);
      expect(await refusal(await packed(nothing))).toMatch(/^datapackage\.json: /);
    }
    for (const resource of [
      { path: 'data/items.csv' },
      { hash: `sha256:${'0'.repeat(64)}` },
      { path: 'data/items.csv', hash: 'sha256:0' },
    ]) {
      const description = { brackenridge: { tables: 1 }, resources: [resource] };
      const nothing = new Map([['datapackage.json', Buffer.from(JSON.stringify(description))]]);
      expect(await refusal(await packed(nothing))).toBe(
        'datapackage.json: each file needs a path and a SHA-256.',
      );
    }
    const strange = await unpacked(zip);
    strange.set('readme.exe', Buffer.from('x'));
    expect(await refusal(await packed(strange))).toBe('It holds “readme.exe”, which is no part of a study.');
  });
  it('with a table that is missing, changed, or not that of its study', async () => {
    const zip = await fans();
    const files = await unpacked(zip);
    files.delete('data/items.csv');
    expect(await refusal(await packed(files))).toBe(
      'data/items.csv is named in datapackage.json and is not in the file.',
    );
    const changed = await unpacked(zip);
    changed.set('data/readings.csv', Buffer.from('id\r\n'));
    expect(await refusal(await packed(changed))).toMatch(/^data\/readings\.csv is not as it was written/);
    expect(await refusal(await forged(zip, 'data/readings.csv', (csv) => csv.replace('3.4', '9.4')))).toMatch(
      /^data\/readings\.csv does not go with study\.json/,
    );
    const item = deskFans.items[0]?.id ?? '';
    expect(await refusal(await forged(zip, 'data/readings.csv', (csv) => csv.replace(item, v7())))).toMatch(
      /^data\/readings\.csv does not go with study\.json/,
    );
  });
  it('with an entry that is there twice, or is not named; folders say nothing', async () => {
    const files = await unpacked(await fans());
    const table = files.get('data/items.csv') ?? Buffer.alloc(0);
    expect(await refusal(await packed([...files, ['data/items.csv', table]]))).toBe(
      'It holds “data/items.csv” twice.',
    );
    expect(await refusal(await packed([...files, ['data/others.csv', table]]))).toBe(
      'data/others.csv is not named in datapackage.json.',
    );
    const withFolder = await packed([['data/', Buffer.alloc(0)], ...files]);
    const there = await take(server, withFolder);
    expect([there.status, there.body.already]).toEqual([200, true]);
  });
  it('whose study is broken, from the future, or points to nothing', async () => {
    const zip = await fans();
    expect((await take(server, await forged(zip, 'study.json', () => '{'))).status).toBe(400);
    const future = (json: string) => json.replace(/"formatVersion": ?\d+/, '"formatVersion": 99');
    expect((await take(server, await forged(zip, 'study.json', future))).status).toBe(422);
    const astray = (json: string) => json.replaceAll(deskFans.measurands[0]?.id ?? '', v7());
    expect((await take(server, await forged(zip, 'study.json', astray))).status).toBe(422);
  });
  it('with paths that climb out, a photo under a false name, or a bomb', async () => {
    const zip = await fans();
    const climbing = Buffer.from(zip);
    // The path of an entry is written twice: where it begins, and in the directory at the end.
    for (
      let place = climbing.indexOf('study.json');
      place !== -1;
      place = climbing.indexOf('study.json', place + 1)
    ) {
      climbing.write('../../x.js', place);
    }
    expect(await refusal(climbing)).toMatch(/cannot be read|no part of a study/);
    expect(existsSync(path.join(server.folder, '../../x.js'))).toBe(false);
    const files = await unpacked(zip);
    const name = [...files.keys()].find((file) => file.startsWith('photos/')) ?? '';
    expect(await refusal(await forged(zip, name, () => 'another picture'))).toBe(
      `The photo ${name} is not the one that its name says.`,
    );
    const bomb = new yazl.ZipFile();
    // Four hundred gigabytes of nothing would come out of it; what it says of itself is enough.
    bomb.addReadStream(Readable.from([Buffer.alloc(1000)]), 'study.json');
    bomb.end();
    const file = path.join(folder, 'bomb.zip');
    await pipeline(bomb.outputStream, createWriteStream(file));
    const bytes = readFileSync(file);
    const directory = bytes.lastIndexOf(Buffer.from([0x50, 0x4b, 1, 2]));
    bytes.writeUInt32LE(0xfffffffe, directory + 24);
    expect(await refusal(bytes)).toMatch(/holds too much|cannot be read|too many/);
  });
  it('with too many files', async () => {
    const files = new Map(
      Array.from({ length: 30001 }, (_, i) => [`data/${String(i)}.csv`, Buffer.alloc(0)] as const),
    );
    expect(await refusal(await packed(files))).toBe('There are too many files in it.');
  });
});
