import { Readable } from 'node:stream';
import type { Context } from 'hono';
import { quoted } from '../../core/quantity/format.ts';
import { Problem } from '../problems.ts';

/** Answers with JSON text that is sent as it is read. */
export async function streamedJson(context: Context, pieces: AsyncGenerator<string>): Promise<Response> {
  // What is wrong is found at the first piece, before anything is sent.
  const first = await pieces.next();
  // Who asks for the head alone reads nothing, and what is read from must be let go.
  if (context.req.method === 'HEAD') await pieces.return(undefined);
  const bytes = async function* () {
    const encoder = new TextEncoder();
    if (!first.done) yield encoder.encode(first.value);
    for await (const piece of pieces) yield encoder.encode(piece);
  };
  context.header('Content-Type', 'application/json; charset=utf-8');
  return context.body(Readable.toWeb(Readable.from(bytes())) as unknown as ReadableStream);
}

/** A whole number that the query names, at most six digits long; infinite where it does not. */
export function wantedCount(context: Context, name: string): number {
  const asked = context.req.query(name);
  if (asked === undefined) return Infinity;
  if (/^\d{1,6}$/.test(asked)) return Number(asked);
  throw new Problem(400, 'Not a number', `“${name}” is a whole number, not ${quoted(asked)}.`);
}
