import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { FolderInUse, lockFolder } from './lock.ts';

const root = mkdtempSync(path.join(tmpdir(), 'brackenridge-lock-'));
afterAll(() => {
  rmSync(root, { recursive: true, force: true });
});

describe('a folder of data', () => {
  it('is made where there is none, and held by one server at a time', async () => {
    const folder = path.join(root, 'new', 'within');
    const release = await lockFolder(folder);
    await expect(lockFolder(folder)).rejects.toBeInstanceOf(FolderInUse);
    // Another one is free meanwhile.
    await (
      await lockFolder(path.join(root, 'other'))
    )();
    await release();
    await (
      await lockFolder(folder)
    )();
  });
  it('that cannot be made is not said to be in use', async () => {
    const file = path.join(root, 'file');
    writeFileSync(file, 'no folder');
    const refused = await lockFolder(path.join(file, 'data')).catch((error: unknown) => error);
    expect(refused).toBeInstanceOf(Error);
    expect(refused).not.toBeInstanceOf(FolderInUse);
  });
});
