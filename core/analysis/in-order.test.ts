import { describe, expect, it } from 'vitest';
import deskFans from '../../demo/desk-fans.json' with { type: 'json' };
import lawnSprinklers from '../../demo/lawn-sprinklers.json' with { type: 'json' };
import type { StudyDocument } from '../model/study-document.ts';
import { newCondition, newSession } from '../plan/new-parts.ts';
import { testId, testStudy } from '../testing-study.ts';
import { readingsInOrder } from './in-order.ts';

describe('readings in the order in which they were taken', () => {
  it('show the day that was seven degrees warmer under the fan that was left for it', () => {
    const fans = deskFans as unknown as StudyDocument;
    const [speed] = fans.measurands;
    const { readings, sessions, conditions } = readingsInOrder(fans, speed?.id ?? '');
    // 48 readings and a misfire; the last two were taken the next day.
    expect(readings).toHaveLength(49);
    expect(sessions).toEqual([47]);
    const quillop = fans.items.find(({ name }) => name === 'Quillop S');
    expect(readings.slice(47).map(({ itemId }) => itemId)).toEqual([quillop?.id, quillop?.id]);
    expect(readings.filter(({ out }) => out)).toHaveLength(1);
    expect(conditions[0]).toEqual({
      name: 'Air temperature',
      unit: '°C',
      isQuantity: true,
      steps: [
        { place: 0, value: 21.2, text: '21.2' },
        { place: 46, value: 22, text: '22.0' },
        { place: 47, value: 28.4, text: '28.4' },
        { place: 48, value: 28.9, text: '28.9' },
      ],
    });
  });
  it('show the wind that rose in the middle of a session', () => {
    const sprinklers = lawnSprinklers as unknown as StudyDocument;
    const [evenness] = sprinklers.measurands;
    const [wind, , lawn] = readingsInOrder(sprinklers, evenness?.id ?? '').conditions;
    expect(wind?.name).toBe('Wind');
    expect(wind?.steps[0]).toMatchObject({ place: 0, value: 1.8 });
    expect(wind?.steps.at(-1)).toMatchObject({ place: 15, value: 4.6 });
    expect(wind?.steps.length).toBeGreaterThan(2);
    expect(lawn).toMatchObject({
      ...{ name: 'Lawn', isQuantity: false },
      steps: [
        { place: 0, value: null, text: 'dry' },
        { place: 15, value: null, text: 'damp' },
      ],
    });
  });
  it('show where sessions change, and no condition that nobody noted', () => {
    const { document, measurand, read } = testStudy(['Ama']);
    const stamp = { studyId: document.study.id, version: 1, createdAt: '', updatedAt: '' };
    const sessions = [1, 2].map(() => ({
      ...{ id: testId(), ...stamp },
      ...newSession('2026-05-04T10:00:00.000Z'),
    }));
    document.sessions.push(...sessions);
    document.conditions.push({ id: testId(), ...stamp, ...newCondition('Air', '°C', 1) });
    [0, 1, 1, 0].forEach((session, round) => {
      read(0, round + 1, '1').sessionId = sessions[session]?.id ?? null;
    });
    expect(readingsInOrder(document, measurand.id)).toMatchObject({ sessions: [1, 3], conditions: [] });
  });
  it('show conditions in the order of the readings, in whatever order they were noted', () => {
    const { document, measurand, read } = testStudy(['Ama']);
    const stamp = { studyId: document.study.id, version: 1, createdAt: '', updatedAt: '' };
    const air = { id: testId(), ...stamp, ...newCondition('Air', '°C', 1) };
    const note = (when: 'start' | 'during' | 'end', takenAt: string, number: number) => ({
      ...{ conditionId: air.id, at: when, takenAt, text: String(number), number },
    });
    const clock = (minute: number) => `2026-05-04T10:0${String(minute)}:00.000Z`;
    const session = {
      ...{ id: testId(), ...stamp, ...newSession(clock(0)) },
      conditions: [note('end', clock(5), 23), note('during', clock(2), 22), note('start', clock(0), 21)],
    };
    document.conditions.push(air);
    document.sessions.push(session);
    for (const minute of [1, 2, 3])
      Object.assign(read(0, minute, '3'), { sessionId: session.id, takenAt: clock(minute) });
    const { conditions, sessions } = readingsInOrder(document, measurand.id);
    expect(conditions[0]?.steps.map(({ place, value }) => [place, value])).toEqual([
      [0, 21],
      [1, 22],
      [2, 23],
    ]);
    expect(sessions).toEqual([]);
  });
  it('begin another session at the second reading where the first had one of its own', () => {
    const { document, measurand, read } = testStudy(['Ama']);
    read(0, 1, '3').sessionId = testId();
    read(0, 2, '3').sessionId = testId();
    expect(readingsInOrder(document, measurand.id).sessions).toEqual([1]);
  });
  it('leave out what was withdrawn, and are nothing where there are none', () => {
    const { document, measurand, read, decide } = testStudy(['Ama']);
    expect(readingsInOrder(document, measurand.id)).toEqual({ readings: [], sessions: [], conditions: [] });
    decide('withdraw', { readingId: read(0, 1, '3').id });
    read(0, 1, '4');
    expect(readingsInOrder(document, measurand.id).readings).toMatchObject([{ place: 0, value: 4 }]);
  });
});
