import { describe, expect, it } from 'vitest';
import type { Session } from '../model/parts.ts';
import { newSession } from '../plan/new-parts.ts';
import { seededRandom } from '../random/seeded.ts';
import { precisionSentences } from '../report/precision.ts';
import { testId, testStudy } from '../testing-study.ts';
import { precisionOf } from './precision.ts';

interface Design {
  items?: number;
  rounds?: number;
  /** Who reads in each session. */
  operators: readonly string[];
  instruments?: readonly string[];
  /** By what each session, and each operator, is off, in SDs of a repeat. */
  bySession?: (session: number) => number;
  byOperator?: (name: string, item: number) => number;
  /** Which session a reading is of. */
  sessionOf?: (item: number, round: number) => number;
}

/** A study that several read in several sessions, with repeats of an SD of 1. */
function readBy({ items = 4, rounds = 8, operators, instruments = [], ...by }: Design) {
  const made = testStudy(
    Array.from({ length: items }, (_, i) => `Item ${String(i + 1)}`),
    { rounds },
  );
  const { id: studyId, createdAt } = made.document.study;
  const sessions = operators.map((operator, i): Session => ({
    ...{ id: testId(), studyId, version: 1, createdAt, updatedAt: createdAt },
    ...newSession(createdAt),
    ...{ operator, instrument: instruments[i] ?? 'Balance' },
  }));
  made.document.sessions = sessions;
  const random = seededRandom(11);
  for (let round = 1; round <= rounds; round += 1) {
    for (let item = 0; item < items; item += 1) {
      const session = by.sessionOf?.(item, round) ?? round % sessions.length;
      const value =
        100 +
        0.5 * item +
        (by.bySession?.(session) ?? 0) +
        (by.byOperator?.(operators[session] ?? '', item) ?? 0) +
        random.normal();
      made.read(item, round, value.toFixed(3)).sessionId = sessions[session]?.id ?? null;
    }
  }
  return { ...made, precision: precisionOf(made.document, made.measurand.id) };
}
const sourcesOf = ({ precision }: ReturnType<typeof readBy>) =>
  precision?.parts.map(({ sources }) => sources.join('+'));

describe('who and what read it', () => {
  it('is not asked where one hand read all in one session', () => {
    expect(readBy({ operators: ['Ina'] }).precision).toBeUndefined();
    const { document, measurand } = testStudy(['A']);
    expect(precisionOf(document, measurand.id)).toBeUndefined();
    expect(precisionOf(document, testId())).toBeUndefined();
  });
  it('finds what sessions differ by, and that it cancels where all items were in each', () => {
    const { precision, measurand } = readBy({
      operators: Array<string>(6).fill('Ina'),
      rounds: 12,
      bySession: (session) => [3, -3, 2, -2, 4, -4][session] ?? 0,
    });
    expect(precision?.parts.map(({ sources, groups }) => [sources, groups])).toEqual([[['session'], 6]]);
    expect(precision?.parts[0]?.sd).toBeGreaterThan(2.5);
    expect(precision?.repeat.sd).toBeCloseTo(1, 0);
    expect(precision?.shared).toBe(true);
    const { repeatability, reproducibility } = precision?.limits ?? { repeatability: 0, reproducibility: 0 };
    expect(repeatability / (precision?.repeat.sd ?? 1)).toBeCloseTo(2.8, 9);
    expect(reproducibility / (precision?.reproduced ?? 1)).toBeCloseTo(2.8, 9);
    const said = precisionSentences(precision as NonNullable<typeof precision>, measurand.unit).join(' ');
    expect(said).toContain('lies between sessions');
    expect(said).toContain('Sessions differ by more than the items do');
    expect(said).toContain('most of it cancels between items');
    expect(said).not.toContain('are few');
  });
  it('tells operators from sessions, and from how they suit the items', () => {
    const found = readBy({
      operators: ['Ina', 'Ole', 'Ina', 'Ole', 'Ina', 'Ole'],
      rounds: 24,
      byOperator: (name, item) => (name === 'Ina' ? 3 : -3) * (item % 2 === 0 ? 1 : -1),
    });
    expect(sourcesOf(found)).toEqual(['operator', 'session', 'item and operator']);
    const [operator, session, both] = found.precision?.parts ?? [];
    // What Ina reads high on every other item cancels for the operator as such.
    expect(both?.sd).toBeGreaterThan(2);
    expect(operator?.sd).toBeLessThan(1);
    expect(session?.sd).toBeLessThan(1);
    const said = precisionSentences(found.precision as NonNullable<typeof found.precision>, 'g').join(' ');
    expect(said).toContain('agree on how each item is handled');
  });
  it('names together what the readings do not tell apart', () => {
    const found = readBy({ operators: ['Ina', 'Ole'], instruments: ['Old', 'New'] });
    expect(sourcesOf(found)).toEqual(['operator+instrument+session', 'item and operator']);
    const said = precisionSentences(found.precision as NonNullable<typeof found.precision>, 'g').join(' ');
    expect(said).not.toMatch(/NaN|undefined/);
  });
  it('says nothing of sessions that had an item each, since nobody can', () => {
    expect(
      readBy({ operators: Array<string>(4).fill('Ina'), sessionOf: (item) => item }).precision,
    ).toBeUndefined();
  });
  it('says that uneven sessions fall on the items, and that few are few', () => {
    const { precision } = readBy({
      operators: ['Ina', 'Ina'],
      rounds: 10,
      bySession: (session) => 6 * session,
      sessionOf: (item, round) => (round > (item < 2 ? 8 : 2) ? 1 : 0),
    });
    const said = precisionSentences(precision as NonNullable<typeof precision>, 'g').join(' ');
    expect(precision?.shared).toBe(false);
    expect(said).toContain('falls on the items');
    expect(said).toContain('2 sessions are few');
  });
  it('leaves out who is not named everywhere', () => {
    expect(sourcesOf(readBy({ operators: ['Ina', ''] }))).toEqual(['session']);
  });
});
