import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { placeOf, withPart } from './places.ts';

const part = fc.record({ id: fc.constantFrom('a', 'b', 'c', 'd', 'e'), version: fc.nat(3) });

describe('places of parts in a list', () => {
  it('are those that looking for them finds, in each list that came of another', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(part, { selector: ({ id }) => id }),
        fc.array(part, { maxLength: 12 }),
        (first, changes) => {
          const lists = [first];
          for (const change of changes) {
            const before = lists.at(-1) as typeof first;
            const known = before.some(({ id }) => id === change.id);
            const list = withPart(before, change);
            expect(list).toEqual(
              known ? before.map((old) => (old.id === change.id ? change : old)) : [...before, change],
            );
            lists.push(list);
          }
          // Older lists are asked about too, though what was known of them was taken over.
          for (const list of lists) {
            for (const id of ['a', 'b', 'c', 'd', 'e', 'f'])
              expect(placeOf(list, id)).toBe(list.findIndex((old) => old.id === id));
          }
        },
      ),
    );
  });
});
