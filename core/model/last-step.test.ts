import { describe, expect, it } from 'vitest';
import { newSession } from '../plan/new-parts.ts';
import { lastStep } from './last-step.ts';

const session = newSession('2026-05-04T10:00:00Z');
const timeAt = (minute: number) => `2026-05-04T10:${String(minute).padStart(2, '0')}:00Z`;
const condition = (minute: number) => ({
  ...{ conditionId: 'air', at: 'during', text: '21', number: 21, takenAt: timeAt(minute) },
});

describe('the last step of a session', () => {
  it.each([
    ['its start', {}, 0],
    ['its end', { endedAt: timeAt(9) }, 9],
    ['a pause that is on', { pauses: [{ from: timeAt(3), to: null }] }, 3],
    ['the end of a pause', { pauses: [{ from: timeAt(3), to: timeAt(5) }] }, 5],
    [
      'a condition',
      { pauses: [{ from: timeAt(3), to: timeAt(5) }], conditions: [condition(7), condition(6)] },
      7,
    ],
  ] as const)('may be %s', (_what, change, minute) => {
    expect(lastStep({ ...session, ...change } as typeof session)).toBe(Date.parse(timeAt(minute)));
  });
});
