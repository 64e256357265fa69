import { describe, expect, it } from 'vitest';
import { byText, inOrder } from './in-order.ts';

describe('the order of parts', () => {
  it('is that of texts, sign by sign', () => {
    expect([byText('a', 'b'), byText('b', 'a'), byText('a', 'a')]).toEqual([-1, 1, 0]);
    expect(['b', 'a', 'B', '2026-10-02', '2026-09-30'].sort(byText)).toEqual([
      '2026-09-30',
      '2026-10-02',
      'B',
      'a',
      'b',
    ]);
  });
  it('is by place, and by id where two have the same', () => {
    const parts = ['c2', 'b1', 'a2', 'd1'].map((id) => ({ id, position: Number(id.slice(1)) }));
    expect(inOrder(parts).map(({ id }) => id)).toEqual(['b1', 'd1', 'a2', 'c2']);
    expect(parts.map(({ id }) => id)).toEqual(['c2', 'b1', 'a2', 'd1']);
  });
});
