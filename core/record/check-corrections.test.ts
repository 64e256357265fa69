import { describe, expect, it } from 'vitest';
import { EMPTY, NO_CORRECTIONS } from '../model/new-study.ts';
import type { Corrections } from '../model/parts.ts';
import { testId, testStudy } from '../testing-study.ts';
import { checkCorrections } from './check-corrections.ts';

const { measurand } = testStudy(['Ama']);
const [conditionId, sessionId] = [testId(), testId()];
const CONTEXT = { ...EMPTY, conditions: [{ id: conditionId }] } as unknown as typeof EMPTY;

/** What is wrong with corrections: where, and the sentence. */
const problems = (corrections: Partial<Corrections>, change: Partial<typeof measurand> = {}) =>
  checkCorrections(
    { ...measurand, ...change, corrections: { ...NO_CORRECTIONS, ...corrections } },
    CONTEXT,
  ).map(({ path, message }) => [path.replace('/corrections/', ''), message]);

const line = (...points: [number, number][]) => points.map(([indicated, is]) => ({ indicated, is }));
const calibration = (instrument: string, ...points: [number, number][]) => ({
  ...{ on: true, instrument, points: line(...points), mayBeOff: null },
});
const ambient = (about: Partial<NonNullable<Corrections['ambient']>> = {}) => ({
  ...{ on: true, conditionId, reference: 20, perUnit: 1, estimates: [], ...about },
});

describe('what is wrong with corrections', () => {
  it('is nothing where there are none, and where they are sound', () => {
    expect(problems({})).toEqual([]);
    expect(
      problems({
        unit: { on: true, from: 'kg' },
        calibrations: [calibration('', [1, 1.1]), calibration('Balance', [0, 0.1], [10, 10.2])],
        ambient: ambient({ estimates: [{ sessionId, value: 21, mayBeOff: 1 }] }),
      }),
    ).toEqual([]);
  });
  it.each([
    ['s', '“s” cannot be turned into g.'],
    ['  ', '“  ” cannot be turned into g.'],
  ])('is a unit %j that has nothing to do with that of the measurand', (from, message) => {
    expect(problems({ unit: { on: true, from } })).toEqual([['unit/from', message]]);
  });
  it('is that an instrument is calibrated twice, whatever the case of its name', () => {
    const twice = (first: string, second: string) =>
      problems({ calibrations: [calibration(first, [1, 1.1]), calibration(second, [1, 1.2])] });
    expect(twice('Balance', 'balance ')).toEqual([
      ['calibrations/1/instrument', 'There are two calibrations of “balance ”.'],
    ]);
    expect(twice('', '')).toEqual([
      ['calibrations/1/instrument', 'There are two calibrations of all readings.'],
    ]);
    expect(twice('Balance', 'Scale')).toEqual([]);
  });
  it.each([
    [
      [1, 1],
      [1, 2],
    ],
    [
      [1, 2],
      [3, 2],
    ],
  ] as [number, number][][])('is two points, %j and %j, that give no line', (first, second) => {
    expect(problems({ calibrations: [calibration('', first, second)] })).toEqual([
      [
        'calibrations/0/points/1',
        'Two points that give a line differ in what is indicated, and in what is true.',
      ],
    ]);
  });
  it('is a condition that the study does not have, and a session that is estimated twice', () => {
    const estimate = (id: string) => ({ sessionId: id, value: 21, mayBeOff: 1 });
    expect(problems({ ambient: ambient({ conditionId: testId() }) })).toEqual([
      ['ambient/conditionId', 'The corrections refer readings to a condition that the study does not have.'],
    ]);
    expect(
      problems({
        ambient: ambient({ estimates: [estimate(sessionId), estimate(testId()), estimate(sessionId)] }),
      }),
    ).toEqual([['ambient/estimates/2/sessionId', 'This session is estimated twice.']]);
  });
  it('is one that the form of the readings has no place for, or a measurand that is worked out', () => {
    expect(problems({ tare: { on: true, value: 1 } }, { form: 'count' })).toEqual([
      ['tare', 'A tare cannot be applied to readings of the form “Count”.'],
    ]);
    expect(problems({ unit: { on: true, from: 'kg' } }, { expression: '2 * [Pull]' })).toEqual([
      [
        'unit',
        'Another unit cannot be applied to a measurand that is worked out; set right what it comes from.',
      ],
    ]);
  });
});
