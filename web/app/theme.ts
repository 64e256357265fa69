import { useSyncExternalStore } from 'react';

export type Theme = 'light' | 'dark';
const KEY = 'brackenridge-theme';
const listeners = new Set<() => void>();

function chosen(): Theme | undefined {
  try {
    const stored = localStorage.getItem(KEY);
    return stored === 'light' || stored === 'dark' ? stored : undefined;
  } catch {
    return undefined;
  }
}

const current = (): Theme =>
  chosen() ?? (matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light');

/** Puts the chosen theme on the page; without a choice the system's holds. */
export function applyTheme(): void {
  const theme = chosen();
  if (theme) document.documentElement.dataset.theme = theme;
}

export function switchTheme(): void {
  const next = current() === 'dark' ? 'light' : 'dark';
  try {
    localStorage.setItem(KEY, next);
  } catch {
    // Without a store the choice lasts as long as the page.
  }
  document.documentElement.dataset.theme = next;
  for (const listener of listeners) listener();
}

export const useTheme = (): Theme =>
  useSyncExternalStore((listener) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  }, current);
