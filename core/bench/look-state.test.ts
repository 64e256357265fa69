import { describe, expect, it } from 'vitest';
import { idAt } from '../model/id-time.ts';
import { testStudy } from '../testing-study.ts';
import { lookState } from './look-state.ts';
import { runQueue } from './queue.ts';

const minutes = (after: number) => new Date(Date.parse('2026-05-04T10:00:00Z') + 60000 * after).toISOString();

/** A study of two items in eight rounds, of which some are read; each reading takes a minute. */
function read(rounds: number, after: number[] = []) {
  const planned = testStudy(['Ama', 'Bel'], { rounds: 8, looks: { after, spending: 'late' } });
  for (let i = 0; i < 2 * rounds; i += 1) {
    const reading = planned.read(i % 2, 1 + Math.floor(i / 2), String(10 + (i % 3)));
    reading.id = `${idAt(minutes(i))}-7000-8000-0000000000aa`;
  }
  const look = (minute: number) => {
    const decision = planned.decide('look', {});
    decision.id = `${idAt(minutes(minute))}-7000-8000-0000000000bb`;
  };
  return { ...planned, look, state: () => lookState(planned.document, runQueue(planned.document), 0.05) };
}

describe('a study on its way', () => {
  it('counts the rounds in which nothing is to come', () => {
    expect(read(0).state()).toMatchObject({ complete: 0, of: 8, final: false, looked: 0 });
    expect(read(3).state()).toMatchObject({ complete: 3, final: false });
    expect(read(8).state()).toMatchObject({ complete: 8, final: true, due: false, next: undefined });
  });
  it('is read at 5 % all the way where no look is planned, and says what looking costs', () => {
    const { look, state } = read(6);
    expect(state().level).toBeCloseTo(0.05, 6);
    expect(state().chance).toBeCloseTo(0.05, 6);
    look(7.5); // after 8 of 16 readings
    look(7.6); // the same readings again
    expect(state().looked).toBe(1);
    // Armitage, McPherson and Rowe (1969): two equally spaced looks cost 8.3 %.
    expect(state().chance).toBeCloseTo(0.083, 3);
  });
  it('is read at the level of a planned look when it is due', () => {
    const { state, look } = read(4, [4, 6]);
    expect(state()).toMatchObject({ due: true, next: 6, planned: [4, 6, 8] });
    // O'Brien–Fleming-like, half of the readings in.
    expect(state().level).toBeCloseTo(0.00305, 4);
    look(7.5);
    // The look after round 6 was not taken, so a little less than 5 % is spent.
    expect(state().chance).toBeLessThan(0.05);
    expect(state().chance).toBeGreaterThan(0.04);
  });
  it('keeps to the strictest level before the first look and to the last one between two', () => {
    expect(read(2, [4, 6]).state()).toMatchObject({ due: false, next: 4 });
    expect(read(2, [4, 6]).state().level).toBeCloseTo(0.00305, 4);
    expect(read(5, [4, 6]).state().level).toBeCloseTo(0.00305, 4);
    expect(read(8, [4, 6]).state().level).toBeCloseTo(0.044, 3);
  });
  it('is complete where it was made of a table: what is not in it will not come', () => {
    const { document, state } = read(3);
    for (const reading of document.readings) reading.source = 'import';
    expect(state().final).toBe(true);
    expect(state().level).toBeCloseTo(0.05, 6);
  });
});
