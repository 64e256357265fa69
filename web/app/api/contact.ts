import { useSyncExternalStore } from 'react';

/** Whether the server answers, and since when it does not. */
export interface Contact {
  /** ISO 8601 instant of the last answer before the server was away; undefined while it is there. */
  awaySince: string | undefined;
}

const KEY = 'brackenridge-last-answer';
/** The time of the last answer is written down so often, in ms. */
const WRITTEN_MS = 5000;

let contact: Contact = { awaySince: undefined };
let lastAnswer: number | undefined;
let written = 0;
const listeners = new Set<() => void>();

function set(next: Contact): void {
  contact = next;
  for (const listener of listeners) listener();
}

/** The server has answered. */
export function heardServer(): void {
  lastAnswer = Date.now();
  if (lastAnswer - written > WRITTEN_MS) {
    written = lastAnswer;
    try {
      localStorage.setItem(KEY, new Date(lastAnswer).toISOString());
    } catch {
      // Without a store it is told from when this page was opened.
    }
  }
  if (contact.awaySince !== undefined) set({ awaySince: undefined });
}

/** The server could not be reached. */
export function missedServer(): void {
  if (contact.awaySince !== undefined) return;
  let since = lastAnswer === undefined ? null : new Date(lastAnswer).toISOString();
  try {
    since ??= localStorage.getItem(KEY);
  } catch {
    // As above.
  }
  set({ awaySince: since ?? new Date().toISOString() });
}

export const useContact = (): Contact =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => contact,
  );
