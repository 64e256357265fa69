import { afterEach, describe, expect, it, vi } from 'vitest';

/** Loads the page's module again in a tab of the mind, with what that tab has stored. */
async function load(stored: Map<string, string> | undefined) {
  vi.resetModules();
  const listeners = new Map<string, () => void>();
  vi.stubGlobal('addEventListener', (name: string, then: () => void) => listeners.set(name, then));
  vi.stubGlobal(
    'sessionStorage',
    stored && {
      getItem: (name: string) => stored.get(name) ?? null,
      setItem: (name: string, value: string) => stored.set(name, value),
      removeItem: (name: string) => stored.delete(name),
    },
  );
  const { TAB } = await import('./tab.ts');
  return { TAB, hear: (name: string) => listeners.get(name)?.() };
}

afterEach(() => {
  vi.unstubAllGlobals();
});

describe('the name of a page', () => {
  it('stays when the page is loaded again', async () => {
    const stored = new Map<string, string>();
    const first = await load(stored);
    first.hear('pagehide');
    expect((await load(stored)).TAB).toBe(first.TAB);
  });
  it('is another one in a copy of a tab that is open', async () => {
    const stored = new Map<string, string>();
    const first = await load(stored);
    expect((await load(new Map(stored))).TAB).not.toBe(first.TAB);
    // Nor after the page was left and is shown again from the browser's memory.
    first.hear('pagehide');
    first.hear('pageshow');
    expect((await load(new Map(stored))).TAB).not.toBe(first.TAB);
  });
  it('is a new one each time where the browser stores nothing', async () => {
    const first = await load(undefined);
    expect(() => {
      first.hear('pagehide');
    }).not.toThrow();
    expect((await load(undefined)).TAB).not.toBe(first.TAB);
  });
});
