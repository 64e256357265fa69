import { pathToFileURL } from 'node:url';
import { Worker } from 'node:worker_threads';
import { Problem } from '../problems.ts';
import type { HeavyTasks } from './tasks.ts';

type TaskName = keyof HeavyTasks;

/** What a thread is asked, and what it answers. */
export type ToThread = { ticket: number; task: TaskName; asked: unknown } | { stop: number };
export type FromThread = { ticket: number } & (
  { done: unknown } | { problem: ConstructorParameters<typeof Problem> } | { failed: string }
);

/** Memory of the thread, in MB: a study that takes more than this is no study. */
const MOST_MEMORY = 600;

/**
 * Work that takes long goes to a thread of its own, with its own connection to the database, so that the server
 * answers others meanwhile. The thread starts when it is first needed.
 */
export class Heavy {
  private thread: Worker | undefined;
  private tickets = 0;
  private readonly waiting = new Map<
    number,
    { resolve: (done: never) => void; reject: (error: Error) => void }
  >();

  /**
   * @param script the thread's, as it stands or as it was built
   * @param database file of the database
   */
  constructor(
    private readonly script: string,
    private readonly database: string,
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
      this.waiting.delete(answer.ticket);
      if (this.waiting.size === 0) thread.unref();
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

  /**
   * Has something done in the thread.
   * @param signal stops it where it can still be stopped
   * @throws Problem as the task does
   */
  run<Name extends TaskName>(
    task: Name,
    asked: Parameters<HeavyTasks[Name]>[0],
    signal?: AbortSignal,
  ): Promise<Awaited<ReturnType<HeavyTasks[Name]>>> {
    const thread = this.started();
    this.tickets += 1;
    const ticket = this.tickets;
    thread.ref();
    return new Promise((resolve, reject) => {
      this.waiting.set(ticket, { resolve, reject });
      thread.postMessage({ ticket, task, asked } satisfies ToThread);
      signal?.addEventListener('abort', () => {
        thread.postMessage({ stop: ticket } satisfies ToThread);
      });
    });
  }

  async close(): Promise<void> {
    const { thread } = this;
    this.thread = undefined;
    await thread?.terminate();
  }
}
