/** Each inspection by itself: what it makes of a few readings, with p-values from R 4.2 where it tests something. */
import { describe, expect, it } from 'vitest';
import { inspectedStudy } from '../analysis/inspect-study.ts';
import { capped } from './capped.ts';
import { digitSlip } from './digit-slip.ts';
import { drift } from './drift.ts';
import { firstOfRound } from './first-of-round.ts';
import type { InspectedMeasurand } from './inspection.ts';
import { overHundred } from './over-hundred.ts';
import { residuals, slopeWithin } from './residuals.ts';
import { stuck } from './stuck.ts';
import { unequalSpread } from './unequal-spread.ts';
import { NOT_TESTED, messages, seenBy, studyOf } from '../testing-inspections.ts';

describe('an instrument that is stuck', () => {
  const { document } = studyOf([[1, 2, 2, 2, 2, 3]]);
  it('is seen where one value comes again and again', () => {
    expect(seenBy(stuck, document, { step: 0.5 })).toMatchObject([
      // 3 * (2 * pnorm(0.5 / (2 * sd(x))) - 1)^3
      {
        p: expect.closeTo(0.0871151893638, 10) as number,
        message: 'Item 1 read 2 g 4 times in a row.',
        readings: 4,
      },
    ]);
    expect(seenBy(stuck, document)[0]?.readingIds).toEqual(document.readings.slice(1, 5).map(({ id }) => id));
    for (const change of NOT_TESTED) expect(seenBy(stuck, document, change)).toEqual([]);
  });
  it('is held against the spread in the middle of all items', () => {
    const two = studyOf([
      [1, 2, 2, 2, 2, 3],
      [7, 9, 8, 10, 9, 11],
    ]);
    expect(seenBy(stuck, two.document, { step: 0.5 })[0]?.p).toBeCloseTo(0.0215675196025, 10);
    // An item of one reading, or of equal ones, has no spread.
    const more = studyOf([[1, 2, 2, 2, 2, 3], [7], [8, 8]]);
    expect(seenBy(stuck, more.document, { step: 0.5 })[0]?.p).toBeCloseTo(0.0871151893638, 10);
  });
  it('is none where no item has a spread, or nothing comes four times in a row', () => {
    expect(seenBy(stuck, studyOf([[5, 5, 5, 5, 5]]).document)).toEqual([]);
    expect(seenBy(stuck, studyOf([[1, 2, 2, 2, 3, 2]]).document)).toEqual([]);
  });
});

describe('an instrument at the end of its range', () => {
  const { document } = studyOf([
    [5, 7, 7, 7, 6],
    [7, 4, 5, 6, 3, 7],
    [7, 1],
    [1, 2],
  ]);
  it('is tested by the items with enough readings that reach it', () => {
    // ties <- function(v, t, a) { s <- sd(v); w <- max(a, 0.02 * s);
    //   prod(1 - exp(-(1:(t - 1)) * qnorm(1 - 1 / (length(v) + 1)) / s * w)) }; 2 * ties(x, 3, .5) * ties(y, 2, .5)
    expect(seenBy(capped, document, { step: 0.5 })).toMatchObject([
      {
        p: expect.closeTo(0.153963956324, 9) as number,
        message: '6 readings of Pull are exactly 7 g, and none is higher (Item 1, Item 2 and Item 3).',
        readings: 6,
      },
    ]);
    for (const change of NOT_TESTED) expect(seenBy(capped, document, change)).toEqual([]);
  });
  it('is looked for at both ends, from four readings on', () => {
    const low = studyOf([
      [-5, -7, -7, -7, -6],
      [-7, -4, -5, -6, -3],
    ]);
    expect(seenBy(capped, low.document, { step: 0.5 })).toMatchObject([
      {
        id: `capped/${low.measurand.id}/-1`,
        message: expect.stringMatching(
          /^4 readings of Pull are exactly −?-?7 g, and none is lower/,
        ) as string,
      },
    ]);
    expect(seenBy(capped, studyOf([[5, 7, 7, 7, 6]]).document)).toEqual([]);
    expect(seenBy(capped, studyOf([[5, 7, 7, 7, 7]]).document)).toHaveLength(1);
    // Four of items with few readings are no test of anything.
    expect(
      seenBy(
        capped,
        studyOf([
          [7, 7, 3],
          [7, 7, 3],
        ]).document,
      )[0]?.p,
    ).toBe(1);
  });
});

describe('an item that spreads unlike the others', () => {
  const [even, wide, narrow] = [
    [10, 12, 11, 13, 9, 12],
    [20, 29, 24, 15, 22, 30],
    [5, 6, 7, 6.5, 5.5, 6],
  ] as const;
  it('is tested as Cochran has it where that says more', () => {
    // max(v) * 2 / (sum(v) - max(v)), 3 * pf(F, 5, 10, lower.tail = FALSE), twice; sqrt(max(v) / median(the others))
    expect(seenBy(unequalSpread, studyOf([even, wide, narrow]).document)).toMatchObject([
      {
        p: expect.closeTo(2 * 8.74540300288e-5, 12) as number,
        message: `Item 2 spreads ${Math.sqrt(31.8666666667 / ((2.1666666667 + 0.5) / 2)).toFixed(1)} times as much as the others in Pull.`,
        source: expect.stringContaining('Cochran') as string,
      },
    ]);
    for (const change of NOT_TESTED)
      expect(seenBy(unequalSpread, studyOf([even, wide, narrow]).document, change)).toEqual([]);
  });
  it('is tested as Brown and Forsythe have it where several spread widely', () => {
    const found = seenBy(unequalSpread, studyOf([wide, wide, wide, narrow, narrow, narrow]).document);
    // x <- abs(x - ave(x, item, FUN = median)); anova(lm(x ~ item)), twice
    expect(found[0]?.p).toBeCloseTo(0.00215048883081973, 12);
    expect(found[0]?.source).toContain('Brown and Forsythe');
    // The first of those that spread as widely is named.
    expect(found[0]?.message).toMatch(/^Item 1 /);
  });
  it('is not looked for in few readings, in one item, or where the step hides the spread', () => {
    expect(seenBy(unequalSpread, studyOf([even.slice(0, 3), wide.slice(0, 3)]).document)).toEqual([]);
    expect(seenBy(unequalSpread, studyOf([even.slice(0, 4), wide.slice(0, 4)]).document)).toHaveLength(1);
    expect(seenBy(unequalSpread, studyOf([wide, even.slice(0, 3)]).document)).toEqual([]);
    const three = studyOf([even, wide, narrow]).document;
    // A step of 1.4 hides the spread of one of three, of 1.5 that of two.
    expect(seenBy(unequalSpread, three, { step: 1.4 })).toHaveLength(1);
    expect(seenBy(unequalSpread, three, { step: 1.5 })).toEqual([]);
    expect(seenBy(unequalSpread, studyOf([even, wide]).document, { step: 1.5 })).toHaveLength(1);
  });
  it('is none where no item has any', () => {
    const flat = studyOf([
      [5, 5, 5, 5],
      [6, 6, 6, 6],
    ]).document;
    expect(seenBy(unequalSpread, flat, { step: 0 })).toMatchObject([{ p: 1 }]);
  });
});

describe('what comes first', () => {
  const columns = [
    [10, 14, 11, 13, 9, 15],
    [20, 16, 21, 18, 22, 17],
  ];
  const turned = (round: number) => round % 2 === 1;
  it('in a round is held against the rest', () => {
    const { document } = studyOf(columns, turned);
    // t.test(first, rest) of what is left of each once the mean of its item is taken off
    expect(seenBy(firstOfRound, document)).toMatchObject([
      {
        p: expect.closeTo(1.56033319478e-5, 11) as number,
        message: 'The first reading of a round is lower than the others, by 4 g of Pull on average.',
      },
    ]);
    expect(messages(firstOfRound, studyOf(columns, (round) => !turned(round)).document)).toEqual([
      'The first reading of a round is higher than the others, by 4 g of Pull on average.',
    ]);
    for (const change of NOT_TESTED) expect(seenBy(firstOfRound, document, change)).toEqual([]);
  });
  it('is not looked for in fewer than five rounds', () => {
    const upTo = (rounds: number) =>
      studyOf(
        columns.map((column) => column.slice(0, rounds)),
        turned,
      ).document;
    expect(seenBy(firstOfRound, upTo(5))).toHaveLength(1);
    expect(seenBy(firstOfRound, upTo(4))).toEqual([]);
  });
  it('in a session is held against the rest, and runs that were added belong to no round', () => {
    const { document } = studyOf(columns, turned);
    const study = inspectedStudy(document);
    const change = {
      cells: study.measurands[0]?.cells.map((cell) => ({
        ...cell,
        kept: cell.kept.map((observation) => ({
          ...observation,
          ...{ sharesRound: false, sessionId: `session of round ${String(observation.round)}` },
        })),
      })),
    } as Partial<InspectedMeasurand>;
    expect(seenBy(firstOfRound, document, change)).toMatchObject([
      {
        p: expect.closeTo(1.56033319478e-5, 11) as number,
        message: 'The first reading of a session is lower than the others, by 4 g of Pull on average.',
      },
    ]);
  });
});

describe('a drift', () => {
  const columns = [
    [10, 11, 12.5, 12, 14, 15.5],
    [20, 21.5, 22, 23.5, 24, 25],
  ];
  it('is the slope within items along the run order', () => {
    const { document } = studyOf(columns);
    // summary(lm(value ~ place + item))
    expect(seenBy(drift, document)).toMatchObject([
      {
        p: expect.closeTo(3.61675890566e-7, 14) as number,
        message: 'Pull rises along the run order: the last third reads 4 g higher than the first.',
      },
    ]);
    expect(
      messages(drift, studyOf(columns.map((column) => column.map((value) => 50 - value))).document),
    ).toEqual(['Pull falls along the run order: the last third reads 4 g lower than the first.']);
    for (const change of NOT_TESTED) expect(seenBy(drift, document, change)).toEqual([]);
  });
  it('is not looked for in fewer than twelve readings, nor where nothing varies', () => {
    expect(seenBy(drift, studyOf([columns[0] ?? [], columns[1]?.slice(1) ?? []]).document)).toEqual([]);
    expect(seenBy(drift, studyOf([Array(6).fill(1), Array(6).fill(2)]).document)).toEqual([]);
  });
  it('is looked for in the order taken, without cells of one', () => {
    const study = inspectedStudy(studyOf([[3, 1], [9], [5, 6]]).document);
    const left = residuals(study.measurands[0] as InspectedMeasurand);
    expect(left.cells).toBe(2);
    expect(left.residuals.map(({ value }) => value)).toEqual([1, -0.5, -1, 0.5]);
  });
  it('of which no scatter is left is as telling as can be', () => {
    const line = Array.from({ length: 6 }, (_, along) => ({ cell: '', along, value: 2 * along }));
    expect(slopeWithin(line)).toEqual({ slope: 2, se: 0, df: 4, p: 0 });
    expect(slopeWithin(line.slice(1))).toBeUndefined();
    expect(slopeWithin(line.map(({ along }) => ({ cell: '', along: 1, value: along })))).toBeUndefined();
  });
});

describe('a slip of digits', () => {
  const values = [[35.1, 35.4, 34.8, 35.2, 3.5, 35.3]];
  it('is looked for among four readings and more, and not where someone insists on it', () => {
    const { document } = studyOf(values);
    expect(messages(digitSlip, document)).toEqual([
      'Item 1, round 5: 3.5 g may have its decimal point moved; 35 g would fit.',
    ]);
    for (const change of NOT_TESTED) expect(seenBy(digitSlip, document, change)).toEqual([]);
    const few = studyOf([[35.1, 35.2, 3.5]]).document;
    expect(seenBy(digitSlip, few)).toEqual([]);
    expect(seenBy(digitSlip, studyOf([[35.1, 35.2, 35.3, 3.5]]).document)).toHaveLength(1);
    const insisted = studyOf(values);
    insisted.decide('keep', { readingId: insisted.document.readings[4]?.id ?? '', reason: 'It is so.' });
    expect(seenBy(digitSlip, insisted.document)).toEqual([]);
  });
  it('may be two that are swapped', () => {
    expect(messages(digitSlip, studyOf([[12.4, 12.5, 12.3, 12.4, 21.4]]).document)).toEqual([
      'Item 1, round 5: 21.4 g may have two digits swapped; 12.4 g would fit.',
    ]);
  });
});

describe('a yield over 100 %', () => {
  const study = studyOf([
    [1, 1],
    [1, 1],
  ]);
  study.measurand.form = 'fed-recovered';
  study.document.readings.forEach((reading, i) => {
    const recovered = [201, 100, 202.4, 90][i] as number;
    reading.parts = [
      { name: 'fed', text: '200', number: 200 },
      { name: 'recovered', text: String(recovered), number: recovered },
    ];
  });
  it('is said of what counts, with the highest', () => {
    expect(seenBy(overHundred, study.document)).toMatchObject([
      { message: '2 yields over 100 % in Pull, the highest 101.2 % of Item 1.', readings: 2 },
    ]);
    study.decide('leave-out', { readingId: study.document.readings[2]?.id ?? '', reason: 'Spilled.' });
    expect(messages(overHundred, structuredClone(study.document))).toEqual([
      '1 yield over 100 % in Pull, the highest 100.5 % of Item 1.',
    ]);
  });
  it('is none of what is worked out, or no yield', () => {
    const measurand = { ...study.measurand, expression: '[Pull]' };
    expect(seenBy(overHundred, study.document, { measurand })).toEqual([]);
    expect(seenBy(overHundred, studyOf([[101, 102]]).document)).toEqual([]);
  });
});
