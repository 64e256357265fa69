import { DEFAULT_RULE } from '../screening/rule.ts';
import { describe, expect, it } from 'vitest';
import type { Claim, Condition, Factor, Level } from '../model/parts.ts';
import { testId, testStudy } from '../testing-study.ts';
import { newCondition } from './new-parts.ts';
import { planFindings } from './findings.ts';

const NOW = '2026-05-04T10:00:00.000Z';
const stamp = (studyId: string) => ({ id: testId(), studyId, version: 1, createdAt: NOW, updatedAt: NOW });
const titles = (document: Parameters<typeof planFindings>[0]) =>
  planFindings(document).map(({ tone, title }) => `${tone === 'attention' ? '! ' : ''}${title}`);

/** A rule of thumb, or what is changed of it. */
const claimOf = (studyId: string, measurandId: string, change: Partial<Claim>): Claim => ({
  ...{ ...stamp(studyId), kind: 'step', measurandId, order: [], itemId: null, value: 10, unit: 'g' },
  ...{ factorId: null, attribute: '', stepSize: null, source: '' },
  ...change,
});

/** A plan that leaves nothing to be said. */
function soundPlan() {
  const made = testStudy(['Almo', 'Berrin'], { rounds: 6, runOrder: 'balanced-square' });
  made.measurand.margin = { kind: 'absolute', value: 2 };
  return made;
}

describe('what is noticed about a plan', () => {
  it('is nothing where there is nothing to say', () => {
    expect(titles(soundPlan().document)).toEqual([]);
  });
  it('is an empty list of items first of all', () => {
    expect(titles(testStudy([]).document)[0]).toBe('! Begin with the items');
  });
  it('is one reading per item, and fewer than the rule in force needs', () => {
    const { document } = soundPlan();
    document.study.rounds = 1;
    expect(titles(document)).toContain('! One reading per item');
    document.study.rounds = 3;
    const says = (words: string) => titles(document).some((title) => title.includes(words));
    expect(says('see large differences only')).toBe(true);
    for (const measurand of document.measurands) measurand.rule = { ...DEFAULT_RULE };
    document.study.rounds = 4;
    expect(says('leave bad readings to your own eye')).toBe(true);
    document.study.rounds = 5;
    expect(says('leave bad readings to your own eye')).toBe(false);
  });
  it('is a margin below the resolution, with both numbers and what to do', () => {
    const { document, measurand } = soundPlan();
    measurand.instrument.resolution = 5;
    const [found] = planFindings(document);
    expect(found?.title).toBe('Margin finer than the instrument: Pull');
    expect(found?.text).toMatch(/2\s*g.*5\s*g.*finer instrument/);
    measurand.margin = { kind: 'percent', value: 1 };
    expect(titles(document)).toEqual([]);
  });
  it('is a change of which nobody said whether it is a gain or a loss', () => {
    const { document, measurand } = soundPlan();
    Object.assign(measurand, { form: 'before-after', direction: { kind: 'unranked', target: null } });
    expect(titles(document)).toEqual(['! Which way is better? Pull']);
    measurand.direction = { kind: 'lower', target: null };
    expect(titles(document)).toEqual([]);
  });
  it('is a margin that nobody stated, unless the measurand is not ranked', () => {
    const { document, measurand } = soundPlan();
    measurand.margin.value = 0;
    expect(titles(document)).toEqual(['What difference would matter? Pull']);
    measurand.direction = { kind: 'unranked', target: null };
    expect(titles(document)).toEqual([]);
  });
  it('is an order that always takes one item first', () => {
    const { document } = testStudy(['Almo', 'Cerrow', 'Dunnet', 'Berrin'], { rounds: 2, runOrder: 'fixed' });
    const found = planFindings(document).find(({ title }) => title === 'The order is not balanced');
    expect(found?.text).toMatch(/Almo comes early.*Berrin late/);
  });
  it('is a required condition without a unit', () => {
    const { document } = soundPlan();
    const wind: Condition = {
      ...stamp(document.study.id),
      ...newCondition('Wind', ' ', 1),
      limits: { low: null, high: 4 },
    };
    document.conditions.push(wind);
    expect(titles(document)).toEqual(['! No unit: Wind']);
    wind.required = false;
    expect(titles(document)).toEqual([]);
  });
  it('is a factor without levels, with one level, and a claim by steps without a baseline', () => {
    const { document, measurand } = soundPlan();
    const factor: Factor = {
      ...stamp(document.study.id),
      name: 'Pressure',
      kind: 'numeric',
      unit: 'bar',
      irreversible: false,
      position: 1,
    };
    document.factors.push(factor);
    expect(titles(document)).toEqual(['! No levels: Pressure']);
    const level = (name: string, value: number): Level => ({
      ...stamp(document.study.id),
      factorId: factor.id,
      name,
      value,
      baseline: false,
      position: value,
    });
    document.levels.push(level('low', 1));
    expect(titles(document)).toEqual(['One level only: Pressure']);
    document.levels.push(level('high', 3));
    document.claims.push(claimOf(document.study.id, measurand.id, { factorId: factor.id }));
    expect(titles(document)).toContain('! No baseline: Pressure');
    (document.levels[0] as Level).baseline = true;
    expect(titles(document)).not.toContain('! No baseline: Pressure');
  });
  it('is a claim along an attribute that too few items have', () => {
    const { document, measurand } = soundPlan();
    document.claims.push(claimOf(document.study.id, measurand.id, { attribute: 'Mass', stepSize: 1 }));
    expect(titles(document)).toEqual(['! Mass of 0 items only']);
  });
  it('is a measurand that is read on no item, or cannot be worked out', () => {
    const { document, measurand } = soundPlan();
    measurand.onItems = [];
    expect(titles(document)).toContain('! On no item: Pull');
    measurand.onItems = null;
    measurand.expression = '[Push] * 2';
    expect(titles(document).some((title) => title.startsWith('! Cannot be worked out: Pull'))).toBe(true);
  });
  it('is a temperature in K beside one in °C, which is taken as a difference', () => {
    const { document, measurand } = soundPlan();
    const other = (name: string, unit: string, expression: string | null = null) => {
      document.measurands.push({ ...measurand, id: testId(), name, unit, expression });
    };
    measurand.unit = '°C';
    other('Rise', 'K');
    other('Room', '°F');
    const noted = () => titles(document).filter((title) => title.includes('beside'));
    other('Start', '°C', 'pull - room');
    other('Ratio', '', 'rise / rise');
    expect(noted()).toEqual([]);
    other('End', '°C', 'pull + rise - room');
    expect(noted()).toEqual(['K beside °C and °F: End']);
    const text = planFindings(document).find(({ title }) => title.startsWith('K beside'))?.text;
    expect(text).toBe(
      'Rise in K is taken as a difference of temperatures. What is a temperature itself needs the unit of the others.',
    );
  });
  it('is a plan too large for any bench, with its count', () => {
    const { document } = soundPlan();
    const factors = Array.from({ length: 5 }, (_, i): Factor => ({
      ...stamp(document.study.id),
      name: `F${String(i)}`,
      kind: 'treatment',
      unit: '',
      irreversible: false,
      position: i,
    }));
    document.factors.push(...factors);
    for (const factor of factors) {
      for (let i = 0; i < 6; i += 1) {
        document.levels.push({
          ...stamp(document.study.id),
          factorId: factor.id,
          name: `L${String(i)}`,
          value: null,
          baseline: i === 0,
          position: i,
        });
      }
    }
    // 2 items, 6 levels of five factors, 6 rounds: counted by hand, 2 · 7,776 · 6.
    const [first] = planFindings(document);
    expect(first?.title).toBe('Too many runs');
    expect(first?.text.replace(/\D/g, '')).toContain('93312');
  });
  it('is a claim that was entered with readings in sight', () => {
    const { document, measurand, read } = soundPlan();
    read(0, 1, '12');
    const order = document.items.map(({ id }) => id);
    const claim = claimOf(document.study.id, measurand.id, { kind: 'order', order, value: null, unit: '' });
    document.claims.push(claim);
    const change = {
      ...stamp(document.study.id),
      measurandId: measurand.id,
      itemId: null,
      field: 'claim' as const,
      before: 'null',
      after: JSON.stringify(claim),
      readingsThen: 1,
      reason: '',
      changedAt: NOW,
    };
    document.changes.push(change);
    expect(titles(document)).toEqual(['! 1 claim entered after the first reading']);
    // One that was changed or removed late was made before.
    document.changes = [{ ...change, before: JSON.stringify(claim), after: 'null' }];
    expect(titles(document)).toEqual([]);
    document.changes = [{ ...change, readingsThen: 0 }];
    expect(titles(document)).toEqual([]);
    change.readingsThen = 0;
    expect(titles(document)).toEqual([]);
  });
});
