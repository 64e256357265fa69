import { createWriteStream, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { pipeline } from 'node:stream/promises';
import { afterAll, describe, expect, it } from 'vitest';
import yazl from 'yazl';
import { eachEntry } from './zip.ts';

const folder = mkdtempSync(path.join(tmpdir(), 'brackenridge-zip-'));
afterAll(() => {
  rmSync(folder, { recursive: true, force: true });
});

/** The names in a zip of three files of ten bytes each, or why it was refused. */
async function namesIn(limits: { bytes: number; entries: number }): Promise<string[] | string> {
  const file = path.join(folder, 'three.zip');
  const zip = new yazl.ZipFile();
  for (const name of ['a', 'b', 'c']) zip.addBuffer(Buffer.alloc(10), name);
  zip.end();
  await pipeline(zip.outputStream, createWriteStream(file));
  const names: string[] = [];
  return eachEntry(file, { ...limits, refuse: Error }, (name) => {
    names.push(name);
    return Promise.resolve();
  }).then(
    () => names,
    (error: unknown) => (error as Error).message,
  );
}

describe('the entries of a zip file', () => {
  it('are taken one after the other, up to as many and as much as is allowed', async () => {
    expect(await namesIn({ bytes: 30, entries: 3 })).toEqual(['a', 'b', 'c']);
    expect(await namesIn({ bytes: 30, entries: 2 })).toBe('There are too many files in it.');
    expect(await namesIn({ bytes: 29, entries: 3 })).toBe('It holds too much.');
  });
  it('are not looked for in what is no zip file', async () => {
    const file = path.join(folder, 'no.zip');
    writeFileSync(file, 'readings');
    await expect(
      eachEntry(file, { bytes: 1, entries: 1, refuse: Error }, () => Promise.resolve()),
    ).rejects.toThrow(/^It is no zip file/);
  });
});
