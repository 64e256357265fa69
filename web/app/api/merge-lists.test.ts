import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mergeLists } from './merge-lists.ts';

describe('two changes of one list', () => {
  it('both stay', () => {
    expect(mergeLists(['a'], ['a', 'b'], ['a', 'c'])).toEqual(['a', 'c', 'b']);
    expect(mergeLists(['a', 'b'], ['b'], ['a', 'b', 'c'])).toEqual(['b', 'c']);
    // A pause that was closed here, while a condition-like entry came in there.
    const open = { from: 1, to: null };
    const closed = { from: 1, to: 2 };
    expect(mergeLists([open], [closed], [open, { from: 9, to: 9 }])).toEqual([{ from: 9, to: 9 }, closed]);
  });
  it('count once where both are the same', () => {
    expect(mergeLists([], ['a'], ['a'])).toEqual(['a']);
    expect(mergeLists(['a'], [], [])).toEqual([]);
  });
  it('are ours alone where nobody else changed it, and theirs where we did not', () => {
    const list = fc.uniqueArray(fc.integer({ min: 0, max: 9 }));
    fc.assert(
      fc.property(list, list, (before, after) => {
        expect(new Set(mergeLists(before, after, before))).toEqual(new Set(after));
        expect(mergeLists(before, before, after)).toEqual(after);
      }),
    );
  });
});
