import { Hono } from 'hono';
import pLimit from 'p-limit';
import { BackupProblem, backUp } from '../backup/backup.ts';
import { Problem } from '../problems.ts';
import { madeFile } from './made-file.ts';

/**
 * Everything in the server's folder as one zip file, made and read through while the server goes on.
 * @param data folder of the server
 */
export function backupRoutes(data: string): Hono {
  const routes = new Hono();
  // A second one waits: two at once would only take each other's time.
  const inTurn = pLimit(1);
  routes.get('/', (context) => {
    const name = `brackenridge-${new Date().toISOString().slice(0, 10)}.zip`;
    return madeFile(context, { name, type: 'application/zip' }, async (file) => {
      try {
        await inTurn(() => backUp(data, file));
      } catch (error) {
        throw error instanceof BackupProblem ? new Problem(500, 'Not backed up', error.message) : error;
      }
    });
  });
  return routes;
}
