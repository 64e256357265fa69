import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { type Context, Hono } from 'hono';
import Type from 'typebox';
import { describe, expect, it } from 'vitest';
import { BODY_LIMIT, arrivedFile, jsonBody, limitedBody, parseJson } from './body.ts';
import { Problem } from './problems.ts';

const MB = 1024 * 1024;
const bytes = (text: string) => new TextEncoder().encode(text);

/** A body sent to something that reads it, piece by piece, with its length said or not. */
async function sent(
  read: (context: Context) => Promise<unknown>,
  pieces: readonly Uint8Array[],
  headers: Record<string, string> = {},
) {
  const app = new Hono();
  app.onError((error, context) =>
    error instanceof Problem
      ? context.json(error.body(), error.status)
      : context.json({ other: error.message }, 500),
  );
  app.post('/', async (context) => context.json({ read: await read(context) }));
  const body = new ReadableStream<Uint8Array>({
    start(controller) {
      for (const piece of pieces) controller.enqueue(piece);
      controller.close();
    },
  });
  const answer = await app.request('/', { method: 'POST', body, headers, duplex: 'half' } as RequestInit);
  return [answer.status, (await answer.json()) as Record<string, unknown>] as const;
}

describe('a body', () => {
  const read = async (context: Context) => (await limitedBody(context, 2 * MB)).length;
  it('is read as far as its limit, and what is beyond it is refused with the limit', async () => {
    const piece = new Uint8Array(MB);
    expect(await sent(read, [piece, piece])).toEqual([200, { read: 2 * MB }]);
    const [status, answer] = await sent(read, [piece, piece, Uint8Array.of(1)]);
    expect([status, answer.detail]).toEqual([
      413,
      'This is too large: at most 2 MB can be sent here. Nothing was changed.',
    ]);
    expect(BODY_LIMIT).toBe(MB);
  });
  it('is refused by what it says of its length, before it is read', async () => {
    const length = (count: number) => ({ 'content-length': String(count) });
    expect((await sent(read, [bytes('{}')], length(2 * MB + 1)))[0]).toBe(413);
    expect(await sent(read, [bytes('{}')], length(2 * MB))).toEqual([200, { read: 2 }]);
  });
  it('lies in a file that nobody else can read while something is done with it, and no longer', async () => {
    const seen: string[] = [];
    const work = (fails: boolean) => (context: Context) =>
      arrivedFile(context, (file) => {
        seen.push(file);
        return fails ? Promise.reject(new Error('as a test')) : readFile(file, 'utf8');
      });
    expect(await sent(work(false), [bytes('some'), bytes('thing')])).toEqual([200, { read: 'something' }]);
    expect((await sent(work(true), [bytes('x')]))[0]).toBe(500);
    const none = (context: Context) => arrivedFile(context, (file) => Promise.resolve(seen.push(file)), 3);
    expect((await sent(none, [bytes('four')]))[0]).toBe(413);
    expect(seen.map((file) => existsSync(file))).toEqual([false, false]);
  });
  it('is JSON of the media type and the form that are asked for', async () => {
    const schema = Type.Object({ name: Type.String() });
    const json = (context: Context) => jsonBody(context, schema);
    const as = (type: string) => ({ 'content-type': type });
    expect(await sent(json, [bytes('{"name":"a"}')], as('Application/JSON; charset=utf-8'))).toEqual([
      200,
      { read: { name: 'a' } },
    ]);
    expect((await sent(json, [bytes('{"name":"a"}')], as('text/plain')))[0]).toBe(415);
    expect((await sent(json, [bytes('{"name":"a"}')]))[0]).toBe(415);
    expect((await sent(json, [bytes('{"name":3}')], as('application/json')))[0]).toBe(422);
    expect((await sent(json, [bytes('{"name"')], as('application/json')))[0]).toBe(400);
  });
});

describe('JSON text', () => {
  const detail = (from: Uint8Array) => {
    try {
      return parseJson(from);
    } catch (error) {
      return error instanceof Problem ? error.detail : error;
    }
  };
  it('is read with its mark or without', () => {
    expect(parseJson(bytes('\ufeff[1, "ä"]'))).toEqual([1, 'ä']);
  });
  it('that is cut off says where; bytes that are no text say that alone', () => {
    expect(detail(bytes('{"a": }'))).toMatch(/^This is not valid JSON\. Unexpected token/);
    expect(detail(Uint8Array.of(0x22, 0xff, 0x22))).toBe('This is not valid JSON.');
  });
  it('keeps half of a character as the sign that stands for one', () => {
    expect(parseJson(bytes(String.raw`["a\ud83d", "\ud83d\ude00"]`))).toEqual(['a\ufffd', '😀']);
  });
});
