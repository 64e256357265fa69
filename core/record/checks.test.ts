import { describe, expect, it } from 'vitest';
import { MOST_FILE_BYTES } from '../model/limits.ts';
import type { PartKind } from '../model/part-kinds.ts';
import type { Measurand } from '../model/parts.ts';
import { newMeasurand } from '../plan/new-parts.ts';
import { testId, testStudy, withLevels } from '../testing-study.ts';
import { checkFiles, checkPart, checkReading, checkStudy } from './checks.ts';

const planned = testStudy(['Ama', 'Bel']);
const { document, measurand } = planned;
const { factor, levels } = withLevels(document, 2);
const [ama, bel] = document.items.map(({ id }) => id) as [string, string];
const NOBODY = testId();

/** A measurand that is in no study yet. */
const ofForm = (form: string, change: Partial<Measurand> = {}): Measurand => ({
  ...measurand,
  ...newMeasurand('Catch', 2, form),
  id: testId(),
  ...change,
});
const paths = (kind: PartKind, part: object): string[] =>
  checkPart(kind, part, document).map(({ path }) => path);
const messages = (kind: PartKind, part: object): string[] =>
  checkPart(kind, part, document).map(({ message }) => message);

describe('a name or a code that is taken', () => {
  it('is refused, whatever its case and the spaces around it, unless it is the part’s own', () => {
    const [first] = document.items;
    expect(messages('items', { ...first, id: testId(), name: ' AMA ', code: 'i1' })).toEqual([
      'The code “i1” is taken by Ama.',
      'Another item is called “ AMA ” already.',
    ]);
    expect(paths('items', { ...first })).toEqual([]);
    expect(paths('measurands', ofForm('value', { name: 'pull' }))).toEqual(['/name']);
    expect(paths('measurands', measurand)).toEqual([]);
    expect(paths('factors', { ...factor, id: testId(), name: 'pressure' })).toEqual(['/name']);
    expect(paths('levels', { ...levels[0], id: testId() })).toEqual(['/name']);
    expect(paths('levels', { ...levels[0], id: testId(), factorId: NOBODY })).toEqual([]);
  });
});

describe('a measurand', () => {
  it.each<[string, Measurand, string[]]>([
    ['a form that there is not', ofForm('value', { form: 'guess' }), ['/form']],
    ['a unit that its form does not have', ofForm('timed', { unit: 'kg' }), ['/unit']],
    ['settings out of their range', ofForm('count', { settings: { per: -1 } }), ['/settings/per']],
    ['limits the wrong way round', ofForm('value', { limits: { low: 3, high: 3 } }), ['/limits/low']],
    ['limits with one end', ofForm('value', { limits: { low: 3, high: null } }), []],
    ['limits with the other end', ofForm('value', { limits: { low: null, high: -3 } }), []],
    [
      'the nearest to no target',
      ofForm('value', { direction: { kind: 'nearest', target: null } }),
      ['/direction/target'],
    ],
    ['the nearest to 0', ofForm('value', { direction: { kind: 'nearest', target: 0 } }), []],
    [
      'per cent of a target of 0',
      ofForm('value', {
        direction: { kind: 'nearest', target: 0 },
        margin: { kind: 'percent', value: 2 },
      }),
      ['/margin'],
    ],
    [
      'no per cent of a target of 0',
      ofForm('value', {
        direction: { kind: 'nearest', target: 0 },
        margin: { kind: 'percent', value: 0 },
      }),
      [],
    ],
    ['per cent of an error', ofForm('against-reference', { margin: { kind: 'percent', value: 2 } }), []],
    ['an expression that does not come out', ofForm('value', { expression: '1 +' }), ['/expression']],
    ['an expression in another form', ofForm('count', { expression: 'pull / pull' }), ['/form']],
    ['items that are there', ofForm('value', { onItems: [ama, bel] }), []],
    ['an item that is not there', ofForm('value', { onItems: [ama, NOBODY] }), ['/onItems']],
  ])('with %s', (_, made, wanted) => {
    expect(paths('measurands', made)).toEqual(wanted);
  });
  it('says which unit its form has', () => {
    expect(messages('measurands', ofForm('timed', { unit: 'kg' }))).toEqual([
      'The value of “Timed” set so has the unit s, not “kg”.',
    ]);
    const [reading] = messages('measurands', ofForm('score', { unit: 'kg' }));
    expect(reading).toMatch(/has no unit, not “kg”\.$/);
  });
  const spec = { kind: 'absolute', low: 1, high: 2, below: null, share: 95 } as const;
  const target = { kind: 'nearest', target: 5 } as const;
  it.each<[string, Measurand, string[]]>([
    ['two limits', ofForm('value', { spec }), []],
    ['a lower limit', ofForm('value', { spec: { ...spec, high: null } }), []],
    ['an upper limit', ofForm('value', { spec: { ...spec, low: null } }), []],
    ['no limit', ofForm('value', { spec: { ...spec, low: null, high: null } }), ['/spec']],
    ['limits the wrong way round', ofForm('value', { spec: { ...spec, low: 2 } }), ['/spec/low']],
    ['per cent of nothing', ofForm('value', { spec: { ...spec, kind: 'percent' } }), ['/spec/kind']],
    ['per cent of a target', ofForm('value', { spec: { ...spec, kind: 'percent' }, direction: target }), []],
    [
      'per cent of a target of 0',
      ofForm('value', { spec: { ...spec, kind: 'percent' }, direction: { ...target, target: 0 } }),
      ['/spec/kind'],
    ],
    ['per cent of a reference', ofForm('against-reference', { spec: { ...spec, kind: 'percent' } }), []],
    [
      'a band below a split of nothing',
      ofForm('value', { spec: { ...spec, below: { split: 1, within: 1 } } }),
      ['/spec/below'],
    ],
    [
      'a band below a split of the reference',
      ofForm('against-reference', { spec: { ...spec, below: { split: 1, within: 1 } } }),
      [],
    ],
  ])('with a spec of %s', (_, made, wanted) => {
    expect(paths('measurands', made)).toEqual(wanted);
  });
  it('has controls that are items, each once, with what is expected the right way round', () => {
    const controls = (...given: [string, number | null, number | null][]) =>
      paths(
        'measurands',
        ofForm('value', { controls: given.map(([itemId, low, high]) => ({ itemId, low, high })) }),
      );
    expect(controls([ama, 1, 2], [bel, null, 2])).toEqual([]);
    expect(controls([bel, 1, null])).toEqual([]);
    expect(controls([ama, 1, 2], [ama, 1, 2])).toEqual(['/controls/1/itemId']);
    expect(controls([NOBODY, 1, 2])).toEqual(['/controls/0/itemId']);
    expect(controls([ama, 2, 2])).toEqual(['/controls/0/low']);
  });
});

describe('factors and levels', () => {
  it('one factor at most cannot be undone', () => {
    const other = { ...factor, id: testId(), name: 'Age', irreversible: true };
    expect(paths('factors', other)).toEqual([]);
    factor.irreversible = true;
    expect(messages('factors', other)).toEqual([
      'Pressure cannot be undone either; only one factor of a study can be so.',
    ]);
    expect(paths('factors', factor)).toEqual([]);
    expect(paths('factors', { ...other, irreversible: false })).toEqual([]);
    factor.irreversible = false;
  });
  it('a level of a numeric factor has its number', () => {
    const level = { ...levels[0], id: testId(), name: 'High', value: null };
    expect(paths('levels', level)).toEqual(['/value']);
    expect(paths('levels', { ...level, value: 0 })).toEqual([]);
  });
});

describe('a claim', () => {
  const claim = {
    ...{ kind: 'order', order: [ama, bel], itemId: null, value: null, unit: '', factorId: null },
    ...{ attribute: '', stepSize: null, measurandId: measurand.id },
  };
  const figure = { ...claim, kind: 'figure', itemId: ama, value: 3, unit: 'kg' };
  const step = { ...claim, kind: 'step', value: 3, factorId: factor.id };
  it.each<[string, object, string[]]>([
    ['an order of two', claim, []],
    ['an order of one', { ...claim, order: [ama] }, ['/order']],
    ['an order of somebody else', { ...claim, order: [ama, NOBODY] }, ['/order']],
    ['a figure', figure, []],
    ['a figure of no unit', { ...figure, unit: ' ' }, []],
    ['a figure of nothing', { ...figure, itemId: null }, ['/itemId']],
    ['no figure', { ...figure, value: null }, ['/value']],
    ['a figure in another unit', { ...figure, unit: 'dB' }, ['/unit']],
    ['steps along a factor', step, []],
    ['steps along a factor without levels', { ...step, factorId: NOBODY }, ['/factorId']],
    ['steps along nothing', { ...step, factorId: null }, ['/attribute']],
    ['steps along two', { ...step, attribute: 'Mass' }, ['/attribute']],
    ['steps along an attribute', { ...step, factorId: null, attribute: 'Mass', stepSize: 1 }, []],
    ['steps along an attribute of no size', { ...step, factorId: null, attribute: 'Mass' }, ['/stepSize']],
  ])('of %s', (_, made, wanted) => {
    expect(paths('claims', made)).toEqual(wanted);
  });
});

describe('a figure from elsewhere', () => {
  const summary = {
    ...{ kind: 'summary', itemId: ama, measurandId: measurand.id, levels: [] },
    ...{ n: 4, mean: 2, sd: 0.1, low: null, high: null },
  };
  const range = { ...summary, kind: 'range', n: null, mean: null, sd: null, low: 1 };
  it.each<[string, object, string[]]>([
    ['a summary', summary, []],
    ['a summary between its ends', { ...summary, low: 1, high: 1 }, []],
    ['no count', { ...summary, n: null }, ['/n']],
    ['no mean', { ...summary, mean: null }, ['/mean']],
    ['no spread', { ...summary, sd: null }, ['/sd']],
    ['one reading', { ...summary, n: 1, sd: null }, []],
    ['one reading with a spread', { ...summary, n: 1 }, ['/sd']],
    ['a range with one end', range, []],
    ['a range with the other end', { ...range, low: null, high: 1 }, []],
    ['a range without ends', { ...range, low: null }, ['/low']],
    ['a range the wrong way round', { ...range, low: 2, high: 1 }, ['/high']],
    ['a range with a mean', { ...range, mean: 1 }, ['/mean']],
    ['a range with a count', { ...range, n: 3 }, ['/mean']],
    ['a range with a spread', { ...range, sd: 3 }, ['/mean']],
    [
      'a level of another factor',
      { ...summary, levels: [{ factorId: NOBODY, levelId: levels[0]?.id }] },
      ['/levels/0'],
    ],
    ['a level', { ...summary, levels: [{ factorId: factor.id, levelId: levels[0]?.id }] }, []],
  ])('of %s', (_, made, wanted) => {
    expect(paths('figures', made)).toEqual(wanted);
  });
  it('is refused where a mean says nothing', () => {
    const saidOf = (form: string): string[] => {
      const other = ofForm(form);
      document.measurands.push(other);
      const said = messages('figures', { ...summary, measurandId: other.id });
      document.measurands.pop();
      return said;
    };
    expect(saidOf('value')).toEqual([]);
    expect(saidOf('score')[0]).toMatch(/is in marks, which are compared by rank/);
    expect(saidOf('against-reference')[0]).toMatch(/is ranked by the size of each error/);
  });
});

describe('a reading', () => {
  const reading = planned.read(0, 1, '3');
  const [part] = reading.parts;
  const wrong = (change: object, of = measurand) =>
    checkReading({ ...reading, ...change }, of).map(({ path }) => path);
  it('is what its texts say, part by part', () => {
    expect(wrong({})).toEqual([]);
    expect(wrong({ parts: [{ ...part, number: 4 }] })).toEqual(['/parts/0/number']);
    expect(wrong({ parts: [{ ...part, number: null }] })).toEqual([]);
    expect(wrong({ parts: [{ ...part, text: 'much' }] })).toEqual(['/parts/0/text']);
    expect(wrong({ parts: [part, part] })).toEqual(['/parts/1/name']);
    expect(wrong({ parts: [{ ...part, name: 'end' }] })).toEqual(['/parts/0/name']);
  });
  it('is of no measurand that is worked out, and is left alone where there is none', () => {
    expect(wrong({}, ofForm('value', { expression: 'pull * 2' }))).toEqual(['/measurandId']);
    expect(wrong({}, ofForm('value', { form: 'guess' }))).toEqual([]);
    expect(checkReading(reading, undefined)).toEqual([]);
  });
  it('has one level of a factor, which the study has', () => {
    const level = { factorId: factor.id, levelId: levels[0]?.id as string };
    expect(wrong({ levels: [level] })).toEqual([]);
    expect(wrong({ levels: [level, { ...level, levelId: levels[1]?.id }] })).toEqual(['/levels/1']);
    expect(paths('readings', { ...reading, levels: [{ ...level, levelId: NOBODY }] })).toEqual(['/levels/0']);
  });
});

describe('what is around readings', () => {
  const condition = {
    ...{ kind: 'number', unit: '°C', limits: { low: 1, high: 2 }, tolerableDrift: 1, words: [] },
    ...{ quantity: 'Air' },
  };
  const open = { low: null, high: null };
  const said = { kind: 'word', unit: '', limits: open, tolerableDrift: null, words: ['dry', 'wet'] };
  it.each<[string, object, string[]]>([
    ['a quantity', condition, []],
    ['a quantity with one end', { ...condition, limits: { low: null, high: 1 } }, []],
    ['a quantity the wrong way round', { ...condition, limits: { low: 2, high: 2 } }, ['/limits/low']],
    ['a quantity of words', { ...condition, words: ['dry'] }, ['/words']],
    ['a word', { ...condition, ...said }, []],
    ['a word with a unit', { ...condition, ...said, unit: 'm' }, ['/unit']],
    ['a word with a drift', { ...condition, ...said, tolerableDrift: 0 }, ['/tolerableDrift']],
    ['a word with a limit', { ...condition, ...said, limits: { ...open, high: 0 } }, ['/limits']],
    ['a word twice', { ...condition, ...said, words: ['dry', 'wet', 'Dry '] }, ['/words/2']],
    ['yes or no with words', { ...condition, ...said, kind: 'yes-no' }, ['/words']],
  ])('as a condition: %s', (_, made, wanted) => {
    expect(paths('conditions', made)).toEqual(wanted);
  });
  const session = { startedAt: '2026-05-04T10:00:00.000Z', endedAt: null, pauses: [] };
  const before = '2026-05-04T09:00:00.000Z';
  it.each<[string, object, string[]]>([
    ['one that goes on', session, []],
    ['one that ends as it begins', { ...session, endedAt: session.startedAt }, []],
    ['one that ends before', { ...session, endedAt: before }, ['/endedAt']],
    ['a pause that goes on', { ...session, pauses: [{ from: before, to: null }] }, []],
    [
      'a pause that ends before',
      { ...session, pauses: [{ from: session.startedAt, to: before }] },
      ['/pauses/0/to'],
    ],
  ])('as a session: %s', (_, made, wanted) => {
    expect(paths('sessions', made)).toEqual(wanted);
  });
  const calibration = { fileId: null, channel: null, toneFrom: null, toneTo: null, toneLevel: null };
  const tone = { fileId: NOBODY, channel: 1, toneFrom: 1, toneTo: 2, toneLevel: 94 };
  it.each<[string, object, string[]]>([
    ['one typed in', calibration, []],
    ['one by a tone', tone, []],
    ['one by a tone without level', { ...tone, toneLevel: null }, ['/toneLevel']],
    ['one by a tone without file', { ...calibration, channel: 1 }, ['/channel']],
    ['one by a tone of no length', { ...tone, toneTo: 1 }, ['/toneTo']],
  ])('as a calibration: %s', (_, made, wanted) => {
    expect(paths('calibrations', made)).toEqual(wanted);
  });
  it('a decision is about something, but for a look', () => {
    const decision = { action: 'skip', readingId: null, sessionId: null, run: null };
    expect(paths('decisions', decision)).toEqual(['/readingId']);
    expect(paths('decisions', { ...decision, action: 'look' })).toEqual([]);
    for (const about of [{ readingId: NOBODY }, { sessionId: NOBODY }, { run: {} }])
      expect(paths('decisions', { ...decision, ...about })).toEqual([]);
  });
  it('files are as large as all of a study may be, and no larger', () => {
    expect(checkFiles([{ bytes: MOST_FILE_BYTES }])).toEqual([]);
    expect(checkFiles([{ bytes: MOST_FILE_BYTES }, { bytes: 1e8 }])).toMatchObject([{ path: '/files' }]);
  });
  it('an earlier test is another study, named once', () => {
    const earlier = (...ids: string[]) =>
      checkStudy({ id: 'this', earlier: ids.map((studyId) => ({ studyId })) as never }).map(
        ({ path }) => path,
      );
    expect(earlier('one', 'two')).toEqual([]);
    expect(earlier('one', 'this')).toEqual(['/earlier/1/studyId']);
    expect(earlier('one', 'two', 'one')).toEqual(['/earlier/2/studyId']);
  });
});
