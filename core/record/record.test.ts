import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { testId, testStudy } from '../testing-study.ts';
import { newCondition } from '../plan/new-parts.ts';
import { changeWords, settledAt } from './change-words.ts';
import { checkFiles, checkPart, checkStudy } from './checks.ts';
import type { Change, Decision } from '../model/parts.ts';
import { itemsInOrder } from '../model/in-order.ts';
import { recordOf } from './record.ts';

describe('when a field was settled', () => {
  it('is when the measurand was made, and in time, where nothing was changed', () => {
    const { document, measurand } = testStudy(['Ama']);
    expect(settledAt(document, measurand.id, 'margin')).toEqual({
      moment: measurand.createdAt,
      late: false,
    });
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
      ...{ moment: '2026-05-04T10:00:00.000Z', late: false },
    });
    change('2026-05-05T10:00:00.000Z', 3);
    expect(settledAt(document, measurand.id, 'margin')).toEqual({
      ...{ moment: '2026-05-05T10:00:00.000Z', late: true },
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
  it('is looked at again only where a decision bears on it, and where one that was tried out gives way', () => {
    const { document, read } = testStudy(['Ama']);
    const [first, second] = [read(0, 1, '5'), read(0, 2, '6')];
    const after = (decisions: Decision[]) => recordOf({ ...document, decisions }).readings;
    const [before, kept] = after([]);
    const made = (reason: string, { id: readingId }: { id: string }) =>
      testStudy([]).decide('leave-out', { readingId, reason });
    const tried = made('', first);
    expect(after([tried])[0]?.standing).toMatchObject({ is: 'left out', reason: '' });
    const [decided, same] = after([made('a slip', first)]);
    expect(decided?.standing).toMatchObject({ is: 'left out', reason: 'a slip' });
    expect(same).toBe(kept);
    // What was tried out of another reading holds nowhere else.
    expect(after([tried, made('', second)])[1]?.standing.is).toBe('left out');
    const [alone, other] = after([tried]);
    expect([alone?.standing.is, other?.standing.is]).toEqual(['left out', 'kept']);
    expect(before?.standing.is).toBe('kept');
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
    // Per cent of nothing is nothing.
    const nearest = (target: number, kind: string, value: number) =>
      paths({ direction: { kind: 'nearest', target }, margin: { kind, value } });
    expect(nearest(0, 'percent', 5)).toEqual(['/margin']);
    expect([nearest(0, 'percent', 0), nearest(0, 'absolute', 5), nearest(2, 'percent', 5)]).toEqual([
      [],
      [],
      [],
    ]);
    expect(
      paths({ direction: { kind: 'higher', target: 0 }, margin: { kind: 'percent', value: 5 } }),
    ).toEqual([]);
    expect(paths({ id: 'another' })).toEqual(['/name']);
  });
  it('is checked of conditions: limits, and what belongs to another kind', () => {
    const wind = newCondition('Wind', 'm/s', 1);
    const paths = (change: object) =>
      checkPart('conditions', { ...wind, ...change }, document).map(({ path }) => path);
    expect(paths({ tolerableDrift: 1, limits: { low: 1, high: 4 } })).toEqual([]);
    expect(paths({ limits: { low: 4, high: 4 } })).toEqual(['/limits/low']);
    expect(paths({ words: ['calm'] })).toEqual(['/words']);
    const word = { kind: 'word', unit: '', words: ['dry', 'damp'] };
    expect(paths(word)).toEqual([]);
    expect(paths({ ...word, words: ['dry', 'damp', 'Dry '] })).toEqual(['/words/2']);
    expect(paths({ ...word, unit: 'm/s' })).toEqual(['/unit']);
    expect(paths({ ...word, tolerableDrift: 0 })).toEqual(['/tolerableDrift']);
    expect(paths({ ...word, limits: { low: null, high: 0 } })).toEqual(['/limits']);
    expect(paths({ kind: 'yes-no', unit: '', words: ['yes'] })).toEqual(['/words']);
    expect(paths({ kind: 'yes-no', unit: '' })).toEqual([]);
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

describe('what a schema cannot say of the other parts', () => {
  const { document, items, measurand } = testStudy(['Ama', 'Bel']);
  const [factorId, fixedId, levelId] = [testId(), testId(), testId()];
  const context = {
    ...document,
    factors: [
      { id: factorId, name: 'Pressure', kind: 'numeric', irreversible: false },
      { id: fixedId, name: 'Shell', kind: 'treatment', irreversible: true },
    ],
    levels: [{ id: levelId, factorId, name: 'low', value: 1 }],
  } as unknown as typeof document;
  const found = (kind: Parameters<typeof checkPart>[0], part: object) =>
    checkPart(kind, part, context).map(({ path, message }) => `${path}: ${message}`);
  it('factors: a name once, and one that cannot be undone', () => {
    const factor = { id: testId(), name: 'Heat', kind: 'treatment', irreversible: false };
    expect(found('factors', factor)).toEqual([]);
    expect(found('factors', { ...factor, name: 'PRESSURE' })).toEqual([
      '/name: Another factor is called “PRESSURE” already.',
    ]);
    expect(found('factors', { ...factor, irreversible: true })).toEqual([
      '/irreversible: Shell cannot be undone either; only one factor of a study can be so.',
    ]);
    expect(found('factors', { ...factor, id: fixedId, name: 'Shell', irreversible: true })).toEqual([]);
  });
  it('levels: a name once in its factor, and a number where the factor is numeric', () => {
    const level = { id: testId(), factorId, name: 'high', value: 3 };
    expect(found('levels', level)).toEqual([]);
    expect(found('levels', { ...level, name: 'Low' })).toEqual([
      '/name: Another level is called “Low” already.',
    ]);
    expect(found('levels', { ...level, name: 'low', factorId: fixedId, value: null })).toEqual([]);
    expect(found('levels', { ...level, value: null })).toEqual([
      '/value: A level of a numeric factor needs its number.',
    ]);
  });
  it('claims: an order of two items, a figure of one, steps along one thing', () => {
    const claim = {
      ...{ kind: 'order', measurandId: measurand.id, order: items.map(({ id }) => id), itemId: null },
      ...{ value: null, unit: '', factorId: null, attribute: '', stepSize: null },
    };
    expect(found('claims', claim)).toEqual([]);
    expect(found('claims', { ...claim, order: [items[0]?.id] })).toEqual([
      '/order: An order needs at least two items.',
    ]);
    expect(found('claims', { ...claim, order: [items[0]?.id, testId()] })).toEqual([
      '/order: The study has no item with one of these ids.',
    ]);
    const figure = { ...claim, kind: 'figure', itemId: items[0]?.id, value: 3, unit: 'kg' };
    expect(found('claims', figure)).toEqual([]);
    expect(found('claims', { ...figure, value: null })).toEqual(['/value: The claim needs its figure.']);
    expect(found('claims', { ...figure, unit: 's' })).toEqual(['/unit: “s” cannot be turned into g.']);
    expect(found('claims', { ...figure, unit: ' ' })).toEqual([]);
    expect(found('claims', { ...figure, itemId: null })).toEqual(['/itemId: Which item is the figure of?']);
    const step = { ...claim, kind: 'step', value: 3, factorId };
    expect(found('claims', step)).toEqual([]);
    const along = '/attribute: The steps go along one factor, or along one attribute.';
    expect(found('claims', { ...step, attribute: 'Mass' })).toEqual([along]);
    expect(found('claims', { ...step, factorId: null })).toEqual([along]);
    const attribute = { ...step, factorId: null, attribute: 'Mass', stepSize: 10 };
    expect(found('claims', attribute)).toEqual([]);
    expect(found('claims', { ...attribute, stepSize: null })).toEqual([
      '/stepSize: How much of the attribute is one step?',
    ]);
    expect(found('claims', { ...step, factorId: fixedId })).toEqual(['/factorId: The factor has no levels.']);
  });
  it('figures from elsewhere: a summary or a range, of what can be averaged', () => {
    const summary = {
      ...{ kind: 'summary', measurandId: measurand.id, levels: [] },
      ...{ n: 4, mean: 3, sd: 0.1, low: null, high: null },
    };
    expect(found('figures', summary)).toEqual([]);
    expect(found('figures', { ...summary, n: null, mean: null })).toEqual([
      '/n: How many readings were summarized?',
      '/mean: What was their mean?',
    ]);
    for (const n of [2, 4])
      expect(found('figures', { ...summary, n, sd: null })).toEqual([
        '/sd: What was their standard deviation?',
      ]);
    expect(found('figures', { ...summary, n: 1, sd: null })).toEqual([]);
    expect(found('figures', { ...summary, n: 1 })).toEqual([
      '/sd: A single reading has no standard deviation.',
    ]);
    expect(found('figures', { ...summary, low: 4, high: 3 })).toEqual([
      '/high: The upper end lies below the lower one.',
    ]);
    expect(found('figures', { ...summary, low: 3, high: 3 })).toEqual([]);
    const range = { ...summary, kind: 'range', n: null, mean: null, sd: null, high: 8 };
    expect(found('figures', range)).toEqual([]);
    expect(found('figures', { ...range, high: null })).toEqual(['/low: A range needs one end at least.']);
    const ends = ['/mean: A range has its ends only; a mean makes it a summary.'];
    for (const field of ['n', 'mean', 'sd'])
      expect(found('figures', { ...range, [field]: 2 }), field).toEqual(ends);
    expect(found('figures', { ...range, levels: [{ factorId, levelId }] })).toEqual([]);
    expect(found('figures', { ...range, levels: [{ factorId: fixedId, levelId }] })).toEqual([
      '/levels/0: The study has no such level of this factor.',
    ]);
  });
  it('readings: each part once, and one level of a factor', () => {
    const reading = { measurandId: measurand.id, levels: [{ factorId, levelId }], parts: [] as object[] };
    const value = { name: 'value', text: '3', number: 3 };
    expect(found('readings', { ...reading, parts: [value] })).toEqual([]);
    expect(found('readings', { ...reading, parts: [value, value] })).toEqual([
      '/parts/1/name: The part “value” is there twice.',
    ]);
    const twice = { ...reading, parts: [value], levels: [...reading.levels, ...reading.levels] };
    expect(found('readings', twice)).toEqual(['/levels/1: A reading has one level of a factor.']);
  });
  it('sessions and decisions: in time, and about something', () => {
    const [ten, eleven] = ['2026-05-04T10:00:00.000Z', '2026-05-04T11:00:00.000Z'];
    expect(found('sessions', { startedAt: ten, endedAt: ten, pauses: [{ from: ten, to: null }] })).toEqual(
      [],
    );
    expect(
      found('sessions', { startedAt: eleven, endedAt: ten, pauses: [{ from: eleven, to: ten }] }),
    ).toEqual(['/endedAt: A session ends behind its start.', '/pauses/0/to: A pause ends behind its start.']);
    const nothing = { action: 'leave-out', readingId: null, sessionId: null, run: null };
    expect(found('decisions', nothing)).toEqual([
      '/readingId: A decision is about a reading, a session or a run.',
    ]);
    expect(found('decisions', { ...nothing, action: 'look' })).toEqual([]);
    for (const about of [{ readingId: 'x' }, { sessionId: 'x' }, { run: {} }])
      expect(found('decisions', { ...nothing, ...about })).toEqual([]);
  });
  it('calibrations: a tone with all that it needs, or none', () => {
    const typed = { fileId: null, channel: null, toneFrom: null, toneTo: null, toneLevel: null };
    const tone = { fileId: 'x', channel: 1, toneFrom: 1, toneTo: 3, toneLevel: 94 };
    expect([...found('calibrations', typed), ...found('calibrations', tone)]).toEqual([]);
    expect(found('calibrations', { ...typed, toneLevel: 94 })).toEqual([
      '/toneLevel: There is no tone without a file.',
    ]);
    expect(found('calibrations', { ...tone, channel: null })).toEqual([
      '/channel: A tone has a channel, its two ends, and a level.',
    ]);
    expect(found('calibrations', { ...tone, toneTo: 1 })).toEqual([
      '/toneTo: The tone ends before it begins.',
    ]);
  });
  it('a study: no earlier test of itself, and none twice', () => {
    const earlier = (...ids: string[]) =>
      checkStudy({ id: 'this', earlier: ids.map((studyId) => ({ studyId, matches: [] })) as never });
    expect(earlier('one', 'two')).toEqual([]);
    expect(earlier('one', 'this')).toEqual([
      { path: '/earlier/1/studyId', message: 'A study is no earlier test of itself.' },
    ]);
    expect(earlier('one', 'two', 'one')).toEqual([
      { path: '/earlier/2/studyId', message: 'This earlier test is named twice.' },
    ]);
  });
  it('files: not more together than a study may hold', () => {
    expect(checkFiles([{ bytes: 9e9 }, { bytes: 7e9 }])).toEqual([]);
    expect(checkFiles([{ bytes: 9e9 }, { bytes: 7.1e9 }]).map(({ message }) => message)).toEqual([
      'The files of a study take at most 16 GB together; these take 16.1 GB.',
    ]);
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
