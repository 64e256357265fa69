import { open, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';
import type { Context } from 'hono';
import { v7 } from 'uuid';

/**
 * Answers with a file that is made for it, under a name of its own, and gone as soon as it is sent.
 * @param name what the browser calls it
 * @param make writes the file, whose folder is there and which is not
 */
export async function madeFile(
  context: Context,
  { name, type }: { name: string; type: string },
  make: (file: string) => Promise<unknown>,
): Promise<Response> {
  context.header('Content-Type', type);
  context.header('Content-Disposition', `attachment; filename="${name}"`);
  // Who asks for the head alone has nothing made.
  if (context.req.method === 'HEAD') return context.body(null);
  const file = path.join(tmpdir(), `brackenridge-${v7()}${path.extname(name)}`);
  try {
    await make(file);
    const handle = await open(file);
    context.header('Content-Length', String((await handle.stat()).size));
    return context.body(Readable.toWeb(handle.createReadStream()) as unknown as ReadableStream);
  } finally {
    // What is open can still be read, also where nobody reads it to the end.
    await rm(file, { force: true });
  }
}
