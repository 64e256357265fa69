import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type * as Kept from './kept.ts';

/** A browser's store: its keys are its properties, as in the browser. */
function fakeStorage(): Storage {
  const methods = {
    getItem(this: Record<string, string>, name: string) {
      return this[name] ?? null;
    },
    setItem(this: Record<string, string>, name: string, value: string) {
      this[name] = value;
    },
    removeItem(this: Record<string, string>, name: string) {
      Reflect.deleteProperty(this, name);
    },
  };
  return Object.create(methods) as Storage;
}

let page: typeof Kept;
const loadAnew = async () => {
  vi.resetModules();
  page = await import('./kept.ts');
};
beforeEach(async () => {
  vi.stubGlobal('localStorage', fakeStorage());
  await loadAnew();
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe('what is typed and not recorded', () => {
  it('is there again in a page loaded again until it is forgotten, each under its name', async () => {
    const { isText, isTexts, keep } = page;
    keep('entry/1', { value: '3.1' });
    keep('note/1', 'Door open');
    await loadAnew();
    expect(page.kept('entry/1', isTexts)).toEqual({ value: '3.1' });
    expect(page.kept('note/1', isText)).toBe('Door open');
    page.keep('entry/1', undefined);
    expect(page.kept('entry/1', isTexts)).toBeUndefined();
    await loadAnew();
    expect(page.kept('entry/1', isTexts)).toBeUndefined();
    expect(page.kept('note/1', isText)).toBe('Door open');
  });
  it('is nothing where something else is stored under its name', async () => {
    const { isTexts } = page;
    for (const other of [3, null, ['a', 1], { value: 3 }, { value: { deep: '' } }]) {
      page.keep('entry/1', other);
      expect(page.kept('entry/1', isTexts)).toBeUndefined();
    }
    for (const broken of ['{"value":', 'null', '[]', '{"value":{"value":"3"}}']) {
      await loadAnew();
      localStorage.setItem('brackenridge-typed/entry/1', broken);
      expect(page.kept('entry/1', isTexts)).toBeUndefined();
    }
  });
  it('is of this sitting only, and then leaves the store', async () => {
    vi.useFakeTimers({ now: 0, toFake: ['Date'] });
    page.keep('start/1', { wind: '3.2' });
    localStorage.setItem('something else', 'x');
    vi.setSystemTime(11 * 3600 * 1000);
    await loadAnew();
    page.forgetStale();
    expect(page.kept('start/1', page.isTexts)).toEqual({ wind: '3.2' });
    vi.setSystemTime(13 * 3600 * 1000);
    await loadAnew();
    expect(page.kept('start/1', page.isTexts)).toBeUndefined();
    page.forgetStale();
    expect(Object.keys(localStorage)).toEqual(['something else']);
  });
  it('is held by the page, and no error, where the browser has no store', () => {
    vi.stubGlobal('localStorage', undefined);
    expect(() => {
      page.forgetStale();
      page.keep('entry/1', 'x');
    }).not.toThrow();
    expect(page.kept('entry/1', page.isText)).toBe('x');
  });
});
