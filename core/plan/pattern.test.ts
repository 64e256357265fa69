import { describe, expect, it } from 'vitest';
import { documentProblems } from '../formats/study-json.ts';
import { testId } from '../testing-study.ts';
import { studyFromPattern } from './pattern.ts';

type Pattern = Parameters<typeof studyFromPattern>[0];

const pattern = {
  question: '',
  items: [
    { name: 'Ama', code: 'A' },
    { name: 'Bel', code: 'B' },
  ],
  measurands: [{ name: 'Pull', form: 'value', unit: 'g' }],
  factors: [
    {
      name: 'Pressure',
      kind: 'numeric',
      unit: 'bar',
      levels: [
        { name: '1 bar', value: 1 },
        { name: '2 bar', value: 2 },
      ],
    },
  ],
} as unknown as Pattern;
const made = (claims: object[]) =>
  studyFromPattern({ ...pattern, claims } as Pattern, {
    ...{ title: 'Test', seed: 1, newId: testId, now: '2026-05-04T10:00:00.000Z' },
  });

describe('a study from a pattern', () => {
  it('has the claims of its pattern, each about what it names', () => {
    const source = 'the box';
    const document = made([
      { measurand: 'Pull', order: ['B', 'A'], source },
      { measurand: 'Pull', item: 'A', value: 3, unit: 'kg', source },
      { measurand: 'Pull', factor: 'Pressure', value: 2, unit: 'g', stepSize: 1, source },
      { measurand: 'Pull', attribute: 'Mass', value: 2, unit: 'g', stepSize: 5, source },
    ]);
    const [ama, bel] = document.items.map(({ id }) => id);
    const nothing = { order: [], itemId: null, factorId: null, attribute: '', stepSize: null, source };
    expect(document.claims).toMatchObject([
      { ...nothing, kind: 'order', order: [bel, ama], value: null, unit: '' },
      { ...nothing, kind: 'figure', itemId: ama, value: 3, unit: 'kg' },
      { ...nothing, kind: 'step', factorId: document.factors[0]?.id, value: 2, stepSize: 1 },
      { ...nothing, kind: 'step', attribute: 'Mass', value: 2, stepSize: 5 },
    ]);
    expect(new Set(document.claims.map(({ measurandId }) => measurandId))).toEqual(
      new Set([document.measurands[0]?.id]),
    );
    expect(documentProblems(document)).toEqual([]);
  });
  it.each([
    { measurand: 'Push', order: ['A', 'B'], source: '' },
    { measurand: 'Pull', order: ['A', 'C'], source: '' },
    { measurand: 'Pull', item: 'C', value: 3, source: '' },
    { measurand: 'Pull', factor: 'Water', value: 3, source: '' },
  ])('is none where a claim names what is not there: %o', (claim) => {
    expect(() => made([claim])).toThrow('a claim names something that is not there');
  });
});
