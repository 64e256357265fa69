import fc from 'fast-check';
import { v7 } from 'uuid';
import { describe, expect, it } from 'vitest';
import type { Session } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { testStudy } from '../testing-study.ts';
import { benchLog } from './log.ts';
import { newSession } from '../plan/new-parts.ts';
import { isPaused, openSession } from './session.ts';
import { canUndo, undoSteps } from './undo.ts';

const START = Date.parse('2026-05-04T10:00:00.000Z');

/** A bench on a clock that moves a minute with every step, and undoes as the page does. */
function testBench() {
  const { document, items, read, decide } = testStudy(['Ama', 'Bel']);
  const { id: studyId, version, createdAt, updatedAt } = document.study;
  let now = START;
  const tick = () => {
    now += 60000;
    return { id: v7({ msecs: now }), moment: new Date(now).toISOString() };
  };
  const change = (session: Session, before: Partial<Session>) => {
    document.sessions = document.sessions.map((other) =>
      other.id === session.id ? { ...other, ...before } : other,
    );
  };
  const open = () => openSession(document);
  const begin = (about: Partial<Session> = {}) => {
    const { id, moment } = tick();
    const stamp = { id, studyId, version, createdAt, updatedAt };
    document.sessions.push({ ...stamp, ...newSession(moment), ...about });
  };
  const on = (then: (session: Session, moment: string) => Partial<Session>) => {
    const session = open();
    if (session) change(session, then(session, tick().moment));
  };
  const steps = {
    start: () => {
      if (!open()) begin({ operator: 'Ola' });
    },
    read: () => {
      const { id, moment } = tick();
      Object.assign(read(0, document.readings.length + 1, '3'), {
        ...{ id, takenAt: moment, sessionId: open()?.id ?? null },
      });
    },
    pause: () => {
      on(({ pauses }, moment) => {
        const paused = pauses.at(-1)?.to === null;
        return paused ? {} : { pauses: [...pauses, { from: moment, to: null }] };
      });
    },
    goOn: () => {
      on(({ pauses }, moment) => ({
        pauses: pauses.map((pause) => (pause.to === null ? { ...pause, to: moment } : pause)),
      }));
    },
    conditions: () => {
      on(({ conditions }, moment) => ({
        conditions: [
          ...conditions,
          { conditionId: studyId, at: 'during', takenAt: moment, text: '21', number: 21 },
        ],
      }));
    },
    end: () => {
      on(({ pauses, conditions }, moment) => ({
        endedAt: moment,
        pauses: pauses.map((pause) => (pause.to === null ? { ...pause, to: moment } : pause)),
        conditions: [
          ...conditions,
          { conditionId: studyId, at: 'end', takenAt: moment, text: '22', number: 22 },
        ],
      }));
    },
    split: () => {
      const session = open();
      if (!session) return;
      steps.end();
      begin({ instrument: 'another meter', conditions: session.conditions, continuesId: session.id });
    },
  };
  const undo = () => {
    const step = undoSteps(document).at(-1);
    if (!step) return undefined;
    const { what, action, session, readingId, sessionId, run } = step;
    if (session) change(session.session, session.before);
    const { id, moment } = tick();
    if (action)
      Object.assign(decide(action, { readingId, sessionId, run, reason: what, decidedAt: moment }), { id });
    return what;
  };
  return { document, items, decide, steps, undo, open };
}

const whats = (document: StudyDocument) => undoSteps(document).map(({ what }) => what);

describe('undo of what was done to a session', () => {
  it('takes each step back by itself, the last one first', () => {
    const { document, steps, undo, open } = testBench();
    const { start, read, pause, goOn, conditions, end } = steps;
    for (const step of [start, read, pause, goOn, conditions, read, end]) step();
    expect(whats(document)).toEqual([
      ...['start of the session', 'reading', 'pause', 'going on', 'conditions', 'reading'],
      'end of the session',
    ]);
    expect(open()).toBeUndefined();
    undo();
    expect(open()).toMatchObject({ endedAt: null, conditions: [{ at: 'during' }] });
    undo();
    undo();
    expect(open()).toMatchObject({ conditions: [], pauses: [{ to: expect.any(String) as string }] });
    undo();
    expect(isPaused(open() as Session)).toBe(true);
    undo();
    expect(open()?.pauses).toEqual([]);
    expect(undo()).toBe('reading');
    expect(undo()).toBe('start of the session');
    // The session stays in the record and is none any more.
    expect([document.sessions.length, open()]).toEqual([1, undefined]);
    expect(undo()).toBeUndefined();
  });
  it('opens a pause that the end had closed', () => {
    const { steps, undo, open } = testBench();
    steps.start();
    steps.pause();
    steps.end();
    undo();
    expect(isPaused(open() as Session)).toBe(true);
  });
  it('brings back the session that another one went on from, in one step', () => {
    const { document, steps, undo, open } = testBench();
    steps.start();
    const before = open()?.id;
    steps.conditions();
    steps.split();
    steps.read();
    expect(open()?.instrument).toBe('another meter');
    expect(whats(document)).toEqual(['start of the session', 'conditions', 'change of session', 'reading']);
    undo();
    undo();
    expect(open()).toMatchObject({ id: before, endedAt: null, conditions: [{ at: 'during' }] });
    expect(whats(document)).toEqual(['start of the session', 'conditions']);
  });
  it('knows no start of a session that began with its first reading', () => {
    const { document, steps, open } = testBench();
    steps.start();
    steps.read();
    Object.assign(open() as Session, { startedAt: document.readings[0]?.takenAt });
    expect(whats(document)).toEqual(['reading']);
  });
  it('keeps an end behind the readings of its session after the clock was set back', () => {
    const { document, steps, open } = testBench();
    steps.start();
    steps.read();
    Object.assign(open() as Session, { endedAt: new Date(START - 3600000).toISOString() });
    expect(whats(document).at(-1)).toBe('end of the session');
  });
  it('takes decisions back by their opposites, and none that was taken back already', () => {
    const { document, steps, decide, items } = testBench();
    steps.start();
    steps.read();
    const reading = document.readings[0];
    const readingId = reading?.id as string;
    const run = {
      round: 2,
      itemId: items[1]?.id as string,
      measurandId: document.measurands[0]?.id as string,
      levelIds: [],
    };
    // Ids of tests do not carry their time, so each is put behind all before it.
    let place = 0;
    const decided = (...given: Parameters<typeof decide>) => {
      place += 1;
      decide(...given).id = `f${String(place).padStart(3, '0')}`;
    };
    const last = () => {
      const {
        what,
        action,
        run: about,
        readingId: ofReading,
        reading: of,
      } = undoSteps(document).at(-1) ?? {};
      return [what, action, about?.round ?? ofReading, of?.id];
    };
    for (const [action, back, what] of [
      ['skip', 'unskip', 'skip'],
      ['add-run', 'remove-run', 'added run'],
    ] as const) {
      decided(action, { run });
      expect(last()).toEqual([what, back, 2, undefined]);
      decided(back, { run });
      expect(last()[0]).toBe('reading');
      decided(action, { run: { ...run, round: 3 } });
      decided(back, { run });
      expect(last()).toEqual([what, back, 3, undefined]);
      decided(back, { run: { ...run, round: 3 } });
    }
    for (const [action, what] of [
      ['misfire', 'misfire'],
      ['take-again', 'reading taken again'],
      ['leave-out', 'decision'],
    ] as const) {
      decided(action, { readingId });
      expect(last()).toEqual([what, 'take-back', readingId, readingId]);
      decided('take-back', { readingId });
      expect(last()[0]).toBe('reading');
    }
    decided('keep', { readingId });
    decided('look', {});
    expect(last()[0]).toBe('reading');
    decided('leave-out', { readingId: 'nobody knows it' });
    expect(last()).toEqual(['decision', 'take-back', 'nobody knows it', undefined]);
    decided('take-back', { readingId: 'nobody knows it' });
    decided('misfire', { readingId, decidedAt: reading?.takenAt as string });
    expect(last()).toEqual(['misfire', 'withdraw', readingId, readingId]);
    decided('withdraw', { readingId });
    expect(last()[0]).toBe('start of the session');
  });
  it('takes an import back as a whole, and a note by itself unless it came with a reading', () => {
    const { document, steps, decide, items } = testBench();
    steps.start();
    steps.read();
    const [session, reading] = [document.sessions[0], document.readings[0]] as const;
    const { takenAt } = reading as { takenAt: string };
    const note = { readingId: reading?.id as string, removed: false };
    document.notes.push(
      ...([
        { ...note, id: 'n1', notedAt: takenAt },
        { ...note, id: 'n2', notedAt: 'later' },
        { ...note, id: 'n3', notedAt: takenAt, readingId: null },
        { ...note, id: 'n4', notedAt: 'later', removed: true },
      ] as never[]),
    );
    expect(undoSteps(document).map(({ what, note: of }) => of?.id ?? what)).toEqual([
      ...['start of the session', 'reading', 'n2', 'n3'],
    ]);
    document.notes = [];
    const table = { ...(session as Session), id: 'import', kind: 'import' as const };
    document.sessions.push(table);
    document.readings.push({
      ...(reading as (typeof document.readings)[number]),
      id: 'x',
      sessionId: 'import',
    });
    expect(undoSteps(document).at(-1)).toMatchObject({
      what: 'import',
      action: 'withdraw',
      sessionId: 'import',
    });
    expect(whats(document)).toEqual(['start of the session', 'reading', 'import']);
    expect(canUndo(document)).toBe(true);
    decide('withdraw', { sessionId: 'import' });
    expect(whats(document)).toEqual(['start of the session', 'reading']);
    expect(items).toHaveLength(2);
  });
  it('of anything in any order leads back to nothing, and says each step in the log', () => {
    const names = ['start', 'read', 'pause', 'goOn', 'conditions', 'end', 'split'] as const;
    fc.assert(
      fc.property(fc.array(fc.constantFrom(...names), { maxLength: 14 }), (done) => {
        const { document, steps, undo, open } = testBench();
        for (const name of done) steps[name]();
        const count = undoSteps(document).length;
        for (let i = count; i > 0; i -= 1) {
          expect(undoSteps(document)).toHaveLength(i);
          expect(canUndo(document)).toBe(true);
          undo();
        }
        expect([undoSteps(document), open(), canUndo(document)]).toEqual([[], undefined, false]);
        const told = benchLog(document);
        expect(told.filter(({ text }) => text.startsWith('Undone: '))).toHaveLength(count);
      }),
      { numRuns: 200, seed: 4 },
    );
  });
});
