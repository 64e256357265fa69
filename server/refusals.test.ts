import { expect, it } from 'vitest';
import { createApp } from './app.ts';
import type { Database, Refusal } from './database.ts';
import { Heavy } from './heavy/heavy.ts';
import { Store } from './store/store.ts';
import { BUILT_THREAD, sharedServer } from './testing.ts';

const server = await sharedServer();

/** What is answered where the database throws something that it calls by this name. */
async function answeredTo(refusal: Refusal | undefined) {
  const database: Database = {
    ...server.database,
    writer: { ...server.database.writer, select: () => Promise.reject(new Error('as a test')) },
    refusal: () => refusal,
  };
  const heavy = new Heavy(BUILT_THREAD, server.file);
  const app = createApp(new Store(database), {
    data: server.folder,
    instruments: server.instruments,
    heavy,
  });
  const answer = await app.request('http://127.0.0.1:4680/api/v1/studies/any', {
    headers: { host: '127.0.0.1:4680' },
  });
  await heavy.close();
  return [answer.status, ((await answer.json()) as { title: string }).title];
}

it.each<[Refusal | undefined, number, string]>([
  ['gone', 507, 'Database gone'],
  ['full', 507, 'Disk full'],
  ['taken', 409, 'Already here'],
  ['dangling', 409, 'Not here'],
  ['damaged', 500, 'Server error'],
  [undefined, 500, 'Server error'],
])('a database that refuses by “%s” is answered with %i, %s', async (refusal, status, title) => {
  expect(await answeredTo(refusal)).toEqual([status, title]);
});
