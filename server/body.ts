import type { Context } from 'hono';
import type { TSchema } from 'typebox';
import { invalid, Problem } from './problems.ts';
import { schemaProblems } from './validate.ts';

/** Largest body of an ordinary request, in bytes. */
export const BODY_LIMIT = 1024 * 1024;
/** Largest file to import, in bytes. */
export const IMPORT_LIMIT = 32 * 1024 * 1024;

/**
 * The bytes of a request's body, read only as far as the limit goes.
 * @throws Problem 413 when there are more
 */
export async function limitedBody(context: Context, limit: number): Promise<Uint8Array> {
  const tooLarge = () =>
    new Problem(
      413,
      'Too large',
      `This is too large: at most ${String(limit / 1024 / 1024)} MB can be sent here. Nothing was changed.`,
    );
  if (Number(context.req.header('content-length') ?? 0) > limit) throw tooLarge();
  const chunks: Uint8Array[] = [];
  let size = 0;
  const stream = context.req.raw.body;
  if (!stream) return new Uint8Array();
  for await (const chunk of stream as unknown as AsyncIterable<Uint8Array>) {
    size += chunk.byteLength;
    if (size > limit) throw tooLarge();
    chunks.push(chunk);
  }
  return Buffer.concat(chunks);
}

/** The media type of a request, without its parameters. */
export const mediaType = (context: Context): string =>
  (context.req.header('content-type') ?? '').split(';')[0]?.trim().toLowerCase() ?? '';

/** Understands JSON text; a BOM in front of it is passed by. */
export function parseJson(bytes: Uint8Array): unknown {
  try {
    return JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes));
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
