import { describe, expect, it } from 'vitest';
import { NEW_STUDY, NO_CORRECTIONS } from '../model/new-study.ts';
import { STUDY_FORMAT, STUDY_FORMAT_VERSION } from '../model/study-format.ts';
import { upToDate } from './upgrade.ts';

const brought = (formatVersion: number, more: Record<string, unknown> = {}) =>
  upToDate({ format: STUDY_FORMAT, formatVersion, study: {}, ...more }) as Record<string, never>;

/** What a study could not say before each version, and what it is taken to have said. */
const STUDY_SAYS: readonly [since: number, name: string, value: unknown][] = [
  [2, 'looks', NEW_STUDY.looks],
  [3, 'answers', []],
  [4, 'report', NEW_STUDY.report],
  [5, 'scoring', NEW_STUDY.scoring],
  [6, 'earlier', NEW_STUDY.earlier],
  [11, 'draws', 'by-stream'],
];

describe('a document that an earlier version wrote', () => {
  it.each(STUDY_SAYS)('from before version %i has “%s” as it was understood then', (since, name, value) => {
    expect(brought(since - 1).study).toHaveProperty(name, value);
    expect(brought(since).study).not.toHaveProperty(name);
    // What it says stands.
    expect(brought(since - 1, { study: { [name]: 'said' } }).study).toHaveProperty(name, 'said');
  });
  it.each([
    [7, 'figures'],
    [8, 'files'],
    [9, 'calibrations'],
  ])('of version %i has no %s', (version, list) => {
    expect(brought(version)[list]).toEqual([]);
    expect(brought(version, { [list]: ['one'] })[list]).toEqual(['one']);
  });
  it('has measurands without spec, controls and corrections, and misfires that were taken again', () => {
    const { measurands, decisions } = brought(2, {
      measurands: [{ name: 'Speed' }],
      decisions: [
        { action: 'misfire', reason: 'taken again' },
        { action: 'misfire', reason: 'a bump' },
        { action: 'leave-out', reason: 'taken again' },
      ],
    });
    expect(measurands).toEqual([{ name: 'Speed', spec: null, controls: [], corrections: NO_CORRECTIONS }]);
    expect(decisions).toEqual([
      { action: 'take-again', reason: '' },
      { action: 'misfire', reason: 'a bump' },
      { action: 'leave-out', reason: 'taken again' },
    ]);
  });
  it('has rules at the level of a sample, and no margin of per cent of a target of 0', () => {
    const rule = (more: object) => ({ level: 'sample', judges: 'reading', ...more });
    const percent = { margin: { kind: 'percent', value: 5 }, direction: { kind: 'nearest', target: 0 } };
    const given = [
      { rule: { name: 'dixon' }, ...percent },
      { rule: { name: 'dixon', level: 'study' }, ...percent, form: 'against-reference' },
      { ...percent, direction: { kind: 'nearest', target: 20 } },
      { ...percent, margin: { kind: 'absolute', value: 5 } },
      { rule: 'none', margin: 5, direction: 'up' },
    ];
    const kept = ['rule', 'margin'] as const;
    const measurands = brought(1, { measurands: given }).measurands as unknown as Record<string, unknown>[];
    expect(measurands.map((each) => kept.map((name) => each[name]))).toEqual([
      [rule({ name: 'dixon' }), { kind: 'absolute', value: 0 }],
      [rule({ name: 'dixon', level: 'study' }), percent.margin],
      [undefined, percent.margin],
      [undefined, { kind: 'absolute', value: 5 }],
      ['none', 5],
    ]);
    const change = (field: string, before: unknown) =>
      (
        brought(1, { changes: [{ field, before, after: '7' }] }).changes as unknown as { before: unknown }[]
      )[0]?.before;
    expect(JSON.parse(change('rule', '{"name":"dixon"}') as string)).toEqual(rule({ name: 'dixon' }));
    expect(change('margin', '{"name":"dixon"}')).toBe('{"name":"dixon"}');
    expect(change('rule', '{"name":')).toBe('{"name":');
    expect(change('rule', '[]')).toBe('[]');
  });
  it('has notes of its own in place of those that stood in readings, and runs with levels', () => {
    const stamp = { id: 'r', studyId: 's', createdAt: 'then', updatedAt: 'later', takenAt: 'noon' };
    const { notes, readings, decisions } = brought(1, {
      readings: [
        { ...stamp, note: ' a dog barked', photo: 'x.png' },
        { ...stamp, note: ' ' },
        { ...stamp, note: 7 },
      ],
      decisions: [{ run: { round: 1 } }, { run: { levelIds: ['one'] } }, { run: null, sessionId: 'one' }],
    });
    expect(readings).toEqual([stamp, stamp, stamp]);
    expect(notes).toMatchObject([
      {
        id: 'r',
        studyId: 's',
        version: 1,
        readingId: 'r',
        itemId: null,
        text: ' a dog barked',
        notedAt: 'noon',
      },
    ]);
    expect(decisions).toEqual([
      { sessionId: null, run: { levelIds: [], round: 1 } },
      { sessionId: null, run: { levelIds: ['one'] } },
      { sessionId: 'one', run: null },
    ]);
    expect(brought(1, { notes: 'none', readings: [{ note: 'stays' }] }).readings).toEqual([
      { note: 'stays' },
    ]);
  });
  it('has waits before readings, and one time for a reading of any measurand', () => {
    const upgraded = (study: object, measurand = {}) => {
      const whole = brought(1, { study, measurands: [measurand] });
      return [whole.study, (whole.measurands as unknown as object[])[0]] as const;
    };
    const [study, measurand] = upgraded({
      timing: { setupS: 5, readingS: 12 },
      procedure: { waits: [{ minutes: 1 }, { when: 'session' }] },
    });
    expect(study).toMatchObject({
      timing: { levelS: 0, setupS: 5 },
      procedure: { waits: [{ when: 'reading', minutes: 1 }, { when: 'session' }] },
    });
    expect(study).not.toHaveProperty('timing.readingS');
    expect(measurand).toMatchObject({ readingS: 12, expression: null, onItems: null, settings: {} });
    expect(upgraded({ timing: { setupS: 5 } }, { readingS: 3 })[1]).toMatchObject({ readingS: 3 });
    expect(upgraded({ timing: 'soon', procedure: { waits: 'long' } })).toMatchObject([
      { timing: 'soon', procedure: { waits: 'long' } },
      { readingS: 20 },
    ]);
  });
  it('has conditions that were read when their session began or ended', () => {
    const conditions = [{ at: 'start' }, { at: 'end' }, { at: 'end', takenAt: 'then' }];
    const times = (session: Record<string, unknown>) =>
      (
        brought(1, { sessions: [{ startedAt: 'noon', conditions, ...session }] }).sessions as unknown as {
          conditions: { takenAt: string }[];
        }[]
      )[0]?.conditions.map(({ takenAt }) => takenAt);
    expect(times({ endedAt: 'night' })).toEqual(['noon', 'night', 'then']);
    expect(times({ endedAt: null })).toEqual(['noon', 'noon', 'then']);
  });
  it('keeps what was noted of a round as a note of its session', () => {
    const stamp = { id: 'r', studyId: 's', version: 2, createdAt: 'then', updatedAt: 'later' };
    const rounds = [
      { ...stamp, number: 3, sessionId: 'one', note: 'a door was open' },
      { ...stamp, number: 4, sessionId: null, note: '' },
    ];
    const { notes, ...rest } = brought(12, { rounds, notes: ['before'] });
    expect(rest).not.toHaveProperty('rounds');
    expect(notes).toEqual([
      'before',
      {
        ...{ ...stamp, readingId: null, itemId: null, sessionId: 'one', run: null },
        ...{ text: 'Round 3: a door was open', photo: null, removed: false, notedAt: 'then' },
      },
    ]);
  });
  it('has conditions that are quantities, with limits the right way round', () => {
    const limits = [
      { low: 4, high: 1.5 },
      { low: 4, high: 4 },
      { low: 1, high: 4 },
      { low: null, high: 0 },
    ];
    const conditions = limits.map((given) => ({ quantity: 'Wind', limits: given }));
    const set = [{ low: 1.5, high: 4 }, { low: null, high: 4 }, ...limits.slice(2)];
    expect(brought(11, { conditions }).conditions).toEqual(
      set.map((right) => ({ quantity: 'Wind', kind: 'number', words: [], limits: right })),
    );
    expect(
      brought(11, { conditions: [{ kind: 'word', words: ['dry'], limits: 'none' }] }).conditions,
    ).toEqual([{ kind: 'word', words: ['dry'], limits: 'none' }]);
  });
  it('is of this version then, and the one that came is as it was', () => {
    const came = { format: STUDY_FORMAT, formatVersion: 1, study: {} };
    expect(upToDate(came)).toMatchObject({ formatVersion: STUDY_FORMAT_VERSION });
    expect(came).toEqual({ format: STUDY_FORMAT, formatVersion: 1, study: {} });
  });
  it('is left to the schema where it is none, or of a version that there is not', () => {
    for (const odd of [null, [], 'a study', { format: 'another', formatVersion: 1 }])
      expect(upToDate(odd)).toBe(odd);
    for (const formatVersion of [
      0,
      -1,
      1.5,
      '1',
      undefined,
      STUDY_FORMAT_VERSION,
      STUDY_FORMAT_VERSION + 1,
    ]) {
      const document = { format: STUDY_FORMAT, formatVersion };
      expect(upToDate(document)).toBe(document);
    }
    // Lists that are none stay what they are.
    expect(brought(1, { study: 7, measurands: 'many', sessions: [1] })).toMatchObject({
      ...{ study: 7, measurands: 'many', sessions: [1] },
    });
  });
});
