import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { testId, testStudy } from '../testing-study.ts';
import { changeWords, settledAt } from './change-words.ts';
import { checkPart } from './checks.ts';
import type { Change } from '../model/parts.ts';
import { itemsInOrder } from '../model/in-order.ts';
import { recordOf } from './record.ts';

describe('when a field was settled', () => {
  it('is when the measurand was made, and in time, where nothing was changed', () => {
    const { document, measurand } = testStudy(['Ama']);
    expect(settledAt(document, measurand.id, 'margin')).toEqual({ at: measurand.createdAt, late: false });
    const change = (changedAt: string, readingsThen: number) =>
      document.changes.push({
        ...{
          id: testId(),
          studyId: document.study.id,
          version: 1,
          createdAt: changedAt,
          updatedAt: changedAt,
        },
        ...{ measurandId: measurand.id, itemId: null, field: 'margin', before: '1', after: '2' },
        ...{ readingsThen, reason: '', changedAt },
      });
    change('2026-05-04T10:00:00.000Z', 0);
    expect(settledAt(document, measurand.id, 'margin')).toEqual({
      ...{ at: '2026-05-04T10:00:00.000Z', late: false },
    });
    change('2026-05-05T10:00:00.000Z', 3);
    expect(settledAt(document, measurand.id, 'margin')).toEqual({
      ...{ at: '2026-05-05T10:00:00.000Z', late: true },
    });
    expect(settledAt(document, measurand.id, 'rule').late).toBe(false);
  });
});

describe('where a reading stands', () => {
  const standingAfter = (
    ...actions: ('leave-out' | 'misfire' | 'take-back' | 'keep' | 'withdraw' | 'restore')[]
  ) => {
    const { document, read, decide } = testStudy(['Ama']);
    const reading = read(0, 1, '5');
    for (const action of actions) decide(action, { readingId: reading.id, reason: action });
    return recordOf(document).readings[0]?.standing;
  };
  it('is told by the last decision', () => {
    expect(standingAfter()).toEqual({ is: 'kept' });
    expect(standingAfter('leave-out')).toMatchObject({ is: 'left out', by: 'hand', reason: 'leave-out' });
    expect(standingAfter('misfire')).toMatchObject({ is: 'left out', by: 'misfire' });
    expect(standingAfter('leave-out', 'take-back')).toEqual({ is: 'kept' });
    expect(standingAfter('leave-out', 'keep')).toEqual({ is: 'kept', insisted: 'keep' });
    expect(standingAfter('take-back', 'leave-out')).toMatchObject({ is: 'left out' });
  });
  it('comes back only for a reading that was withdrawn', () => {
    expect(standingAfter('withdraw')).toMatchObject({ is: 'withdrawn' });
    expect(standingAfter('withdraw', 'restore')).toEqual({ is: 'kept' });
    expect(standingAfter('leave-out', 'restore')).toMatchObject({ is: 'left out' });
  });
  it('is kept after any decisions that end in taking back', () => {
    const action = fc.constantFrom('leave-out', 'misfire', 'keep', 'withdraw', 'restore', 'take-back');
    fc.assert(
      fc.property(fc.array(action as fc.Arbitrary<'leave-out'>, { maxLength: 8 }), (actions) => {
        expect(standingAfter(...actions, 'take-back')).toEqual({ is: 'kept' });
      }),
    );
  });
  it('stays withdrawn with its session, whatever is decided about it afterwards', () => {
    const { document, read, decide } = testStudy(['Ama']);
    const readings = [read(0, 1, '5'), read(0, 2, '6')];
    for (const reading of readings) reading.sessionId = 'a session';
    decide('withdraw', { sessionId: 'a session' });
    expect(recordOf(document).readings.map(({ standing }) => standing.is)).toEqual([
      'withdrawn',
      'withdrawn',
    ]);
    decide('leave-out', { readingId: readings[0]?.id ?? '', reason: 'a slip' });
    // The record before is taken on, and says what one that is made from the start says.
    const takenOn = recordOf({ ...document });
    expect(takenOn.readings.map(({ standing }) => standing.is)).toEqual(['withdrawn', 'withdrawn']);
    expect(recordOf(structuredClone(document)).readings.map(({ standing }) => standing)).toEqual(
      takenOn.readings.map(({ standing }) => standing),
    );
  });
  it('goes by the order of the record and not by clocks', () => {
    const { document, read, decide } = testStudy(['Ama']);
    const reading = read(0, 1, '5');
    decide('leave-out', { readingId: reading.id, reason: 'first', decidedAt: '2026-05-04T12:00:00.000Z' });
    // A clock set back between the two.
    decide('take-back', { readingId: reading.id, decidedAt: '2026-05-04T09:00:00.000Z' });
    expect(recordOf(document).readings[0]?.standing).toEqual({ is: 'kept' });
  });
  it('has no value for a misfire without a number', () => {
    const { document, read } = testStudy(['Ama']);
    read(0, 1, 'slipped');
    expect(recordOf(document).readings[0]?.value).toBeNull();
  });
});

describe('items', () => {
  it('stand in the order that the tester gave them', () => {
    const { document, items } = testStudy(['Ama', 'Bel', 'Cor']);
    (items[2] as (typeof items)[0]).position = 0.5;
    expect(itemsInOrder(document).map(({ name }) => name)).toEqual(['Cor', 'Ama', 'Bel']);
  });
});

describe('what a schema cannot say', () => {
  const { document, items, measurand } = testStudy(['Ama', 'Bel']);
  const first = items[0] as (typeof items)[0];
  it('is checked of items: code and name are taken, whatever their case', () => {
    const paths = (change: object) =>
      checkPart('items', { ...first, ...change }, document).map(({ path }) => path);
    expect(paths({})).toEqual([]);
    expect(paths({ code: 'i2' })).toEqual(['/code']);
    expect(paths({ name: ' BEL ' })).toEqual(['/name']);
  });
  it('is checked of measurands: limits, target, form and name', () => {
    const paths = (change: object) =>
      checkPart('measurands', { ...measurand, ...change }, document).map(({ path }) => path);
    expect(paths({})).toEqual([]);
    expect(paths({ limits: { low: 2, high: 2 } })).toEqual(['/limits/low']);
    expect(paths({ limits: { low: 2, high: null } })).toEqual([]);
    expect(paths({ direction: { kind: 'nearest', target: null } })).toEqual(['/direction/target']);
    expect(paths({ form: 'guess' })).toEqual(['/form']);
    expect(paths({ id: 'another' })).toEqual(['/name']);
  });
  it('is checked of readings: parts belong to the form, and numbers are what their texts say', () => {
    const reading = {
      measurandId: measurand.id,
      levels: [],
      parts: [{ name: 'value', text: '3,5', number: 3.5 }],
    };
    const paths = (parts: object[]) =>
      checkPart('readings', { ...reading, parts }, document).map(({ path }) => path);
    expect(paths(reading.parts)).toEqual([]);
    expect(paths([{ name: 'value', text: '3,5', number: 35 }])).toEqual(['/parts/0/number']);
    expect(paths([{ name: 'value', text: 'fast', number: 3 }])).toEqual(['/parts/0/text']);
    expect(paths([{ name: 'speed', text: '3', number: 3 }])).toEqual(['/parts/0/name']);
    expect(paths([{ name: 'value', text: '', number: null }])).toEqual([]);
  });
});

describe('a change of the plan', () => {
  const { document, measurand } = testStudy(['Ama', 'Bel']);
  const words = (field: Change['field'], before: unknown, after: unknown) =>
    changeWords(
      {
        field,
        measurandId: measurand.id,
        before: JSON.stringify(before),
        after: JSON.stringify(after),
      } as Change,
      document,
    );
  it('is told in words', () => {
    expect(words('margin', { kind: 'absolute', value: 0.1 }, { kind: 'percent', value: 5 })).toBe(
      'margin from 0.1\u202fg to 5\u202f%',
    );
    expect(
      words(
        'rule',
        { name: 'none', parameter: null, level: 'study', judges: 'distance' },
        { name: 'grubbs', parameter: null, level: 'study', judges: 'distance' },
      ),
    ).toBe('rule from None to Grubbs, per study');
    expect(words('spec', null, { kind: 'percent', low: -5, high: 10, below: null, share: 95 })).toBe(
      'spec from none to between −5 % and 10 %, kept by 95 %',
    );
    expect(words('direction', { kind: 'higher', target: null }, { kind: 'nearest', target: 3 })).toBe(
      'direction from higher to nearest to 3\u202fg',
    );
    expect(words('expression', null, 'pull / mass')).toBe(
      'expression from read at the bench to “pull / mass”',
    );
    expect(words('blind', 'blind', 'opened')).toBe('codes opened');
  });
  it('of a claim names what it speaks of', () => {
    const claim = {
      kind: 'order',
      measurandId: measurand.id,
      order: document.items.map(({ id }) => id),
    };
    expect(words('claim', null, claim)).toBe('claim added: “Pull: Ama > Bel”');
    expect(words('claim', claim, null)).toBe('claim removed: “Pull: Ama > Bel”');
  });
});
