import { Hono } from 'hono';
import { expect, it } from 'vitest';
import { streamedJson } from './streamed.ts';

it('lets go of what it reads from where the head alone is asked for', async () => {
  let [read, over] = [0, 0];
  async function* pieces() {
    try {
      for (const piece of ['[', '1', ']']) {
        read += 1;
        yield await Promise.resolve(piece);
      }
    } finally {
      over += 1;
    }
  }
  const app = new Hono().get('/', (context) => streamedJson(context, pieces()));
  expect(await (await app.request('/')).json()).toEqual([1]);
  expect([read, over]).toEqual([3, 1]);
  const head = await app.request('/', { method: 'HEAD' });
  expect([head.headers.get('content-type'), read, over]).toEqual(['application/json; charset=utf-8', 4, 2]);
});
