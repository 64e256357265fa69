import { useState, useSyncExternalStore } from 'react';

const PREFIX = 'brackenridge-typed/';
/** What was typed longer ago belongs to another sitting, ms. */
const STALE_MS = 12 * 3600 * 1000;

/** What this page has kept or looked up, by name; where the browser has no store it holds until the page is left. */
const held = new Map<string, unknown>();
const listeners = new Set<() => void>();

const subscribe = (listener: () => void): (() => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};

/** What the browser's store has under a key of it, if it is of this sitting. */
function stored(key: string): unknown {
  try {
    const { at: keptAt, value } = JSON.parse(localStorage.getItem(key) ?? '{}') as {
      at?: number;
      value?: unknown;
    };
    return keptAt !== undefined && Math.abs(Date.now() - keptAt) < STALE_MS ? value : undefined;
  } catch {
    return undefined;
  }
}

/** Takes what is left of earlier sittings out of the browser's store. */
export function forgetStale(): void {
  try {
    for (const key of Object.keys(localStorage)) {
      if (key.startsWith(PREFIX) && stored(key) === undefined) localStorage.removeItem(key);
    }
  } catch {
    // Without a store there is nothing to forget.
  }
}

/** Something small that was typed and is not recorded yet. */
export function kept<T>(name: string, fits: (value: unknown) => value is T): T | undefined {
  if (!held.has(name)) held.set(name, stored(PREFIX + name));
  const value = held.get(name);
  return fits(value) ? value : undefined;
}

/** Keeps it, also when the page is loaded again; undefined forgets it. */
export function keep(name: string, value: unknown): void {
  held.set(name, value);
  try {
    if (value === undefined) localStorage.removeItem(PREFIX + name);
    else localStorage.setItem(PREFIX + name, JSON.stringify({ at: Date.now(), value }));
  } catch {
    // It is held by the page all the same.
  }
  for (const listener of listeners) listener();
}

/**
 * State that is there again after the page was loaded again, such as the half-filled cells of a grid.
 * @param name of what is kept, with the id of what it belongs to; under another name there is another value
 * @param initial what it is where nothing is kept
 * @param fits whether something stored, perhaps by an older page, is of the kind
 * @returns the value, how to change it, and how to go back to the initial one
 */
export function useKept<T>(
  name: string,
  initial: () => T,
  fits: (value: unknown) => value is T,
): [value: T, change: (next: (before: T) => T) => void, forget: () => void] {
  const [first] = useState(initial);
  const value = useSyncExternalStore(subscribe, () => kept(name, fits)) ?? first;
  return [
    value,
    (next) => {
      keep(name, next(kept(name, fits) ?? first));
    },
    () => {
      keep(name, undefined);
    },
  ];
}

export const isText = (value: unknown): value is string => typeof value === 'string';

export const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null;

export const isTexts = (value: unknown): value is Record<string, string> =>
  isRecord(value) && Object.values(value).every(isText);
