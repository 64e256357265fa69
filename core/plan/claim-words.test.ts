import { describe, expect, it } from 'vitest';
import type { Claim } from '../model/parts.ts';
import { testStudy, withLevels } from '../testing-study.ts';
import { attributeColumns } from './attributes.ts';
import { claimWords } from './claim-words.ts';
import { looksWords } from './looks.ts';

const { document, measurand } = testStudy(['Ama', 'Bel']);
const { factor } = withLevels(document, 2);
const [ama, bel] = document.items as [(typeof document.items)[number], (typeof document.items)[number]];
ama.attributes = [{ name: 'Mass', value: 3, unit: 'kg' }];
bel.attributes = [
  { name: 'Price', value: null, unit: 'EUR' },
  { name: 'Mass', value: 4, unit: 'g' },
];

const words = (change: Partial<Claim>): string =>
  claimWords(
    {
      ...{ kind: 'step', measurandId: measurand.id, order: [], itemId: null, value: 2, unit: '' },
      ...{ factorId: null, attribute: '', stepSize: null },
      ...change,
    } as Claim,
    document,
  ).replaceAll('\u202f', ' ');

describe('a claim in words', () => {
  it.each<[Partial<Claim>, string]>([
    [{ kind: 'order', order: [bel.id, 'gone'] }, 'Pull: Bel > an item that is gone'],
    [{ kind: 'figure', itemId: ama.id }, 'Pull: Ama has 2 g'],
    [{ kind: 'figure', itemId: ama.id, unit: 'kg' }, 'Pull: Ama has 2 kg'],
    [{ kind: 'figure', measurandId: 'gone' }, 'A measurand that is gone: an item that is gone has 2'],
    [{ factorId: factor.id }, 'Pull: each step of Pressure adds 2 g'],
    [{ factorId: factor.id, stepSize: 0.5, value: -2 }, 'Pull: each 0.5 bar of Pressure takes 2 g'],
    [{ attribute: 'Mass', stepSize: 1 }, 'Pull: each 1 kg of Mass adds 2 g'],
    [{ attribute: 'Age', stepSize: 1, value: 0 }, 'Pull: each 1 of Age adds 0 g'],
  ])('%o', (claim, wanted) => {
    expect(words(claim)).toBe(wanted);
  });
});

describe('the attributes of items', () => {
  it('are those that some item has, each once, as they turned up', () => {
    expect(attributeColumns(document.items)).toEqual([
      { name: 'Mass', unit: 'kg' },
      { name: 'Price', unit: 'EUR' },
    ]);
    expect(attributeColumns([])).toEqual([]);
  });
});

describe('planned looks in words', () => {
  it.each([
    [{ after: [], spending: 'late' }, 'none'],
    [{ after: [4], spending: 'late' }, 'after round 4, strict early'],
    [{ after: [4, 6], spending: 'even' }, 'after rounds 4 and 6, alike at each look'],
  ])('%o', (looks, wanted) => {
    expect(looksWords(looks as never)).toBe(wanted);
  });
});
