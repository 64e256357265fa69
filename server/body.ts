import { createWriteStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Context } from 'hono';
import { v7 } from 'uuid';
import type { TSchema } from 'typebox';
import { MOST_FILE_BYTES, MOST_READINGS } from '../core/model/limits.ts';
import { invalid, Problem } from './problems.ts';
import { schemaProblems } from './validate.ts';

/** Largest body of an ordinary request, in bytes. */
export const BODY_LIMIT = 1024 * 1024;
/** Largest file to import, in bytes: what the most readings that a study may have can take, with room to spare. */
export const IMPORT_LIMIT = 2000 * MOST_READINGS;

/** Largest package to import, in bytes: all that the files of a study may take, with room to spare. */
export const PACKAGE_LIMIT = MOST_FILE_BYTES + IMPORT_LIMIT;

/** The pieces of a request's body as they arrive. @throws Problem 413 behind the limit, in bytes */
export async function* pieces(context: Context, limit: number): AsyncGenerator<Uint8Array> {
  const tooLarge = () =>
    new Problem(
      413,
      'Too large',
      `This is too large: at most ${String(Math.floor(limit / 1024 / 1024))} MB can be sent here. Nothing was changed.`,
    );
  if (Number(context.req.header('content-length') ?? 0) > limit) throw tooLarge();
  let size = 0;
  const stream = context.req.raw.body;
  if (!stream) return;
  for await (const piece of stream as unknown as AsyncIterable<Uint8Array>) {
    size += piece.byteLength;
    if (size > limit) throw tooLarge();
    yield piece;
  }
}

/**
 * The bytes of a request's body, read only as far as the limit goes.
 * @throws Problem 413 when there are more
 */
export async function limitedBody(context: Context, limit: number): Promise<Uint8Array> {
  const read: Uint8Array[] = [];
  for await (const piece of pieces(context, limit)) read.push(piece);
  return Buffer.concat(read);
}

/**
 * Writes a request's body to a file, however large, and has something done with it; the file is gone afterwards.
 * @param limit bytes
 * @throws Problem 413 when there is more than that
 */
export async function arrivedFile<T>(
  context: Context,
  work: (file: string) => Promise<T>,
  limit = IMPORT_LIMIT,
): Promise<T> {
  const file = path.join(tmpdir(), `brackenridge-${v7()}`);
  try {
    await pipeline(Readable.from(pieces(context, limit)), createWriteStream(file, { mode: 0o600 }));
    return await work(file);
  } finally {
    await rm(file, { force: true });
  }
}

/** The media type of a request, without its parameters. */
export const mediaType = (context: Context): string =>
  (context.req.header('content-type') ?? '').split(';')[0]?.trim().toLowerCase() ?? '';

const HALF_CHARACTER = /\\u[dD][89a-fA-F]/;

/** Understands JSON text; a BOM in front of it is skipped. */
export function parseJson(bytes: Uint8Array): unknown {
  try {
    const text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    // Half of a character is kept as the sign that stands for one, by the database too.
    return HALF_CHARACTER.test(text)
      ? JSON.parse(text, (_key, value: unknown) =>
          typeof value === 'string' ? Buffer.from(value).toString() : value,
        )
      : JSON.parse(text);
  } catch (error) {
    const where = error instanceof SyntaxError ? ` ${error.message}.` : '';
    throw new Problem(400, 'Not JSON', `This is not valid JSON.${where}`);
  }
}

/**
 * The JSON body of a request, checked by a schema.
 * @throws Problem 415, 413, 400 or 422
 */
export async function jsonBody(context: Context, schema: TSchema): Promise<Record<string, unknown>> {
  if (mediaType(context) !== 'application/json') {
    throw new Problem(415, 'Wrong media type', 'Send JSON, with the content type application/json.');
  }
  const value = parseJson(await limitedBody(context, BODY_LIMIT));
  const problems = schemaProblems(schema, value);
  if (problems.length > 0) throw invalid(problems);
  return value as Record<string, unknown>;
}
