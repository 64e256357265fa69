import { type ChildProcess, spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { v7 } from 'uuid';
import { afterEach, describe, expect, it } from 'vitest';

const SERVER = path.join(import.meta.dirname, '../dist/node/server.js');
const folders: string[] = [];
const children: ChildProcess[] = [];

const newFolder = () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'brackenridge-start-'));
  folders.push(folder);
  return folder;
};

afterEach(() => {
  for (const child of children.splice(0)) child.kill('SIGKILL');
  for (const folder of folders.splice(0)) rmSync(folder, { recursive: true, force: true });
});

interface Started {
  child: ChildProcess;
  /** Its address; undefined where it ended instead. */
  address: string | undefined;
  said: string;
  code: number | null;
}

/** Starts the built server, and waits until it listens or ends. */
const start = (folder: string, ...more: string[]): Promise<Started> =>
  new Promise((resolve) => {
    const child = spawn(process.execPath, [SERVER, '--data', folder, ...more]);
    children.push(child);
    let said = '';
    const hear = (chunk: Buffer) => {
      said += chunk.toString();
      const address = /http:\/\/127\.0\.0\.1:\d+/.exec(said)?.[0];
      if (address) resolve({ child, address, said, code: null });
    };
    child.stdout.on('data', hear);
    child.stderr.on('data', hear);
    child.on('exit', (code) => {
      resolve({ child, address: undefined, said, code });
    });
  });

const post = (address: string) =>
  fetch(`${address}/api/v1/studies`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ id: v7(), title: 'Test', question: '', rounds: 1, seed: 1 }),
  });

const expectRefusal = ({ code, said }: Started, sentence: RegExp) => {
  expect(said).toMatch(sentence);
  expect(said.trim().split('\n')).toHaveLength(1);
  expect(code).toBe(1);
};

describe('a server that cannot start says why in one sentence', () => {
  it.each([
    ['an option that there is not', ['--nothing'], /nothing/],
    ['a port that is none', ['--port', 'x'], /“x” is no port/],
    ['a port too high', ['--port', '70000'], /“70000” is no port/],
  ])('%s', async (_what, more, sentence) => {
    expectRefusal(await start(newFolder(), ...more), sentence);
  });

  it('a database that is none, or is cut', async () => {
    const folder = newFolder();
    writeFileSync(
      path.join(folder, 'brackenridge.sqlite'),
      'no database at all, and long enough to be read as one'.repeat(99),
    );
    expectRefusal(await start(folder), /^The database in .* is damaged\. Move it aside/);
  });

  it('a folder that is a file', async () => {
    const file = path.join(newFolder(), 'file');
    writeFileSync(file, '');
    expectRefusal(await start(file), /is not a folder\. Name one by --data\./);
  });
});

describe('the port of a server', () => {
  it('is any free one where none is named', async () => {
    const portOf = ({ address = '' }: Started) => Number(new URL(address).port);
    const [first, second] = [portOf(await start(newFolder())), portOf(await start(newFolder()))];
    // Others may come and go meanwhile.
    for (const port of [first, second]) expect(port >= 4680 && port <= 4729, String(port)).toBe(true);
    expect(second).not.toBe(first);
    const third = portOf(await start(newFolder(), '--port', '0'));
    expect([first, second]).not.toContain(third);
  });
});

describe('a folder of data', () => {
  it('belongs to one server, also against --fresh, and is free once that was killed', async () => {
    const folder = newFolder();
    const first = await start(folder);
    expect((await post(first.address as string)).status).toBe(201);
    for (const more of [[], ['--fresh']]) {
      expectRefusal(await start(folder, ...more), /^Another Brackenridge server uses /);
    }
    first.child.kill('SIGKILL');
    await new Promise((resolve) => first.child.on('exit', resolve));
    const second = await start(folder);
    const listed = (await (await fetch(`${second.address as string}/api/v1/studies`)).json()) as unknown[];
    expect(listed).toHaveLength(1);
    second.child.kill('SIGTERM');
    await new Promise((resolve) => second.child.on('exit', resolve));
    const { address } = await start(folder, '--fresh');
    expect(await (await fetch(`${address as string}/api/v1/studies`)).json()).toEqual([]);
  });

  it('that was taken away under a server is not acknowledged into', async () => {
    const folder = newFolder();
    const { address } = await start(folder);
    renameSync(path.join(folder, 'brackenridge.sqlite'), path.join(folder, 'moved.sqlite'));
    const answer = await post(address as string);
    expect(answer.status).toBe(507);
    expect(await answer.json()).toMatchObject({ title: 'Database gone' });
    rmSync(folder, { recursive: true, force: true });
    mkdirSync(folder);
    expect((await post(address as string)).status).toBe(507);
  });

  it('where there was a database, and is none, is not begun again in silence', async () => {
    const folder = newFolder();
    const { child } = await start(folder);
    child.kill('SIGTERM');
    await new Promise((resolve) => child.on('exit', resolve));
    for (const end of ['', '-wal', '-shm'])
      rmSync(path.join(folder, `brackenridge.sqlite${end}`), { force: true });
    expectRefusal(await start(folder), /^There was a database in .*, and it is gone\./);
    expect((await start(folder, '--fresh')).address).toBeDefined();
  });
});
