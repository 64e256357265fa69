import { open, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';
import { Hono } from 'hono';
import pLimit from 'p-limit';
import { v7 } from 'uuid';
import { BackupProblem, backUp } from '../backup/backup.ts';
import { Problem } from '../problems.ts';

/**
 * Everything in the server's folder as one zip file, made and read through while the server goes on.
 * @param data folder of the server
 */
export function backupRoutes(data: string): Hono {
  const routes = new Hono();
  // A second one waits: two at once would only take each other's time.
  const inTurn = pLimit(1);
  routes.get('/', async (context) => {
    const day = new Date().toISOString().slice(0, 10);
    context.header('Content-Type', 'application/zip');
    context.header('Content-Disposition', `attachment; filename="brackenridge-${day}.zip"`);
    // Who asks for the head alone copies nothing.
    if (context.req.method === 'HEAD') return context.body(null);
    const file = path.join(tmpdir(), `brackenridge-${v7()}.zip`);
    try {
      await inTurn(() => backUp(data, file));
      const handle = await open(file);
      context.header('Content-Length', String((await handle.stat()).size));
      return context.body(Readable.toWeb(handle.createReadStream()) as unknown as ReadableStream);
    } catch (error) {
      if (error instanceof BackupProblem) throw new Problem(500, 'Not backed up', error.message);
      throw error;
    } finally {
      // It is open: what is read from it stays until it is closed, also when nobody reads it to the end.
      await rm(file, { force: true });
    }
  });
  return routes;
}
