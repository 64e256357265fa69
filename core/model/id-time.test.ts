import { v7 } from 'uuid';
import { describe, expect, it } from 'vitest';
import { idAt, idTime } from './id-time.ts';

const START = Date.parse('2026-05-04T10:00:00.000Z');

describe('the place of an instant among ids', () => {
  it('is behind what was made before and ahead of what was made later', () => {
    const place = idAt('2026-05-04T10:00:00.000Z');
    expect(v7({ msecs: START - 1 }) < place).toBe(true);
    expect(place < v7({ msecs: START })).toBe(true);
  });
  it('has the same time in it as an id that was made then', () => {
    expect(idTime(idAt('2026-05-04T10:00:00.000Z'))).toBe(START);
    expect(idTime(v7({ msecs: START }))).toBe(START);
  });
});
