import { describe, expect, it } from 'vitest';
import { analyseStudy } from '../analysis/analyse-study.ts';
import { readingsInOrder } from '../analysis/in-order.ts';
import { screenedOf } from '../analysis/observed.ts';
import { doubtOfEach } from '../analysis/doubt.ts';
import { copyStudy } from '../formats/study-json.ts';
import { NO_CORRECTIONS } from '../model/new-study.ts';
import type { Corrections, Measurand } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { checkPart } from '../record/checks.ts';
import { correctionLayers, correctionsInForce } from '../record/correction-words.ts';
import { testId } from '../testing-study.ts';
import { calibrated, sessionsWithout } from './correct.ts';
import vacuumFlasks from '../../demo/vacuum-flasks.json' with { type: 'json' };

// Four nights: the third session noted no air temperature.
const flasks = vacuumFlasks as unknown as StudyDocument;
const water = flasks.measurands.find(({ name }) => name === 'Water after 8 h') as Measurand;
const [air] = flasks.conditions;
const airId = air?.id ?? '';
const silent = sessionsWithout(flasks, water.id, airId);

const withCorrections = (changes: Partial<Corrections>): StudyDocument => ({
  ...flasks,
  measurands: flasks.measurands.map((measurand) =>
    measurand === water ? { ...water, corrections: { ...NO_CORRECTIONS, ...changes } } : measurand,
  ),
});
const ambient = (estimates: NonNullable<Corrections['ambient']>['estimates'] = [], perUnit = 1) =>
  withCorrections({ ambient: { on: true, conditionId: airId, reference: 20, perUnit, estimates } });
const screened = (document: StudyDocument) =>
  screenedOf(document, document.measurands.find(({ id }) => id === water.id) as Measurand);
const analysed = (document: StudyDocument) => {
  const group = analyseStudy(document, water.id, { resamples: 0 }).settings[0]?.classes[0];
  if (!group) throw new Error('nothing was analysed');
  return group.analysis;
};
const noted = (document: StudyDocument, sessionId: string | null): number => {
  const { conditions } = document.sessions.find(({ id }) => id === sessionId) ?? { conditions: [] };
  return conditions.reduce((sum, { number }) => sum + (number ?? 0), 0) / conditions.length;
};

describe('a calibration', () => {
  it('of one point shifts, of two gives the line through both', () => {
    expect(calibrated(10, [{ indicated: 94.3, is: 94 }])).toBeCloseTo(9.7, 12);
    // Ice and boiling water: 0.3 and 99.6 indicated, so halfway 49.95 is 50.
    const line = [
      { indicated: 0.3, is: 0 },
      { indicated: 99.6, is: 100 },
    ];
    expect(calibrated(0.3, line)).toBeCloseTo(0, 12);
    expect(calibrated(99.6, line)).toBeCloseTo(100, 12);
    expect(calibrated(49.95, line)).toBeCloseTo(50, 12);
  });
  it('holds in the sessions of its instrument, and one for all elsewhere', () => {
    const shifted = (instrument: string, by: number) => ({
      ...{ on: true, instrument, mayBeOff: null },
      points: [{ indicated: 0, is: by }],
    });
    const document = withCorrections({ calibrations: [shifted('', 1), shifted('Bath thermometer', 2)] });
    const [first, ...rest] = document.sessions;
    if (!first) throw new Error('no session');
    const mixed = { ...document, sessions: [{ ...first, instrument: 'Another' }, ...rest] };
    for (const { sessionId, value, read } of screened(mixed).observations) {
      expect((value as number) - (read as number)).toBeCloseTo(sessionId === first.id ? 1 : 2, 9);
    }
  });
});

describe('a correction', () => {
  it('that is switched off leaves every reading as it was read', () => {
    const off = withCorrections({ tare: { on: false, value: 3 } });
    expect(screened(off).observations).toEqual(screened(flasks).observations);
  });
  it('comes in the order unit, calibration, tare', () => {
    const document = withCorrections({
      unit: { on: true, from: '°F' },
      calibrations: [{ on: true, instrument: '', points: [{ indicated: 0, is: 1 }], mayBeOff: null }],
      tare: { on: true, value: 0.5 },
    });
    for (const { value, read } of screened(document).observations)
      expect(value).toBeCloseTo(((read as number) - 32) / 1.8 + 1 - 0.5, 9);
  });
  it('turns the step with the values', () => {
    const before = screened(flasks).step;
    expect(screened(withCorrections({ unit: { on: true, from: '°F' } })).step).toBeCloseTo(before / 1.8, 9);
  });
  it('that shifts all readings alike changes means and no verdict', () => {
    const plain = analysed(flasks);
    const shifted = analysed(withCorrections({ tare: { on: true, value: 5 } }));
    expect(shifted.pairs.map(({ verdict, low }) => [verdict, low?.toFixed(9)])).toEqual(
      plain.pairs.map(({ verdict, low }) => [verdict, low?.toFixed(9)]),
    );
    shifted.items.forEach(({ summary }, i) => {
      expect(summary.mean).toBeCloseTo((plain.items[i]?.summary.mean as number) - 5, 9);
    });
  });
});

describe('what pages show before anything is analysed', () => {
  it('is set right by the same corrections', () => {
    const document = ambient([], 0.35);
    const values = new Map(screened(document).observations.map(({ id, value }) => [id, value]));
    const { readings } = readingsInOrder(document, water.id);
    expect(readings.length).toBe(values.size);
    for (const { id, value } of readings) expect(value).toBe(values.get(id));
  });
});

describe('a common ambient', () => {
  it('takes off what the condition was above it, by the mean of what was noted', () => {
    const document = ambient([], 0.35);
    for (const { value, read, sessionId, use } of screened(document).observations) {
      if (silent.includes(sessionId)) {
        expect(use).toMatchObject({ is: 'left out', by: 'correction' });
        expect(use.is === 'left out' && use.reason).toContain('Air temperature was not noted');
      } else {
        expect(value).toBeCloseTo((read as number) - 0.35 * (noted(document, sessionId) - 20), 9);
      }
    }
  });
  it('takes an estimate where nothing was noted, which widens the mean, and says so', () => {
    const sessionId = silent[0] ?? null;
    const document = ambient([{ sessionId, value: 22, mayBeOff: 3 }]);
    const guessed = screened(document).observations.filter(
      (observation) => observation.sessionId === sessionId,
    );
    expect(guessed.length).toBeGreaterThan(0);
    for (const { value, read, estimated, doubts } of guessed) {
      expect(value).toBeCloseTo((read as number) - 2, 9);
      expect([estimated, doubts?.[0]?.u]).toEqual([true, 3 / Math.sqrt(3)]);
    }
    const analysis = analysed(document);
    // One reading in four of each item is from that session: a quarter of 3/√3 stays in each mean.
    for (const { doubt, summary } of analysis.items) {
      expect(summary.n).toBe(4);
      expect(doubt.ofMean).toBeCloseTo(3 / Math.sqrt(3) / 4, 9);
      // All share it alike, so that it cancels between them.
      expect(doubt.ofDifferences).toBeCloseTo(0, 9);
    }
    expect(analysis.remarks.map(({ text }) => text).join(' ')).toContain('estimated, not noted');
  });
  it('of which only some items rest on an estimate widens their differences', () => {
    const sessionId = silent[0] ?? null;
    const document = ambient([{ sessionId, value: 22, mayBeOff: 30 }]);
    const [kept] = document.items;
    const uneven = {
      ...document,
      readings: document.readings.filter(
        (reading) => reading.sessionId !== sessionId || reading.itemId === kept?.id,
      ),
    };
    const exact = { ...uneven, measurands: ambient([{ sessionId, value: 22, mayBeOff: 0 }]).measurands };
    const [open, sure] = [analysed(uneven), analysed(exact)];
    const index = open.items.findIndex(({ item }) => item === kept?.name);
    open.pairs.forEach((pair, i) => {
      const without = sure.pairs[i];
      if (pair.a === index || pair.b === index) {
        expect(pair.se as number).toBeGreaterThan(2 * (without?.se as number));
        expect(pair.verdict).toBe('not settled');
      }
      // A step that is the same, and a difference too.
      expect(pair.difference).toBeCloseTo(without?.difference as number, 9);
    });
  });
});

describe('what corrections leave open', () => {
  it('never makes a difference surer than sources that are shared in part', () => {
    // Of two sources a has (1, 0), b (0, 1), c (½, ½): the variance of a − b is 1² + 1².
    const shares = [
      new Map([['s', 1]]),
      new Map([['t', 1]]),
      new Map([
        ['s', 0.5],
        ['t', 0.5],
      ]),
    ];
    const each = doubtOfEach(shares, true);
    const variance = (i: number, j: number) =>
      (each[i]?.ofDifferences ?? 0) ** 2 + (each[j]?.ofDifferences ?? 0) ** 2;
    const exact = [
      [0, 1, 2],
      [0, 2, 0.5],
      [1, 2, 0.5],
    ] as const;
    for (const [i, j, least] of exact) expect(variance(i, j)).toBeGreaterThanOrEqual(least - 1e-12);
    expect(each.map(({ ofMean }) => ofMean)).toEqual([1, 1, Math.SQRT1_2]);
  });
  it('does not cancel where sums are compared', () => {
    const same = new Map([['s', 1]]);
    expect(doubtOfEach([same, same], false).map(({ ofDifferences }) => ofDifferences)).toEqual([
      Math.SQRT2,
      Math.SQRT2,
    ]);
  });
});

describe('corrections that do not hold together', () => {
  const problems = (changes: Partial<Corrections>, of: Partial<Measurand> = {}) =>
    checkPart('measurands', { ...water, ...of, corrections: { ...NO_CORRECTIONS, ...changes } }, flasks).map(
      ({ path, message }) => `${path}: ${message}`,
    );
  it('are refused with where and why', () => {
    const points = [{ indicated: 1, is: 2 }];
    const calibration = { on: true, instrument: '', points, mayBeOff: null };
    expect(problems({ unit: { on: true, from: 'kg' } })).toEqual([
      '/corrections/unit/from: “kg” cannot be turned into °C.',
    ]);
    expect(problems({ calibrations: [calibration, calibration] })[0]).toContain(
      'two calibrations of all readings',
    );
    expect(
      problems({ calibrations: [{ ...calibration, points: [...points, { indicated: 1, is: 3 }] }] })[0],
    ).toContain('/corrections/calibrations/0/points/1');
    const gone = { on: true, conditionId: water.id, reference: 0, perUnit: 1, estimates: [] };
    expect(problems({ ambient: gone })[0]).toContain('a condition that the study does not have');
    const twice = { sessionId: null, value: 1, mayBeOff: 1 };
    expect(problems({ ambient: { ...gone, conditionId: airId, estimates: [twice, twice] } })[0]).toContain(
      'estimated twice',
    );
    expect(problems({ tare: { on: true, value: 1 } }, { form: 'count' })[0]).toBe(
      '/corrections/tare: A tare cannot be applied to readings of the form “Count”.',
    );
  });
});

describe('corrections in words', () => {
  it('say what is done in the order it is done, and what is in force', () => {
    const document = withCorrections({
      tare: { on: false, value: 12 },
      calibrations: [{ on: true, instrument: 'Probe', points: [{ indicated: 94.3, is: 94 }], mayBeOff: 0.2 }],
      ambient: { on: true, conditionId: airId, reference: 20, perUnit: 1, estimates: [] },
    });
    const measurand = document.measurands.find(({ id }) => id === water.id) as Measurand;
    expect(
      correctionLayers(measurand, document).map(({ words, on }) => [words.replaceAll('\u202f', ' '), on]),
    ).toEqual([
      ['calibration of Probe: 94.3 indicated is 94 °C (−0.3 °C), give or take 0.2 °C', true],
      ['tare of 12 °C taken off', false],
      ['referred to Air temperature of 20 °C', true],
    ]);
    expect(correctionsInForce(measurand, document)).not.toContain('tare');
    expect(correctionsInForce(water, document)).toBe('none');
    const [, tare] = correctionLayers(measurand, document);
    expect(tare?.switched(measurand.corrections, true).tare).toEqual({ on: true, value: 12 });
  });
});

describe('a study that starts from the plan of another', () => {
  it('takes its corrections along, and no estimate of sessions that it does not have', () => {
    const document = ambient([{ sessionId: silent[0] ?? null, value: 22, mayBeOff: 3 }]);
    const copy = copyStudy(document, 'plan', testId(), testId, 'Again', '2026-06-01T08:00:00.000Z');
    const { corrections } = copy.measurands.find(({ name }) => name === water.name) as Measurand;
    expect(corrections.ambient).toMatchObject({ on: true, reference: 20, estimates: [] });
    expect(copy.conditions.map(({ id }) => id)).toContain(corrections.ambient?.conditionId);
    expect(corrections.ambient?.conditionId).not.toBe(airId);
  });
});
