import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream, mkdirSync, readdirSync, rmSync } from 'node:fs';
import { open, rename, rm, stat } from 'node:fs/promises';
import path from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { type Context, Hono } from 'hono';
import { v7 } from 'uuid';
import { isByteText, isUtf16 } from '../../core/formats/csv-read.ts';
import { FileProblem } from '../../core/formats/file-problem.ts';
import { wavHead } from '../../core/formats/wav.ts';
import { MOST_SOUND_BYTES } from '../../core/model/limits.ts';
import { pieces } from '../body.ts';
import { fileKind, isThere } from '../kept.ts';
import { Problem, notFound } from '../problems.ts';

/** Largest table, bytes: what one text of a page can hold. */
const MOST_TEXT = 500e6;

/** How the name of a file ends while it arrives. */
const HALF = '.part';
/** Bytes that are read at a time. */
const PIECE = 1 << 20;

const TYPES = { csv: 'text/csv; charset=utf-8', wav: 'audio/wav' } as const;

/** Refuses what is no text, as it comes: in UTF-16 by its mark, else without signs that no text holds. */
async function* textOnly(arriving: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
  let wide: boolean | undefined;
  for await (const piece of arriving) {
    if (piece.length === 0) continue;
    wide ??= isUtf16(piece);
    if (!wide && !isByteText(piece)) throw new Problem(415, 'No trace', 'The file is not text.');
    yield piece;
  }
}

/** Refuses what is no recording, with what it is where that can be said. */
async function soundOnly(file: string): Promise<void> {
  const handle = await open(file, 'r');
  try {
    const { size } = await handle.stat();
    await wavHead(async (from, length) => {
      const bytes = new Uint8Array(length);
      const { bytesRead } = await handle.read(bytes, 0, length, from);
      return bytes.subarray(0, bytesRead);
    }, size);
  } catch (error) {
    if (error instanceof FileProblem) throw new Problem(415, 'No recording', error.message);
    throw error;
  } finally {
    await handle.close();
  }
}

/** The first and the last byte that are asked for, of so many; undefined for all of them. */
function rangeOf(context: Context, size: number): { start: number; end: number } | undefined {
  const asked = context.req.header('range');
  if (asked === undefined) return undefined;
  const [, from = '', to = ''] = /^bytes=(\d{1,15})-(\d{0,15})$/.exec(asked) ?? [];
  const [start, end] = [Number(from), to === '' ? size - 1 : Math.min(Number(to), size - 1)];
  if (from === '' || start > end) {
    context.header('Content-Range', `bytes */${String(size)}`);
    throw new Problem(416, 'No such part', `The file has ${String(size)} bytes.`);
  }
  return { start, end };
}

/**
 * Files that readings are worked out from, beside the database: each under the hash of what is in it, as it came.
 * @param folder where they are kept
 */
export function fileRoutes(folder: string): Hono {
  const routes = new Hono();
  mkdirSync(folder, { recursive: true });
  // What was arriving when the server was killed is half a file, and nothing names it.
  for (const name of readdirSync(folder))
    if (name.endsWith(HALF)) rmSync(path.join(folder, name), { force: true });

  routes.post('/', async (context) => {
    const half = path.join(folder, `${v7()}${HALF}`);
    const hash = createHash('sha256');
    const sound = context.req.header('content-type')?.startsWith('audio/') ?? false;
    let bytes = 0;
    const hashed = async function* () {
      const arriving = pieces(context, sound ? MOST_SOUND_BYTES : MOST_TEXT);
      for await (const piece of sound ? arriving : textOnly(arriving)) {
        hash.update(piece);
        bytes += piece.byteLength;
        yield piece;
      }
    };
    try {
      await pipeline(Readable.from(hashed()), createWriteStream(half, { mode: 0o600, flush: true }));
      if (sound) await soundOnly(half);
      else if (bytes === 0) throw new Problem(415, 'No trace', 'The file is empty.');
      const name = `${hash.digest('hex')}.${sound ? 'wav' : 'csv'}`;
      await rename(half, path.join(folder, name));
      return context.json({ name, bytes }, 201);
    } finally {
      await rm(half, { force: true });
    }
  });

  routes.get('/:name', async (context) => {
    const name = context.req.param('name');
    const kind = fileKind(name);
    const file = path.join(folder, name);
    if (!kind || !(await isThere(file))) throw notFound('file');
    const { size } = await stat(file);
    const range = rangeOf(context, size);
    const { start, end } = range ?? { start: 0, end: size - 1 };
    return context.body(
      Readable.toWeb(createReadStream(file, { start, end, highWaterMark: PIECE })) as ReadableStream,
      range ? 206 : 200,
      {
        'Content-Type': TYPES[kind],
        'Content-Length': String(end - start + 1),
        'Accept-Ranges': 'bytes',
        ...(range ? { 'Content-Range': `bytes ${String(start)}-${String(end)}/${String(size)}` } : {}),
        'Cache-Control': 'private, max-age=31536000, immutable',
      },
    );
  });

  return routes;
}
