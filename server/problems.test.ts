import { describe, expect, it } from 'vitest';
import { invalid } from './problems.ts';

describe('a refusal of something that is not valid', () => {
  const wrong = (count: number) =>
    Array.from({ length: count }, (_, i) => ({ path: `/items/${String(i)}`, message: 'It has no name.' }));
  it('says the first thing that is wrong, where, and how many more there are', () => {
    expect(invalid([]).detail).toBe('Something is wrong.');
    expect(invalid([{ path: '', message: 'It is empty.' }]).detail).toBe('It is empty.');
    expect(invalid(wrong(1)).detail).toBe('It has no name. (/items/0)');
    expect(invalid(wrong(2)).detail).toBe('It has no name. (/items/0) 1 more thing is wrong.');
    expect(invalid(wrong(3)).detail).toBe('It has no name. (/items/0) 2 more things are wrong.');
  });
  it('lists twenty of them at most', () => {
    expect(invalid(wrong(20)).extra.errors).toHaveLength(20);
    expect(invalid(wrong(21)).extra.errors).toHaveLength(20);
  });
});
