import { describe, expect, it } from 'vitest';
import type { Claim, Measurand } from '../model/parts.ts';
import { newMeasurand } from '../plan/new-parts.ts';
import { testId, testStudy } from '../testing-study.ts';
import { type Plan, mended, planProblems } from './mend.ts';

const { document, measurand } = testStudy(['Ama', 'Bel', 'Cor']);
const [ama, bel, cor] = document.items.map(({ id }) => id) as [string, string, string];
const derived: Measurand = {
  ...measurand,
  ...newMeasurand('Twice', 2),
  id: testId(),
  expression: 'pull + pull * 1e5',
  onItems: [ama, bel],
  controls: [{ itemId: cor, low: 1, high: 2 }],
};
const claim = { id: testId(), kind: 'order', measurandId: measurand.id, order: [ama, bel, cor] } as Claim;
const plan: Plan = { ...document, measurands: [measurand, derived], claims: [claim] };
const without = (...ids: string[]): Plan => ({
  ...plan,
  items: plan.items.filter(({ id }) => !ids.includes(id)),
});

describe('what changes along with a plan', () => {
  it('is nothing where nothing is leant on', () => {
    const { measurands, claims } = mended(plan, { ...plan, items: [...plan.items].reverse() });
    expect([measurands.size, claims.size]).toEqual([0, 0]);
  });
  it('is an expression, which follows its names and no figures', () => {
    const renamed: Plan = { ...plan, measurands: [{ ...measurand, name: 'Full force' }, derived] };
    const { measurands, claims } = mended(plan, renamed);
    expect([...measurands]).toEqual([[derived.id, { expression: 'full_force + full_force * 1e5' }]]);
    expect(claims.size).toBe(0);
    const e = { ...measurand, name: 'E' };
    const figures = { ...derived, expression: 'e * 1e5 + 2.5e3' };
    const toF = { ...plan, measurands: [{ ...e, name: 'F' }, figures] };
    expect([...mended({ ...plan, measurands: [e, figures] }, toF).measurands.values()]).toEqual([
      { expression: 'f * 1e5 + 2.5e3' },
    ]);
  });
  it('is who is read, controlled and claimed, when an item is gone', () => {
    expect([...mended(plan, without(bel)).measurands]).toEqual([[derived.id, { onItems: [ama] }]]);
    expect([...mended(plan, without(cor)).measurands]).toEqual([[derived.id, { controls: [] }]]);
    expect([...mended(plan, without(bel, cor)).measurands]).toEqual([
      [derived.id, { onItems: [ama], controls: [] }],
    ]);
    expect([...mended(plan, without(bel)).claims]).toEqual([[claim.id, { order: [ama, cor] }]]);
  });
  it('leaves alone what was wrong before', () => {
    const strange = { ...derived, onItems: [testId()] };
    const before = { ...plan, measurands: [measurand, strange] };
    expect(mended(before, { ...before, items: [...before.items] }).measurands.size).toBe(0);
  });
});

describe('what does not hold together in a plan', () => {
  it('is named with its part, whether measurand, level or claim', () => {
    expect(planProblems({ ...plan, measurands: [measurand] })).toEqual([]);
    const broken: Plan = {
      ...plan,
      measurands: [measurand, { ...derived, expression: 'push' }],
      levels: [{ id: 'level', factorId: 'f', name: 'High', value: null }] as never,
      factors: [{ id: 'f', name: 'Pressure', kind: 'numeric' }] as never,
      claims: [
        { ...claim, order: [ama] },
        { ...claim, id: 'of nothing', measurandId: 'x', order: [ama] },
      ],
    };
    const found = planProblems(broken);
    expect(found.map(({ key }) => key)).toEqual([
      `measurands ${derived.id} /expression`,
      'levels level /value',
      `claims ${claim.id} /order`,
      'claims of nothing /order',
    ]);
    expect(found.map(({ message }) => message.split(':')[0])).toEqual([
      'Twice',
      'The level High',
      'A claim about Pull',
      'A claim about a measurand',
    ]);
  });
});
