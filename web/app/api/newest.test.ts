import { describe, expect, it } from 'vitest';
import { newestParts } from './newest.ts';

describe('parts that were fetched', () => {
  const part = (id: string, version: number) => ({ id, version });
  it('are as they were fetched, but for those that the page has in a newer version', () => {
    const [mine, theirs] = [part('a', 3), part('a', 2)];
    const [old, newer] = [part('b', 1), part('b', 4)];
    const found = newestParts([mine, old, part('gone', 9)], [newer, theirs, part('c', 1)]);
    expect(found).toEqual([newer, mine, part('c', 1)]);
    expect(found[1]).toBe(mine);
  });
  it('of the same version are those that came', () => {
    const came = part('a', 2);
    expect(newestParts([part('a', 2)], [came])[0]).toBe(came);
  });
});
