import { describe, expect, it } from 'vitest';
import type { Observation } from '../../../core/observations/observation.ts';
import { newSession } from '../../../core/plan/new-parts.ts';
import type { Session } from '../../../core/model/parts.ts';
import type { StripLane } from '../../strip/layout.ts';
import { lanesOfSome, someReadings } from './some-readings.ts';

const reading = (id: string, round: number, sessionId: string | null) =>
  ({ id, round, sessionId }) as Observation;
const session = (id: string, startedAt: string): Session =>
  ({ ...newSession('x'), id, startedAt }) as unknown as Session;
const SESSIONS = [session('a', '2026-05-04T10:00:00Z'), session('b', '2026-05-05T10:00:00Z')];

describe('readings that are looked at by themselves', () => {
  const readings = [reading('1', 1, 'a'), reading('2', 2, 'a'), reading('3', 1, 'b'), reading('4', 2, null)];
  it('are those of a session or of a round, where there are several', () => {
    const values = (some: readonly Observation[]) => someReadings(some, SESSIONS).map(({ value }) => value);
    expect(values(readings)).toEqual(['session a', 'session b', 'round 1', 'round 2']);
    expect(values(readings.slice(0, 2))).toEqual(['round 1', 'round 2']);
    expect(values(readings.slice(0, 1))).toEqual([]);
    expect(values(Array.from({ length: 100 }, (_, i) => reading(String(i), i, 'a')))).toEqual([]);
  });
  it('leave the lane and its mean as they are', () => {
    const marks = readings.map(({ id }) => ({ id, value: Number(id), out: false, title: '' }));
    const lane: StripLane = { id: 'x', name: 'X', code: 'X', mark: 0, marks, mean: 2.5, interval: null };
    const [first] = someReadings(readings, SESSIONS);
    if (!first) throw new Error('none');
    const [shown] = lanesOfSome([lane], first);
    expect(shown).toEqual({ ...lane, marks: marks.slice(0, 2) });
  });
});
