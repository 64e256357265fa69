import { useEffect, useSyncExternalStore } from 'react';
import { useContact } from './api/contact.ts';

let isNewer = false;
const listeners = new Set<() => void>();

/** Looks whether the server hands out another build of the program than the one that runs here, and lets the page know. */
export async function lookForNewer(): Promise<boolean> {
  const entry = document.querySelector('script[type="module"][src]')?.getAttribute('src');
  try {
    const answer = await fetch('/', { cache: 'no-store' });
    isNewer = typeof entry === 'string' && answer.ok && !(await answer.text()).includes(entry);
  } catch {
    // The server is away, and nothing new is known.
  }
  for (const listener of listeners) listener();
  return isNewer;
}

/** Whether the server has a newer program than this page: it is looked for when the server is back. */
export function useIsNewer(): boolean {
  const { awaySince } = useContact();
  useEffect(() => {
    if (awaySince === undefined) return undefined;
    return () => void lookForNewer();
  }, [awaySince]);
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => isNewer,
  );
}
