import { useSyncExternalStore } from 'react';

/** What a tester has chosen for this browser. */
export interface Preferences {
  /** Short sounds at the bench. */
  sounds: boolean;
  /** Single letters as keys at the bench. */
  letterKeys: boolean;
}

const STORED = 'brackenridge-preferences';
const USUAL: Preferences = { sounds: true, letterKeys: true };

function load(): Preferences {
  try {
    const stored = JSON.parse(localStorage.getItem(STORED) ?? '{}') as Partial<Preferences>;
    return {
      sounds: typeof stored.sounds === 'boolean' ? stored.sounds : USUAL.sounds,
      letterKeys: typeof stored.letterKeys === 'boolean' ? stored.letterKeys : USUAL.letterKeys,
    };
  } catch {
    return USUAL;
  }
}

let current = load();
const listeners = new Set<() => void>();

/** Keeps a choice for this browser. */
export function prefer(change: Partial<Preferences>): void {
  current = { ...current, ...change };
  try {
    localStorage.setItem(STORED, JSON.stringify(current));
  } catch {
    // Without a store the choice holds until the page is left.
  }
  for (const listener of listeners) listener();
}

export const preferences = (): Preferences => current;

export const usePreferences = (): Preferences =>
  useSyncExternalStore((listener) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  }, preferences);
