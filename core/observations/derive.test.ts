import { describe, expect, it } from 'vitest';
import { derivedExpression } from '../expression/derived.ts';
import type { Expression } from '../expression/expression.ts';
import type { Measurand } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { testId, testStudy } from '../testing-study.ts';
import { type Source, deriveObservations } from './derive.ts';
import type { Observation } from './observation.ts';

const { document: plan, items, measurand: pull } = testStudy(['Ama', 'Bel']);
const mass: Measurand = { ...pull, id: testId(), name: 'Mass', position: 2 };
const [ama, bel] = items.map(({ id }) => id) as [string, string];

/** Pull per mass, or what is said, in a study with these items. */
function study(expression = 'pull / mass', unit = '') {
  const ratio: Measurand = { ...pull, id: testId(), name: 'Ratio', position: 3, unit, expression };
  const document: StudyDocument = { ...plan, measurands: [pull, mass, ratio] };
  return { document, ratio, expression: derivedExpression(document, ratio) as Expression };
}
let made = 0;
const seen = (about: Partial<Observation>): Observation => {
  made += 1;
  return {
    ...{ id: `o${String(made)}`, itemId: ama, setting: '', round: 1, sharesRound: true, place: made },
    ...{ sessionId: null, takenAt: 'then', note: '', parts: [], value: 1, step: 0, sources: [] },
    ...{ use: { is: 'kept' } },
    ...about,
  };
};
const source = (measurand: Measurand, observations: Observation[], exact = false): Source => ({
  ...{ measurand, observations, exact },
});
const worked = (pulls: Observation[], masses: Observation[], exact = false) => {
  const { document, ratio, expression } = study();
  return deriveObservations(document, ratio, expression, [source(mass, masses, exact), source(pull, pulls)]);
};

describe('what is worked out from what was read', () => {
  it('goes by item, round and setting, and by order where there are several', () => {
    const found = worked(
      [
        seen({ value: 6 }),
        seen({ value: 8 }),
        seen({ value: 9, round: 2 }),
        seen({ value: 5, itemId: bel, setting: 'x' }),
      ],
      [
        seen({ value: 2 }),
        seen({ value: 4 }),
        seen({ value: 7 }),
        seen({ value: 3, round: 2 }),
        seen({ value: 5, itemId: bel }),
      ],
    );
    expect(found.map(({ itemId, round, value }) => [itemId, round, value])).toEqual([
      [ama, 1, 3],
      [ama, 1, 2],
      [ama, 2, 3],
    ]);
  });
  it('skips what gave way, and stands where one that was read first stands', () => {
    const again = { is: 'left out', by: 'again', reason: 'taken again' } as const;
    const first = seen({ value: 6, place: 40, sessionId: 's', takenAt: 'noon', sharesRound: false });
    const [only, ...rest] = worked([seen({ value: 1, use: again }), first], [seen({ value: 2, place: 9 })]);
    expect(rest).toEqual([]);
    expect(only).toMatchObject({ value: 3, use: { is: 'kept' } });
    // Of what was put in first.
    expect(only).toMatchObject({ place: 9, sessionId: null, takenAt: 'then', sharesRound: true });
  });
  it('is left out with what it comes from, and where it cannot be worked out', () => {
    const out = { is: 'left out', by: 'hand', reason: 'a bump' } as const;
    const [ofSource] = worked([seen({ value: 6, use: out })], [seen({ value: 2 })]);
    expect(ofSource?.use).toEqual({ is: 'left out', by: 'source', reason: 'with its source: Pull, a bump' });
    const [byNothing] = worked([seen({ value: 6 })], [seen({ value: 0 })]);
    expect(byNothing).toMatchObject({ value: null, step: 0, use: { is: 'left out', by: 'source' } });
    expect(byNothing).not.toHaveProperty('doubts');
    // Where something is missing there is none.
    expect(worked([seen({ value: null })], [seen({ value: 2 })])).toEqual([]);
    expect(worked([seen({ itemId: 'gone' })], [seen({ itemId: 'gone' })])).toEqual([]);
  });
  it('takes one exact value to every run of its item, and has none without', () => {
    const pulls = [seen({ value: 6 }), seen({ value: 8 }), seen({ value: 3, itemId: bel })];
    const found = worked(pulls, [seen({ value: 2, round: 7 })], true);
    expect(found.map(({ itemId, value, round }) => [itemId, value, round])).toEqual([
      [ama, 3, 1],
      [ama, 4, 1],
    ]);
  });
  it('carries the step, the doubt with its sign, and an estimate', () => {
    const [found] = worked(
      [
        seen({
          value: 6,
          step: 0.3,
          doubts: [
            { source: 'both', u: 0.2 },
            { source: 'own', u: 0.1 },
          ],
        }),
      ],
      [seen({ value: 2, step: 0.04, doubts: [{ source: 'both', u: 0.1 }], estimated: true })],
    );
    // By hand: 0.3/2 and 6/2.04 − 3; 0.2/2 + (6/2.1 − 3); 0.1/2.
    expect(found?.step).toBeCloseTo(Math.hypot(0.15, 6 / 2.04 - 3), 9);
    expect(found?.doubts?.map(({ source: of }) => of)).toEqual(['both', 'own']);
    expect(found?.doubts?.[0]?.u).toBeCloseTo(0.1 + 6 / 2.1 - 3, 9);
    expect(found?.doubts?.[1]?.u).toBeCloseTo(0.05, 9);
    expect(found?.estimated).toBe(true);
    const [plain] = worked([seen({ value: 6 })], [seen({ value: 2 })]);
    for (const field of ['doubts', 'estimated', 'interval']) expect(plain).not.toHaveProperty(field);
  });
  it('carries the interval of one source, the right way round, and none of two', () => {
    const interval = { low: 2, high: 4, method: 'Garwood' };
    const [above] = worked([seen({ value: 3, interval })], [seen({ value: 2 })]);
    expect(above?.interval).toEqual({ low: 1, high: 2, method: 'Garwood' });
    const [below] = worked([seen({ value: 8 })], [seen({ value: 3, interval })]);
    expect(below?.interval).toEqual({ low: 2, high: 4, method: 'Garwood' });
    const [two] = worked([seen({ value: 3, interval })], [seen({ value: 3, interval })]);
    expect(two).not.toHaveProperty('interval');
    const [open] = worked([seen({ value: 8 })], [seen({ value: 3, interval: { ...interval, low: 0 } })]);
    expect(open).not.toHaveProperty('interval');
  });
  it('is the same object again while nothing of it has changed', () => {
    const { document, ratio, expression } = study();
    const [a, b, c] = [seen({ value: 6 }), seen({ value: 2 }), seen({ value: 9, round: 2 })];
    const d = seen({ value: 3, round: 2 });
    const derive = (of: StudyDocument, pulls: Observation[], masses: Observation[]) =>
      deriveObservations(of, ratio, expression, [source(pull, pulls), source(mass, masses)]);
    const first = derive(document, [a, c], [b, d]);
    const again = derive(document, [a, c], [b, { ...d, value: 1 }]);
    expect(again[0]).toBe(first[0]);
    expect(again[1]).toMatchObject({ value: 9 });
    const other = derive({ ...document, items: [...document.items] }, [a, c], [b, d]);
    expect(other[0]).toEqual(first[0]);
    expect(other[0]).not.toBe(first[0]);
  });
  it('comes from attributes alone once for each item that has them', () => {
    const { document, ratio } = study('price / 2', 'EUR');
    const [withPrice, without] = document.items;
    document.items = [
      { ...(withPrice as (typeof items)[number]), attributes: [{ name: 'Price', value: 30, unit: 'EUR' }] },
      { ...(without as (typeof items)[number]), attributes: [{ name: 'Price', value: null, unit: 'EUR' }] },
    ];
    const expression = derivedExpression(document, ratio) as Expression;
    expect(deriveObservations(document, ratio, expression, [])).toMatchObject([
      { itemId: ama, value: 15, round: 1, setting: '', takenAt: document.study.createdAt, sources: [ama] },
    ]);
  });
});
