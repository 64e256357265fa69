import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream, mkdirSync } from 'node:fs';
import { rename, rm, stat } from 'node:fs/promises';
import path from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { Hono } from 'hono';
import { v7 } from 'uuid';
import { pieces } from '../body.ts';
import { isThere } from '../kept.ts';
import { Problem, notFound } from '../problems.ts';

/** Largest file that readings are worked out from, bytes: what one text of a page can hold. */
const MOST_BYTES = 500e6;

/** Refuses what is no text, as it comes. */
async function* textOnly(arriving: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
  const decoder = new TextDecoder('utf-8', { fatal: true });
  for await (const piece of arriving) {
    try {
      decoder.decode(piece, { stream: true });
    } catch {
      throw new Problem(415, 'No trace', 'The file is not text in UTF-8.');
    }
    if (piece.includes(0)) throw new Problem(415, 'No trace', 'The file is not text.');
    yield piece;
  }
}

/**
 * Files that readings are worked out from, beside the database: each under the hash of what is in it, as it came.
 * @param folder where they are kept
 */
export function fileRoutes(folder: string): Hono {
  const routes = new Hono();
  mkdirSync(folder, { recursive: true });

  routes.post('/', async (context) => {
    const half = path.join(folder, `${v7()}.part`);
    const hash = createHash('sha256');
    let bytes = 0;
    const hashed = async function* () {
      for await (const piece of textOnly(pieces(context, MOST_BYTES))) {
        hash.update(piece);
        bytes += piece.byteLength;
        yield piece;
      }
    };
    try {
      await pipeline(Readable.from(hashed()), createWriteStream(half, { mode: 0o600, flush: true }));
      if (bytes === 0) throw new Problem(415, 'No trace', 'The file is empty.');
      const name = `${hash.digest('hex')}.csv`;
      await rename(half, path.join(folder, name));
      return context.json({ name, bytes }, 201);
    } finally {
      await rm(half, { force: true });
    }
  });

  routes.get('/:name', async (context) => {
    const name = context.req.param('name');
    const file = path.join(folder, name);
    if (!/^[0-9a-f]{64}\.csv$/.test(name) || !(await isThere(file))) throw notFound('file');
    return context.body(Readable.toWeb(createReadStream(file)) as ReadableStream, 200, {
      'Content-Type': 'text/csv; charset=utf-8',
      'Content-Length': String((await stat(file)).size),
      'Cache-Control': 'private, max-age=31536000, immutable',
    });
  });

  return routes;
}
