import path from 'node:path';
import { parentPort, workerData } from 'node:worker_threads';
import { openDatabase } from '../sqlite/open.ts';
import { Problem } from '../problems.ts';
import { Store } from '../store/store.ts';
import { keptIn } from '../kept.ts';
import type { FromThread, ToThread, Way } from './heavy.ts';
import { heavyTasks } from './tasks.ts';

const { database } = workerData as { database: string };
const opening = openDatabase(database, 'up to date');
const tasks = opening.then((opened) => heavyTasks(new Store(opened), keptIn(path.dirname(database))));

/** How far work has come is said so often, in ms. */
const PROGRESS_MS = 100;

/** What is being answered. */
const answering = new Set<Promise<void>>();
const running = new Map<number, AbortController>();

async function answer(ticket: number, work: () => Promise<unknown>): Promise<FromThread> {
  try {
    return { ticket, done: await work() };
  } catch (error) {
    if (error instanceof Problem)
      return { ticket, problem: [error.status, error.title, error.detail, error.extra] };
    if (error instanceof Error && error.name === 'AbortError')
      return { ticket, problem: [409, 'Stopped', 'This was stopped. Nothing was changed.'] };
    return { ticket, failed: error instanceof Error ? (error.stack ?? error.message) : String(error) };
  } finally {
    running.delete(ticket);
  }
}

/** Closes what is open once nothing is under way any more, after which nothing keeps the thread. */
async function end(): Promise<void> {
  await Promise.allSettled(answering);
  await (await opening).close();
  parentPort?.close();
}

parentPort?.on('message', (message: ToThread) => {
  if (message === 'end') {
    void end();
    return;
  }
  if ('stop' in message) {
    running.get(message.stop)?.abort();
    return;
  }
  const { ticket, task, asked } = message;
  const stopping = new AbortController();
  running.set(ticket, stopping);
  const answered = answer(ticket, async () => {
    const work = (await tasks)[task] as (asked: unknown, way: Way) => Promise<unknown>;
    let last = 0;
    return work(asked, {
      signal: stopping.signal,
      say: (progress) => {
        const now = performance.now();
        if (now - last < PROGRESS_MS) return;
        last = now;
        parentPort?.postMessage({ ticket, ...progress } satisfies FromThread);
      },
    });
  }).then((said) => {
    parentPort?.postMessage(said);
    answering.delete(answered);
  });
  answering.add(answered);
});
