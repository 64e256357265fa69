/** Inspections that hold readings against the plan, the sessions and what else is known, each by itself. */
import { describe, expect, it } from 'vitest';
import { inspectedStudy } from '../analysis/inspect-study.ts';
import { newCondition, newSession } from '../plan/new-parts.ts';
import { testId, testStudy, withLevels } from '../testing-study.ts';
import type { InspectedMeasurand, Inspection } from './inspection.ts';
import { noResponse } from './no-response.ts';
import { resolution, withinAccuracy } from './resolution.ts';
import { instrumentChanged, missingCondition, otherConditions } from './sessions.ts';
import { typedOutside } from './typed-outside.ts';
import { NOT_TESTED, messages, seenBy, studyOf } from '../testing-inspections.ts';

describe('a factor without an answer', () => {
  /** Readings of two levels, one list each. */
  function levelled(
    lists: readonly (readonly number[])[],
    change: { kind?: 'treatment'; step?: number } = {},
  ) {
    const study = testStudy(['Item 1']);
    const { factor, levels } = withLevels(study.document, lists.length);
    if (change.kind) factor.kind = change.kind;
    lists.forEach((list, level) => {
      list.forEach((value, round) => {
        study.read(0, round + 1, String(value)).levels = [
          { factorId: factor.id, levelId: levels[level]?.id ?? '' },
        ];
      });
    });
    return (flags: Partial<InspectedMeasurand> = {}) =>
      messages(noResponse, study.document, { step: change.step ?? 1, ...flags });
  }
  it('moves the readings by no more than one step', () => {
    const still = levelled([
      [5, 6],
      [6, 7],
    ]);
    expect(still()).toEqual([
      'Pull moves by 1 g over all levels of Pressure, no more than one step of the display.',
    ]);
    for (const change of NOT_TESTED) expect(still(change)).toEqual([]);
    expect(
      levelled([
        [5, 6],
        [6, 7.5],
      ])(),
    ).toEqual([]);
  });
  it('is not known where the step is not, a level was hardly read, or the factor is no number', () => {
    expect(
      levelled(
        [
          [5, 6],
          [5, 6],
        ],
        { step: 0 },
      )(),
    ).toEqual([]);
    expect(levelled([[5, 6], [5]])()).toEqual([]);
    expect(
      levelled(
        [
          [5, 6],
          [5, 6],
        ],
        { kind: 'treatment' },
      )(),
    ).toEqual([]);
  });
});

describe('a figure from elsewhere', () => {
  const { document, items, measurand } = studyOf([[1, 2]]);
  const found = (change: object) => {
    document.figures = [
      {
        ...{ id: testId(), studyId: document.study.id, version: 1, createdAt: '', updatedAt: '', levels: [] },
        ...{ itemId: items[0]?.id ?? '', measurandId: measurand.id, kind: 'summary', source: '' },
        ...{ n: 4, mean: 3, sd: 0.1, low: 2, high: 4, ...change },
      },
    ];
    return messages(typedOutside, document);
  };
  it('is said to lie outside its readings where it does', () => {
    expect(found({ mean: 4.5 })).toEqual([
      'Item 1: the mean that was typed in, 4.5 g, lies outside its own readings, which run from 2 g to 4 g.',
    ]);
    expect(found({ mean: 1.5, high: null })).toEqual([
      'Item 1: the mean that was typed in, 1.5 g, lies outside its own readings, which run from 2 g.',
    ]);
    expect(found({ mean: 4.5, low: null })[0]).toMatch(/which run to 4 g\.$/);
    for (const mean of [2, 4, null]) expect(found({ mean })).toEqual([]);
    expect(found({ mean: 4.5, kind: 'range' })).toEqual([]);
  });
  it('is said to have a spread that its readings cannot have', () => {
    expect(found({ sd: 1.2 })).toEqual([
      'Item 1: the SD that was typed in, 1.2 g, is more than readings from 2 g to 4 g can have.',
    ]);
    // Outside already: one thing is said.
    expect(found({ sd: 9, mean: 5 })).toHaveLength(1);
    // Nothing is known of the widest.
    for (const change of [{ low: null }, { high: null }, { n: null }, { n: 1 }, { sd: null }])
      expect(found({ sd: 9, ...change })).toEqual([]);
    // Of two, half of the range times the root of two.
    expect(found({ n: 2, sd: 1.4142 })).toEqual([]);
    expect(found({ n: 2, sd: 1.4143 })).toHaveLength(1);
  });
});

describe('a step and a margin', () => {
  it('are held against each other where both are absolute', () => {
    const { document, measurand } = studyOf([[1, 2]]);
    const found = (margin: typeof measurand.margin, change: Partial<InspectedMeasurand> = {}) => {
      measurand.margin = margin;
      return messages(resolution, document, { step: 0.5, ...change });
    };
    expect(found({ kind: 'absolute', value: 0.4 })).toEqual([
      'Pull was read in steps of 0.5 g, and the margin is 0.4 g.',
    ]);
    expect(found({ kind: 'absolute', value: 0.5 })).toEqual([]);
    expect(found({ kind: 'absolute', value: 0 })).toEqual([]);
    expect(found({ kind: 'percent', value: 0.4 })).toEqual([]);
    for (const change of NOT_TESTED) expect(found({ kind: 'absolute', value: 0.4 }, change)).toEqual([]);
  });
});

describe('differences within the accuracy of the instrument', () => {
  const { document, measurand, items } = studyOf([
    [10, 12],
    [14, 14],
    [99, 99],
  ]);
  measurand.direction = { kind: 'higher', target: null };
  measurand.instrument.accuracyConstant = 1.84;
  const [, , control] = items;
  if (control) control.role = 'control';
  it('are said, with the widest of all settings; a control is no item that is compared', () => {
    // 3 is less than 2 · 1.84 · √(2/3), 3.005.
    expect(messages(withinAccuracy, document)).toEqual([
      'The items differ by 3 g in Pull at the most; one reading of the instrument is good to ± 2.1 g.',
    ]);
    for (const change of NOT_TESTED) expect(seenBy(withinAccuracy, document, change)).toEqual([]);
    const { cells } = inspectedStudy(document).measurands[0] as InspectedMeasurand;
    const elsewhere = cells.map((cell, item) => ({
      ...cell,
      setting: 'other',
      kept: cell.kept.map((observation) => ({ ...observation, value: 20 + 0.5 * item })),
    }));
    for (const both of [
      [...cells, ...elsewhere],
      [...elsewhere, ...cells],
    ])
      expect(messages(withinAccuracy, document, { cells: both })[0]).toMatch(/differ by 3 g/);
    // One with nothing kept has no mean.
    expect(
      messages(withinAccuracy, document, { cells: [...cells, { itemId: '', setting: '', kept: [] }] })[0],
    ).toMatch(/differ by 3 g/);
  });
  it('are none where they are wider, only one item was read, no accuracy is known, or nothing is ranked', () => {
    const found = (accuracyConstant: number | null, change: Partial<InspectedMeasurand> = {}) =>
      seenBy(withinAccuracy, document, {
        measurand: { ...measurand, instrument: { ...measurand.instrument, accuracyConstant } },
        ...change,
      });
    expect(found(1.83)).toEqual([]);
    expect(found(null)).toEqual([]);
    const { cells } = inspectedStudy(document).measurands[0] as InspectedMeasurand;
    expect(found(1.84, { cells: cells.slice(0, 1) })).toEqual([]);
    const direction = { kind: 'unranked', target: null } as const;
    expect(seenBy(withinAccuracy, document, { measurand: { ...measurand, direction } })).toEqual([]);
  });
});

describe('sessions', () => {
  const { document, items } = studyOf([
    [1, 2],
    [1, 2],
    [1, 2],
  ]);
  const stamp = { studyId: document.study.id, version: 1, createdAt: '', updatedAt: '' };
  const warmth = { id: testId(), ...stamp, ...newCondition('Air temperature', '°C', 1), tolerableDrift: 1 };
  const START = '2026-05-04T09:00:00.000Z';
  /** Has each item read in a session of its own, at some warmth and with some instrument. */
  function found(
    inspection: Inspection,
    warmths: (number | null)[],
    instruments: string[] = [],
    drift: number | null = 1,
  ) {
    document.conditions = [{ ...warmth, tolerableDrift: drift }];
    document.sessions = items.map((_, i) => ({
      ...{ id: testId(), ...stamp, ...newSession(START), instrument: instruments[i] ?? '' },
      conditions:
        warmths[i] === undefined
          ? []
          : [
              {
                ...{ conditionId: warmth.id, at: 'start', takenAt: START, text: String(warmths[i]) },
                number: warmths[i] ?? null,
              },
            ],
    }));
    document.readings = document.readings.map((reading) => ({
      ...reading,
      sessionId: document.sessions[items.findIndex(({ id }) => id === reading.itemId)]?.id ?? null,
    }));
    return messages(inspection, structuredClone(document));
  }
  it('in which an item was warmer than all others by more than the plan tolerates are said', () => {
    expect(found(otherConditions, [20, 20.2, 22.346])).toEqual([
      'Item 3 was read at 22.3 °C of air temperature on average, the others at 20.1 °C.',
    ]);
    expect(found(otherConditions, [22.346, 20, 20.2])[0]).toMatch(/^Item 1 was read at 22\.3/);
    // Not by more than is tolerated from each of the others.
    expect(found(otherConditions, [20, 21, 22])).toEqual([]);
    expect(found(otherConditions, [20, 20, 21])).toEqual([]);
    expect(found(otherConditions, [20, 20, 25], [], null)).toEqual([]);
    // Of two, each is the other’s.
    expect(found(otherConditions, [20, 25])).toHaveLength(2);
    expect(found(otherConditions, [20])).toEqual([]);
    // Words where a number was to be are none.
    expect(found(otherConditions, [20, null, 25])).toHaveLength(2);
  });
  it('that were read with several instruments are said, those without a reading aside', () => {
    expect(found(instrumentChanged, [], ['Meter A ', 'Meter A', 'Meter B'])).toEqual([
      'The readings were taken with Meter A and Meter B.',
    ]);
    expect(found(instrumentChanged, [], ['Meter A', '', ' Meter A'])).toEqual([]);
    document.sessions.push({ ...{ id: testId(), ...stamp, ...newSession(START) }, instrument: 'Meter C' });
    expect(messages(instrumentChanged, structuredClone(document))).toEqual([]);
  });
  it('without a condition that the plan requires are counted', () => {
    expect(found(missingCondition, [20, 21, 22])).toEqual([]);
    expect(found(missingCondition, [20])[0]).toMatch(
      /^Air temperature was not read at the start of 2 sessions, though the plan requires it\./,
    );
  });
});
