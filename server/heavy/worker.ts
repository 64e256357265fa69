import path from 'node:path';
import { parentPort, workerData } from 'node:worker_threads';
import { openDatabase } from '../db/open.ts';
import { Problem } from '../problems.ts';
import { createStore } from '../store.ts';
import { photosIn } from '../routes/photo-files.ts';
import type { FromThread, ToThread } from './heavy.ts';
import { heavyTasks } from './tasks.ts';

const { database } = workerData as { database: string };
const tasks = openDatabase(database).then((opened) =>
  heavyTasks(createStore(opened), photosIn(path.dirname(database))),
);

const running = new Map<number, AbortController>();

async function answer(ticket: number, work: () => Promise<unknown>): Promise<FromThread> {
  try {
    return { ticket, done: await work() };
  } catch (error) {
    if (error instanceof Problem)
      return { ticket, problem: [error.status, error.title, error.detail, error.extra] };
    return { ticket, failed: error instanceof Error ? (error.stack ?? error.message) : String(error) };
  } finally {
    running.delete(ticket);
  }
}

parentPort?.on('message', (message: ToThread) => {
  if ('stop' in message) {
    running.get(message.stop)?.abort();
    return;
  }
  const { ticket, task, asked } = message;
  const stopping = new AbortController();
  running.set(ticket, stopping);
  void answer(ticket, async () => {
    const work = (await tasks)[task] as (asked: unknown, signal: AbortSignal) => Promise<unknown>;
    return work(asked, stopping.signal);
  }).then((answered) => {
    parentPort?.postMessage(answered);
  });
});
