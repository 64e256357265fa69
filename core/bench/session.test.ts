import { describe, expect, it } from 'vitest';
import type { Condition, Session } from '../model/parts.ts';
import { testId, testStudy } from '../testing-study.ts';
import { benchLog } from './log.ts';
import { newCondition, newSession } from '../plan/new-parts.ts';
import { runBeyond, runQueue } from './queue.ts';
import {
  asksAtStart,
  elapsedS,
  isPaused,
  lastActive,
  missingConditions,
  openSession,
  readConditions,
  waitBefore,
} from './session.ts';
import { undoSteps } from './undo.ts';
import { recordOf } from '../record/record.ts';

const NOW = '2026-05-04T10:00:00.000Z';
const timeAfter = (minutes: number) => new Date(Date.parse(NOW) + 60000 * minutes).toISOString();

const sessionOf = (studyId: string, change: Partial<Session> = {}): Session => ({
  ...{ id: testId(), studyId, version: 1, createdAt: NOW, updatedAt: NOW },
  ...newSession(NOW),
  ...change,
});

const wind = (studyId: string): Condition => ({
  ...{ id: testId(), studyId, version: 1, createdAt: NOW, updatedAt: NOW },
  ...newCondition('Wind', 'm/s', 1),
  ...{ tolerableDrift: 1, limits: { low: null, high: 4 } },
});

describe('a session at the bench', () => {
  it('is the last one that is not ended; an import is none', () => {
    const { document } = testStudy(['Ama']);
    const { id } = document.study;
    expect(openSession(document)).toBeUndefined();
    const [ended, open, imported] = [
      sessionOf(id, { endedAt: timeAfter(30) }),
      sessionOf(id),
      sessionOf(id, { kind: 'import' }),
    ];
    expect(openSession({ sessions: [ended, open, imported], decisions: [] })).toBe(open);
    expect(openSession({ sessions: [ended, imported], decisions: [] })).toBeUndefined();
  });
  it('asks only where the plan has something to ask', () => {
    const { document } = testStudy(['Ama']);
    expect(asksAtStart(document)).toBe(false);
    expect(asksAtStart({ ...document, conditions: [wind(document.study.id)] })).toBe(true);
    document.study.hazards = ['mains'];
    expect(asksAtStart(document)).toBe(true);
  });
  it('counts its time without the pauses', () => {
    const { document } = testStudy(['Ama']);
    const session = sessionOf(document.study.id, {
      pauses: [
        { from: timeAfter(10), to: timeAfter(25) },
        { from: timeAfter(40), to: null },
      ],
    });
    // By hand: 10 min, then 15 min from minute 25 to minute 40.
    expect(elapsedS(session, Date.parse(timeAfter(60)))).toBe(25 * 60);
    expect(isPaused(session)).toBe(true);
    expect(elapsedS({ ...session, pauses: [], endedAt: timeAfter(7) }, Date.parse(timeAfter(60)))).toBe(
      7 * 60,
    );
    // A clock that was set back makes no negative time.
    expect(elapsedS({ ...session, pauses: [] }, Date.parse(timeAfter(-5)))).toBe(0);
  });
  it('was last active at its last reading', () => {
    const { document, read } = testStudy(['Ama']);
    const session = sessionOf(document.study.id);
    expect(lastActive(session, document)).toBe(Date.parse(NOW));
    Object.assign(read(0, 1, '3'), { sessionId: session.id, takenAt: timeAfter(12) });
    expect(lastActive(session, document)).toBe(Date.parse(timeAfter(12)));
  });
});

describe('conditions', () => {
  const condition = wind('any');
  it('are missing while a required one was not read', () => {
    const other = { ...condition, id: testId(), required: false };
    const document = { conditions: [condition, other] };
    expect(missingConditions(document, [], 'start')).toEqual([condition]);
    const read = [{ conditionId: condition.id, at: 'start' as const }];
    expect(missingConditions(document, read, 'start')).toEqual([]);
    expect(missingConditions(document, read, 'end')).toEqual([condition]);
  });
});

describe('the waits of the procedure', () => {
  const made = () => {
    const { document, read, items } = testStudy(['Ama', 'Bel'], { runOrder: 'fixed' });
    document.study.procedure.waits = [
      { what: 'Warm-up', durationS: 120, when: 'session' },
      { what: 'Up to speed', durationS: 30, when: 'item' },
      { what: 'Settle', durationS: 5, when: 'reading' },
    ];
    const session = sessionOf(document.study.id);
    document.sessions.push(session);
    return { document, read, items, session };
  };
  const left = (document: ReturnType<typeof made>['document'], place: number, seconds: number) => {
    const run = runQueue(document)[place];
    if (!run) throw new Error('no such run');
    return waitBefore(document, run, document.sessions[0], Date.parse(NOW) + 1000 * seconds);
  };
  it('come one after the other at the start of a session', () => {
    const { document } = made();
    expect(left(document, 0, 0)).toEqual({ what: 'Warm-up', leftS: 120 });
    expect(left(document, 0, 119)).toEqual({ what: 'Warm-up', leftS: 1 });
    expect(left(document, 0, 130)).toEqual({ what: 'Up to speed', leftS: 20 });
    expect(left(document, 0, 152)).toEqual({ what: 'Settle', leftS: 3 });
    expect(left(document, 0, 155)).toBeUndefined();
  });
  it('begin again with each reading, those of an item only when it changes', () => {
    const { document, read, session } = made();
    Object.assign(read(0, 1, '3'), { sessionId: session.id, takenAt: timeAfter(10) });
    const later = 600;
    expect(left(document, 1, later)).toEqual({ what: 'Up to speed', leftS: 30 });
    expect(left(document, 0, later)).toEqual({ what: 'Settle', leftS: 5 });
    expect(left(document, 1, later + 36)).toBeUndefined();
  });
  it('are nothing without a session, and never longer than planned after a clock was set back', () => {
    const { document } = made();
    const [run] = runQueue(document);
    expect(run && waitBefore(document, run, undefined, Date.parse(NOW))).toBeUndefined();
    expect(left(document, 0, -500)).toEqual({ what: 'Warm-up', leftS: 120 });
  });
});

describe('conditions as they are typed', () => {
  const { document } = testStudy(['Ama']);
  const gust = wind(document.study.id);
  const air = { ...wind(document.study.id), quantity: 'Air temperature', unit: '°C' };
  it('are recorded in their unit, with what was typed, and those left empty are not', () => {
    expect(readConditions([gust, air], { [gust.id]: ' 18 km/h ', [air.id]: '' }, 'start', NOW)).toEqual({
      readings: [{ conditionId: gust.id, at: 'start', takenAt: NOW, text: '18 km/h', number: 5 }],
    });
    const both = readConditions([gust, air], { [gust.id]: '3', [air.id]: '68 °F' }, 'end', NOW);
    expect('readings' in both && both.readings.map(({ number }) => Number(number?.toFixed(9)))).toEqual([
      3, 20,
    ]);
  });
  it('are none at all where one of them is no number in its unit', () => {
    const wrong = readConditions([gust, air], { [gust.id]: '3', [air.id]: 'warm' }, 'start', NOW);
    expect('problem' in wrong && wrong.problem).toContain('“warm”');
    const length = readConditions([gust], { [gust.id]: '3 kg' }, 'start', NOW);
    expect('problem' in length && length.problem).toContain('m/s');
  });
});

describe('a run beyond the plan', () => {
  it('is in the round behind all of its own item, measurand and setting, whatever others have', () => {
    const { document, items, measurand } = testStudy(['Ama', 'Bel'], { rounds: 2 });
    const [ama, bel] = items.map(({ id }) => id) as [string, string];
    const run = (itemId: string, round: number, levelIds: string[] = [], measurandId = measurand.id) =>
      ({ itemId, measurandId, round, levelIds }) as never;
    const beyond = (...queue: never[]) =>
      runBeyond(document, queue, { itemId: ama, measurandId: measurand.id, levelIds: ['x'] }).round;
    expect(beyond()).toBe(3);
    expect(beyond(run(ama, 5, ['x']))).toBe(6);
    expect(beyond(run(bel, 5, ['x']), run(ama, 5, ['y']), run(ama, 5, ['x'], 'another'))).toBe(3);
  });
  it('comes at the end, in a round of its own, and goes away by undo', () => {
    const { document, decide, read, items } = testStudy(['Ama', 'Bel'], { rounds: 2 });
    const [ama] = items;
    const queue = runQueue(document);
    const [first] = queue;
    if (!ama || !first) throw new Error('no run');
    const ref = runBeyond(document, queue, { ...first, itemId: ama.id });
    expect(ref.round).toBe(3);
    decide('add-run', { run: ref });
    const longer = runQueue(document);
    expect(longer).toHaveLength(5);
    expect(longer.at(-1)).toMatchObject({
      itemId: ama.id,
      round: 3,
      added: true,
      state: 'to come',
      place: 4,
    });
    expect(runBeyond(document, longer, { ...first, itemId: ama.id }).round).toBe(4);
    expect(undoSteps(document).at(-1)).toMatchObject({ what: 'added run', action: 'remove-run', run: ref });
    Object.assign(read(0, 3, '5'), { place: 4 });
    expect(runQueue(document).at(-1)?.state).toBe('done');
    decide('remove-run', { run: ref });
    expect(runQueue(document)).toHaveLength(4);
    // The reading that was taken for it stays in the record and counts.
    expect(recordOf(document).readings.map(({ standing }) => standing.is)).toEqual(['kept']);
  });
});

describe('an imported session', () => {
  const made = () => {
    const { document, read, decide } = testStudy(['Ama']);
    const typed = read(0, 1, '2');
    const session = sessionOf(document.study.id, { kind: 'import', note: 'kitchen.csv' });
    document.sessions.push(session);
    for (const text of ['3', '4', '5']) Object.assign(read(0, 2, text), { sessionId: session.id });
    return { document, decide, session, typed };
  };
  it('is one step to undo, whatever number of readings it has', () => {
    const { document, decide, session, typed } = made();
    expect(undoSteps(document).map(({ what }) => what)).toEqual(['reading', 'import']);
    const { action, sessionId } = undoSteps(document)[1] as ReturnType<typeof undoSteps>[number];
    expect([action, sessionId]).toEqual(['withdraw', session.id]);
    decide('withdraw', { sessionId: session.id });
    expect(recordOf(document).readings.filter(({ standing }) => standing.is !== 'withdrawn')).toMatchObject([
      { reading: { id: typed.id } },
    ]);
    expect(undoSteps(document).map(({ what }) => what)).toEqual(['reading']);
    decide('restore', { sessionId: session.id });
    expect(recordOf(document).readings.every(({ standing }) => standing.is === 'kept')).toBe(true);
  });
});

describe('the log of the bench', () => {
  it('tells of a session with its pauses and conditions, and strikes out what was taken back', () => {
    const { document, decide } = testStudy(['Ama']);
    const gust = wind(document.study.id);
    document.conditions.push(gust);
    const read = (when: 'start' | 'during', minutes: number, number: number) => ({
      ...{ conditionId: gust.id, at: when, takenAt: timeAfter(minutes), text: String(number), number },
    });
    const first = sessionOf(document.study.id, {
      startedAt: timeAfter(0),
      endedAt: timeAfter(30),
      conditions: [read('start', 0, 2), read('during', 10, 3.5)],
      pauses: [
        { from: timeAfter(12), to: timeAfter(20) },
        { from: timeAfter(25), to: timeAfter(30) },
      ],
    });
    // It took over what was read before; that was said already.
    const second = sessionOf(document.study.id, {
      ...{ startedAt: timeAfter(30), continuesId: first.id, instrument: 'Cup anemometer', operator: 'Ola' },
      conditions: first.conditions,
    });
    document.sessions.push(first, second);
    decide('withdraw', { sessionId: second.id, decidedAt: timeAfter(40) });
    const log = benchLog(document).reverse();
    expect(log.map(({ text }) => text.replace(/\s/g, ' '))).toEqual([
      'Session started',
      'Conditions: Wind 3.5 m/s',
      'Paused',
      'Went on',
      'Paused',
      'Session ended',
      'Session went on by Ola, Cup anemometer',
      'Undone: the start of a session',
    ]);
    expect(log.filter(({ undone }) => undone).map(({ text }) => text)).toEqual([
      'Session went on by Ola, Cup anemometer',
    ]);
  });
  it('tells what was done in words, the latest first, and what was taken back', () => {
    const { document, read, decide } = testStudy(['Ama', 'Bel']);
    const session = sessionOf(document.study.id, { operator: 'Ola', startedAt: timeAfter(-1) });
    document.sessions.push(session);
    const misfired = read(0, 1, '3');
    const withdrawn = Object.assign(read(1, 1, '30'), { takenAt: timeAfter(1) });
    decide('misfire', { readingId: misfired.id, reason: 'door', decidedAt: timeAfter(2) });
    decide('withdraw', { readingId: withdrawn.id, decidedAt: timeAfter(3) });
    const log = benchLog(document);
    expect(log.map(({ text }) => text.replace(/\s/g, ' '))).toEqual([
      'Undone: Bel, round 1: 30 g',
      'Misfire of Ama, round 1: 3 g (door)',
      'Bel, round 1: 30 g',
      'Ama, round 1: 3 g',
      'Session started by Ola',
    ]);
    expect(log.map(({ undone }) => undone)).toEqual([false, false, true, false, false]);
  });
  it('says what came at the same moment in the order of the ids, the latest first', () => {
    const { document, read } = testStudy(['Ama', 'Bel', 'Cor']);
    for (const item of [2, 0, 1]) read(item, 1, String(item));
    const log = benchLog({ ...document, readings: [...document.readings].sort(() => -1) });
    expect(log.map(({ text }) => text.slice(0, 3))).toEqual(['Bel', 'Ama', 'Cor']);
    expect(benchLog(document)).toEqual(log);
  });
});
