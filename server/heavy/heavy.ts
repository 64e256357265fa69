import { once } from 'node:events';
import { setTimeout as setTimeoutPromise } from 'node:timers/promises';
import { pathToFileURL } from 'node:url';
import { Worker } from 'node:worker_threads';
import { Problem } from '../problems.ts';
import type { HeavyTasks } from './tasks.ts';

type TaskName = keyof HeavyTasks;

/** What a thread is asked, and what it answers. */
export type ToThread = { ticket: number; task: TaskName; asked: unknown } | { stop: number } | 'end';
export type FromThread = { ticket: number } & (
  Progress | { done: unknown } | { problem: ConstructorParameters<typeof Problem> } | { failed: string }
);

/** How far long work has come. */
export interface Progress {
  /** What is being done, in a few words. */
  doing: string;
  /** How much of all of it is done, 0 to 1; null where that cannot be said. */
  share: number | null;
}

/** What long work is watched and stopped by. */
export interface Way {
  signal?: AbortSignal | undefined;
  say?: ((progress: Progress) => void) | undefined;
}

/** Memory of the thread, in MB: a study that takes more than this is no study. */
const MOST_MEMORY = 400;

/** A thread that is asked to end has so long for what it is in the middle of, in ms. */
const END_MS = 10_000;

/** A thread that nothing is asked of for so long is ended, in ms, so that what it held is given back. */
const IDLE_MS = 5000;

/**
 * Work that takes long goes to a thread of its own, with its own connection to the database, so that the server
 * answers others meanwhile. The thread starts when it is first needed.
 */
export class Heavy {
  private thread: Worker | undefined;
  private tickets = 0;
  private idle: NodeJS.Timeout | undefined;
  private readonly waiting = new Map<
    number,
    {
      resolve: (done: never) => void;
      reject: (error: Error) => void;
      say: Way['say'];
    }
  >();

  /**
   * @param script the thread's, as it stands or as it was built
   * @param database file of the database
   * @param idleMs a thread that nothing is asked of for so long is ended
   */
  constructor(
    private readonly script: string,
    private readonly database: string,
    private readonly idleMs = IDLE_MS,
  ) {}

  private started(): Worker {
    if (this.thread) return this.thread;
    // As it stands it is TypeScript, in development and in tests.
    const asItStands = this.script.endsWith('.ts');
    const translated = `import('tsx/esm/api').then(({ register }) => { register(); return import(${JSON.stringify(pathToFileURL(this.script).href)}); })`;
    const thread = new Worker(asItStands ? translated : this.script, {
      eval: asItStands,
      workerData: { database: this.database },
      resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY },
    });
    thread.on('message', (answer: FromThread) => {
      const asker = this.waiting.get(answer.ticket);
      if ('doing' in answer) {
        asker?.say?.({ doing: answer.doing, share: answer.share });
        return;
      }
      this.waiting.delete(answer.ticket);
      if (this.waiting.size === 0) this.rest(thread);
      if ('done' in answer) asker?.resolve(answer.done as never);
      else if ('problem' in answer) asker?.reject(new Problem(...answer.problem));
      else asker?.reject(new Error(answer.failed));
    });
    const ended = (error: Error) => {
      if (this.thread !== thread) return;
      this.thread = undefined;
      for (const { reject } of this.waiting.values()) reject(error);
      this.waiting.clear();
    };
    thread.on('error', (error: Error & { code?: string }) => {
      ended(
        error.code === 'ERR_WORKER_OUT_OF_MEMORY'
          ? new Problem(413, 'Too large', 'This takes more memory than there is. Nothing was changed.')
          : error,
      );
    });
    thread.on('exit', () => {
      ended(new Error('The thread for long work ended.'));
    });
    this.thread = thread;
    return thread;
  }

  /** Lets a thread go that is not asked anything more. */
  private rest(thread: Worker): void {
    thread.unref();
    this.idle = setTimeout(() => {
      this.thread = undefined;
      thread.postMessage('end' satisfies ToThread);
    }, this.idleMs).unref();
  }

  /**
   * Has something done in the thread.
   * @param way hears how far it has come, and stops it where it can still be stopped
   * @throws Problem as the task does
   */
  run<Name extends TaskName>(
    task: Name,
    asked: Parameters<HeavyTasks[Name]>[0],
    { signal, say }: Way = {},
  ): Promise<Awaited<ReturnType<HeavyTasks[Name]>>> {
    clearTimeout(this.idle);
    const thread = this.started();
    this.tickets += 1;
    const ticket = this.tickets;
    thread.ref();
    return new Promise((resolve, reject) => {
      this.waiting.set(ticket, { resolve, reject, say });
      thread.postMessage({ ticket, task, asked } satisfies ToThread);
      const stop = () => {
        thread.postMessage({ stop: ticket } satisfies ToThread);
      };
      if (signal?.aborted) stop();
      signal?.addEventListener('abort', stop);
    });
  }

  async close(): Promise<void> {
    const { thread } = this;
    clearTimeout(this.idle);
    this.thread = undefined;
    if (!thread) return;
    for (const ticket of this.waiting.keys()) thread.postMessage({ stop: ticket } satisfies ToThread);
    // It ends by itself: cut off in the middle of a statement, the database's own code would end the whole process.
    const ended = once(thread, 'exit').catch(() => undefined);
    thread.postMessage('end' satisfies ToThread);
    const waiting = new AbortController();
    await Promise.race([
      ended,
      setTimeoutPromise(END_MS, undefined, { signal: waiting.signal })
        .then(() => thread.terminate())
        .catch(() => undefined),
    ]);
    waiting.abort();
  }
}
