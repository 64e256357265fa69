import { describe, expect, it } from 'vitest';
import { testStudy } from '../testing-study.ts';
import { blindCodes, blindItems, blindStudy } from './blind.ts';

const names = (count: number) => Array.from({ length: count }, (_, i) => `Item ${String(i + 1)}`);

describe('blind codes', () => {
  it('are one of a kind, the same again from the seed, and others from another seed', () => {
    for (const count of [1, 6, 60, 61, 200]) {
      const { document } = testStudy(names(count));
      const codes = blindCodes(document);
      expect(new Set(codes.values()).size).toBe(count);
      expect(blindCodes({ ...document, items: [...document.items].reverse() })).toEqual(codes);
      if (count > 1) {
        expect(blindCodes({ ...document, study: { ...document.study, seed: 6 } })).not.toEqual(codes);
      }
    }
  });
  it('hide name, attributes, place in the list and who is the baseline', () => {
    const { document, items } = testStudy(['Almo', 'Berrin', 'Cerrow']);
    Object.assign(items[0] as object, {
      role: 'baseline',
      attributes: [{ name: 'Price', value: 30, unit: 'EUR' }],
    });
    const shown = [...blindItems(document).values()];
    expect(JSON.stringify(shown)).not.toMatch(/Almo|Berrin|Cerrow|baseline|Price/);
    // Sorted by code, so that neither place nor mark tells the order in which the items were entered.
    const byPlace = [...shown].sort((a, b) => a.position - b.position).map(({ code }) => code);
    expect(byPlace).toEqual([...byPlace].sort());
    expect(shown.every(({ mark, position }) => mark === position - 1)).toBe(true);
  });
  it('still say which item is a control, since it is handled otherwise', () => {
    const { document, items } = testStudy(['Almo', 'Water']);
    (items[1] as { role: string }).role = 'control';
    expect(blindItems(document).get(items[1]?.id ?? '')?.role).toBe('control');
  });
  it('cover a study only while they are closed', () => {
    const { document } = testStudy(['Almo', 'Berrin']);
    const of = (blind: 'no' | 'blind' | 'opened') =>
      blindStudy({ ...document, study: { ...document.study, blind } }).items.map(({ name }) => name);
    expect(of('no')).toEqual(['Almo', 'Berrin']);
    expect(of('opened')).toEqual(['Almo', 'Berrin']);
    expect(of('blind').every((name) => name.startsWith('Sample '))).toBe(true);
  });
});
