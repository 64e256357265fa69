import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { isText, isTexts, keep, kept } from './kept.ts';

beforeEach(() => {
  const stored = new Map<string, string>();
  vi.stubGlobal('localStorage', {
    getItem: (name: string) => stored.get(name) ?? null,
    setItem: (name: string, value: string) => stored.set(name, value),
    removeItem: (name: string) => stored.delete(name),
  });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe('what is typed and not recorded', () => {
  it('is there again until it is forgotten, each under its name', () => {
    keep('entry/1', { value: '3.1' });
    keep('note/1', 'Door open');
    expect(kept('entry/1', isTexts)).toEqual({ value: '3.1' });
    expect(kept('note/1', isText)).toBe('Door open');
    keep('entry/1', undefined);
    expect(kept('entry/1', isTexts)).toBeUndefined();
    expect(kept('note/1', isText)).toBe('Door open');
  });
  it('is nothing where something else is stored under its name', () => {
    for (const other of [3, null, ['a', 1], { value: 3 }, { value: { deep: '' } }]) {
      keep('entry/1', other);
      expect(kept('entry/1', isTexts)).toBeUndefined();
    }
    for (const broken of ['{"value":', 'null', '[]', '{"value":{"value":"3"}}']) {
      localStorage.setItem('brackenridge-typed/entry/1', broken);
      expect(kept('entry/1', isTexts)).toBeUndefined();
    }
  });
  it('is of this sitting only', () => {
    vi.useFakeTimers({ now: 0, toFake: ['Date'] });
    keep('start/1', { wind: '3.2' });
    vi.setSystemTime(11 * 3600 * 1000);
    expect(kept('start/1', isTexts)).toEqual({ wind: '3.2' });
    vi.setSystemTime(13 * 3600 * 1000);
    expect(kept('start/1', isTexts)).toBeUndefined();
  });
  it('is nothing, and no error, where the browser has no store', () => {
    vi.stubGlobal('localStorage', undefined);
    expect(() => {
      keep('entry/1', 'x');
    }).not.toThrow();
    expect(kept('entry/1', isText)).toBeUndefined();
  });
});
