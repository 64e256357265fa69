import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { v7 } from 'uuid';
import { afterAll, describe, expect, it } from 'vitest';
import { seededRandom } from '../core/random/seeded.ts';
import { type TestServer, testServer } from './testing.ts';

const ROOT = fileURLToPath(new URL('..', import.meta.url));
const folder = mkdtempSync(path.join(tmpdir(), 'brackenridge-kill-'));
let running: ChildProcess | undefined;
afterAll(() => {
  running?.kill('SIGKILL');
  rmSync(folder, { recursive: true, force: true });
});

/** Starts the built server on the folder's database and waits until it says where it is. */
async function start(): Promise<string> {
  const child = spawn(process.execPath, ['dist/node/server.js', '--data', folder, '--port', '0'], {
    cwd: ROOT,
  });
  running = child;
  return new Promise((resolve, reject) => {
    let said = '';
    child.stdout.on('data', (chunk: Buffer) => {
      said += chunk.toString();
      const address = /http:\/\/127\.0\.0\.1:\d+/.exec(said)?.[0];
      if (address) resolve(`${address}/api/v1`);
    });
    child.stderr.on('data', (chunk: Buffer) => {
      said += chunk.toString();
    });
    child.on('exit', () => {
      reject(new Error(`the server ended: ${said}`));
    });
  });
}

const killed = (child: ChildProcess) =>
  new Promise<void>((resolve) => {
    child.on('exit', () => {
      resolve();
    });
    child.kill('SIGKILL');
  });

describe('a reading that was acknowledged', () => {
  it(
    'survives kill -9 at 20 random moments, none missing and none doubled',
    { timeout: 240000 },
    async () => {
      const random = seededRandom(30);
      const bodies: Pick<TestServer, 'itemFields' | 'measurandFields' | 'readingFields' | 'close'> =
        await testServer();
      const study = { id: v7(), title: 'Killed', question: '', rounds: 500, seed: 1 };
      const item = bodies.itemFields('Ama', 'A');
      const measurand = bodies.measurandFields();
      const acknowledged = new Set<string>();
      let pending: ReturnType<typeof bodies.readingFields> | undefined;
      let api = await start();
      const post = (address: string, body: unknown) =>
        fetch(`${api}${address}`, {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify(body),
        });
      await post('/studies', study);
      await post(`/studies/${study.id}/items`, item);
      await post(`/studies/${study.id}/measurands`, measurand);

      for (let kill = 0; kill < 20; kill += 1) {
        const child = running as ChildProcess;
        const moment = 60 + random.below(400);
        const ending = new Promise((resolve) => setTimeout(resolve, moment)).then(() => killed(child));
        for (;;) {
          // What was not acknowledged is sent again under its id, as a browser does.
          pending ??= bodies.readingFields(item.id, measurand.id, String(acknowledged.size + 1));
          try {
            const answer = await post(`/studies/${study.id}/readings`, pending);
            if (!answer.ok) throw new Error(`refused with ${String(answer.status)}`);
            await answer.json();
            acknowledged.add(pending.id);
            pending = undefined;
          } catch (error) {
            if (error instanceof Error && error.message.startsWith('refused')) throw error;
            break;
          }
        }
        await ending;
        api = await start();
        const stored = (await (await fetch(`${api}/studies/${study.id}/readings`)).json()) as {
          id: string;
        }[];
        const ids = stored.map(({ id }) => id);
        expect(new Set(ids).size).toBe(ids.length);
        expect([...acknowledged].filter((id) => !ids.includes(id))).toEqual([]);
        // At most the one whose acknowledgement was lost on its way may be there besides.
        expect(ids.length - acknowledged.size).toBeLessThanOrEqual(1);
      }
      expect(acknowledged.size).toBeGreaterThan(20);
      await killed(running as ChildProcess);
      await bodies.close();
    },
  );
});
