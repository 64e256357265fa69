import { describe, expect, it } from 'vitest';
import type { Session } from '../model/parts.ts';
import { newSession } from '../plan/new-parts.ts';
import { testStudy } from '../testing-study.ts';
import { benchLog } from './log.ts';

/** What the log says, the earliest first. */
const said = (document: Parameters<typeof benchLog>[0]) =>
  benchLog(document)
    .map(({ text, undone }) => `${undone ? '~' : ''}${text.replaceAll('\u202f', ' ')}`)
    .reverse();
const instant = (minute: number) => `2026-05-04T10:${String(minute).padStart(2, '0')}:00.000Z`;

function bench() {
  const made = testStudy(['Ama', 'Bel']);
  const { document } = made;
  const { id: studyId, version, createdAt, updatedAt } = document.study;
  const begin = (about: Partial<Session>): Session => {
    const id = `s${String(document.sessions.length)}`;
    const session = { id, studyId, version, createdAt, updatedAt, ...newSession(instant(0)), ...about };
    document.sessions.push(session);
    return session;
  };
  return { ...made, begin };
}

describe('the log of the bench', () => {
  it('says of each decision what it was about, and why', () => {
    const { document, items, measurand, read, decide } = bench();
    const { id: readingId } = Object.assign(read(0, 1, '3'), { takenAt: instant(1) });
    const run = { round: 2, itemId: items[1]?.id as string, measurandId: measurand.id, levelIds: [] };
    const decisions: Parameters<typeof decide>[] = [
      ['misfire', { readingId, reason: 'a bump' }],
      ['misfire', { readingId }],
      ['take-again', { readingId }],
      ['leave-out', { readingId, reason: 'too high' }],
      ['take-back', { readingId }],
      ['keep', { readingId, reason: 'looked at' }],
      ['withdraw', { readingId }],
      ['restore', { readingId }],
      ['skip', { run }],
      ['unskip', { run }],
      ['add-run', { run: { ...run, itemId: 'gone' } }],
      ['remove-run', { run }],
      ['amend-session', { sessionId: 's', reason: 'pause' }],
      ['withdraw', { sessionId: 's' }],
      ['look', { reason: 'after round 3' }],
      ['leave-out', { readingId: 'gone' }],
    ];
    decisions.forEach(([action, about], i) => decide(action, { ...about, decidedAt: instant(2 + i) }));
    expect(said(document)).toEqual([
      'Ama, round 1: 3 g',
      'Misfire of Ama, round 1: 3 g (a bump)',
      'Misfire of Ama, round 1: 3 g',
      'Taken again: Ama, round 1: 3 g',
      'Left out Ama, round 1: 3 g (too high)',
      'Took back Ama, round 1: 3 g',
      'Kept Ama, round 1: 3 g (looked at)',
      'Undone: Ama, round 1: 3 g',
      'Restored Ama, round 1: 3 g',
      'Skipped Bel, round 2',
      'Back in the queue: Bel, round 2',
      'Added a run: an item, round 2',
      'Removed the added run: Bel, round 2',
      'Undone: pause',
      'Undone: the start of a session',
      'Looked at the ranking (after round 3)',
      'Left out a reading',
    ]);
  });
  it('names the measurand where there are several, and what was withdrawn as undone', () => {
    const { document, measurand, read, decide } = bench();
    const reading = read(1, 1, '3');
    document.measurands.push({ ...measurand, id: 'other', name: 'Push' });
    expect(said(document)).toEqual(['Bel, Pull, round 1: 3 g']);
    decide('withdraw', { readingId: reading.id, decidedAt: instant(9) });
    expect(said(document)[0]).toBe('~Bel, Pull, round 1: 3 g');
  });
  it('says an import once, from where it came, and that it was taken back', () => {
    const { document, begin, read, decide } = bench();
    begin({ kind: 'import', note: 'table.csv' });
    begin({ kind: 'import', note: '', startedAt: instant(1) });
    read(0, 1, '3').sessionId = 's0';
    read(1, 1, '4').sessionId = 's0';
    read(1, 2, '4').sessionId = 's1';
    expect(said(document)).toEqual(['Imported 2 readings from table.csv', 'Imported 1 reading']);
    decide('withdraw', { sessionId: 's0', decidedAt: instant(2) });
    expect(said(document)).toEqual([
      '~Imported 2 readings from table.csv',
      'Imported 1 reading',
      'Took an import back',
    ]);
  });
  it('follows a session from its start over its pauses and conditions to its end', () => {
    const { document, begin } = bench();
    document.conditions.push({ id: 'air', quantity: 'Air', kind: 'number', unit: '°C' } as never);
    const condition = { conditionId: 'air', at: 'during', text: '21', number: 21 } as const;
    begin({
      operator: 'Ola',
      pauses: [
        { from: instant(2), to: instant(3) },
        { from: instant(6), to: instant(7) },
      ],
      conditions: [
        { ...condition, takenAt: instant(4) },
        { ...condition, conditionId: 'gone', takenAt: instant(4) },
        { ...condition, takenAt: '2026-05-04T09:00:00.000Z' },
        { ...condition, at: 'start', takenAt: instant(1) },
      ],
      endedAt: instant(7),
    });
    begin({
      startedAt: instant(8),
      continuesId: 's0',
      instrument: 'Meter 2',
      pauses: [{ from: instant(9), to: null }],
    });
    const lines = said(document);
    expect(lines.map((line) => line.replace(/^Conditions: .*21.*, a condition: 21$/, 'Conditions'))).toEqual([
      ...['Session started by Ola', 'Paused', 'Went on', 'Conditions', 'Paused', 'Session ended'],
      ...['Session went on, Meter 2', 'Paused'],
    ]);
  });
  it('says notes and photos, with their words and without', () => {
    const { document } = bench();
    const note = (id: string, text: string, photo: string | null, removed = false) =>
      ({ id, text, photo, removed, notedAt: instant(1) }) as never;
    document.notes.push(note('a', 'Loud', null), note('b', 'The rig', 'x.png'), note('c', '', 'y.png', true));
    expect(said(document)).toEqual(['Note: Loud', 'Photo: The rig', '~Photo']);
  });
});
