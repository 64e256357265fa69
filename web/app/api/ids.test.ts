import { describe, expect, it } from 'vitest';
import { idTime } from '../../../core/model/id-time.ts';
import { idBehind } from './ids.ts';

describe('ids of what is recorded', () => {
  it('carry their time, and sort in the order in which they were made', () => {
    const now = Date.parse('2026-05-04T10:00:00Z');
    const first = idBehind([], now);
    expect(idTime(first)).toBe(now);
    // Within the same millisecond too.
    const second = idBehind([first], now);
    const third = idBehind([second, first], now);
    expect([third, first, second].sort()).toEqual([first, second, third]);
  });
  it('still sort so after the clock was set back by an hour', () => {
    const now = Date.parse('2026-05-04T10:00:00Z');
    const before = idBehind([], now);
    const after = idBehind([before], now - 3600000);
    expect(after > before).toBe(true);
    expect(idTime(after)).toBe(now + 1);
  });
});
