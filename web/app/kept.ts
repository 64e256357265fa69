import { useState } from 'react';

const PREFIX = 'brackenridge-typed/';
/** What was typed longer ago belongs to another sitting, ms. */
const STALE_MS = 12 * 3600 * 1000;

/** Something small that was typed and is not recorded yet, from this browser's store. */
export function kept<T>(name: string, fits: (value: unknown) => value is T): T | undefined {
  try {
    const { at, value } = JSON.parse(localStorage.getItem(PREFIX + name) ?? '{}') as {
      at?: number;
      value?: unknown;
    };
    const fresh = at !== undefined && Math.abs(Date.now() - at) < STALE_MS;
    return fresh && fits(value) ? value : undefined;
  } catch {
    return undefined;
  }
}

/** Keeps it in this browser's store; undefined forgets it. */
export function keep(name: string, value: unknown): void {
  try {
    if (value === undefined) localStorage.removeItem(PREFIX + name);
    else localStorage.setItem(PREFIX + name, JSON.stringify({ at: Date.now(), value }));
  } catch {
    // Without a store it holds until the page is left.
  }
}

/**
 * State that is there again after the page was loaded anew, such as the half-filled cells of a grid.
 * @param name of what is kept, with the id of what it belongs to
 * @param fits whether something stored, perhaps by an older page, is of the kind
 * @returns the value, how to change it, and how to set it and forget what is stored
 */
export function useKept<T>(
  name: string,
  initial: () => T,
  fits: (value: unknown) => value is T,
): [value: T, change: (next: (before: T) => T) => void, settle: (value: T) => void] {
  const [value, setValue] = useState(() => kept(name, fits) ?? initial());
  return [
    value,
    (next) => {
      setValue((before) => {
        const after = next(before);
        keep(name, after);
        return after;
      });
    },
    (next) => {
      setValue(next);
      keep(name, undefined);
    },
  ];
}

export const isText = (value: unknown): value is string => typeof value === 'string';

export const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null;

export const isTexts = (value: unknown): value is Record<string, string> =>
  isRecord(value) && Object.values(value).every(isText);
