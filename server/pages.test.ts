import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { createApp } from './app.ts';
import { Heavy } from './heavy/heavy.ts';
import { Store } from './store/store.ts';
import { BUILT_THREAD, sharedServer } from './testing.ts';

const server = await sharedServer();
const heavy = new Heavy(BUILT_THREAD, server.file);
const folder = mkdtempSync(path.join(tmpdir(), 'brackenridge-pages-'));
afterAll(async () => {
  await heavy.close();
  rmSync(folder, { recursive: true, force: true });
});

/** What is answered by a server with some pages, or with none. */
async function answered(address: string, pages?: string) {
  const parts = { data: server.folder, instruments: server.instruments, heavy };
  const app = createApp(new Store(server.database), pages === undefined ? parts : { ...parts, pages });
  const answer = await app.request(`http://127.0.0.1:4680${address}`, {
    headers: { host: '127.0.0.1:4680' },
  });
  return { status: answer.status, cache: answer.headers.get('cache-control'), text: await answer.text() };
}

describe('the pages', () => {
  mkdirSync(path.join(folder, 'assets'));
  writeFileSync(path.join(folder, 'index.html'), `<script nonce="%NONCE%"></script>`);
  writeFileSync(path.join(folder, 'assets/index-1.js'), 'run();');
  writeFileSync(path.join(folder, 'service-worker.js'), 'serve();');
  writeFileSync(path.join(folder, 'icon.svg'), '<svg/>');
  it('are one page for whatever is asked for, each time with another nonce', async () => {
    const [first, second] = [await answered('/', folder), await answered('/study/any/rank', folder)];
    expect([first.status, second.status, first.cache]).toEqual([200, 200, 'no-store']);
    const nonces = [first, second].map(
      ({ text }) => /^<script nonce="([^"]{16,})"><\/script>$/.exec(text)?.[1],
    );
    expect(nonces[0]).toBeDefined();
    expect(nonces[1]).toBeDefined();
    expect(nonces[0]).not.toBe(nonces[1]);
  });
  it('have files that stay what they are, and others that are asked for each time', async () => {
    expect(await answered('/assets/index-1.js', folder)).toEqual({
      ...{ status: 200, text: 'run();', cache: 'public, max-age=31536000, immutable' },
    });
    expect(await answered('/service-worker.js', folder)).toMatchObject({
      text: 'serve();',
      cache: 'no-store',
    });
    expect(await answered('/icon.svg', folder)).toMatchObject({ status: 200, text: '<svg/>' });
  });
  it('lack a file of an earlier program, and say so', async () => {
    const { status, text } = await answered('/assets/index-0.js', folder);
    expect([status, (JSON.parse(text) as { detail: string }).detail]).toEqual([
      404,
      'There is no such file.',
    ]);
  });
  it('are none where they were not built', async () => {
    expect((await answered('/')).status).toBe(404);
    expect((await answered('/', path.join(folder, 'assets'))).status).toBe(404);
    expect((await answered('/api/v1/health')).status).toBe(200);
  });
});
