import { v7 } from 'uuid';
import type { Progress } from '../../ui/under-way.tsx';
import { request } from './client.ts';

/** The server is asked so often how far it has come, in ms. */
const ASK_MS = 400;

/**
 * Asks the server for long work, and hears how far it has come.
 * @param ask is given a name for the work, as part of a query
 */
export async function watched<T>(
  say: (progress: Progress) => void,
  ask: (name: string) => Promise<T>,
): Promise<T> {
  const name = v7();
  let asking = false;
  const timer = setInterval(() => {
    if (asking) return;
    asking = true;
    void request<Progress | null>('GET', `/under-way/${name}`)
      .then((progress) => {
        if (progress) say(progress);
      })
      .catch(() => undefined)
      .finally(() => {
        asking = false;
      });
  }, ASK_MS);
  try {
    return await ask(`under-way=${name}`);
  } finally {
    clearInterval(timer);
  }
}
