import { readFileSync, readdirSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { inspectStudy, inspectedStudy } from '../analysis/inspect-study.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { newCondition, newSession } from '../plan/new-parts.ts';
import { DEFAULT_RULE } from '../screening/rule.ts';
import { levelledStudy, simulatedStudy, testId, testStudy } from '../testing-study.ts';
import { inspect } from './index.ts';
import { largestVariance } from './unequal-spread.ts';
import { groupsDiffer, slopeWithin } from './residuals.ts';

type Planted = Parameters<NonNullable<Parameters<typeof simulatedStudy>[2]>>[1];

const kinds = (document: StudyDocument) => inspectStudy(document).map(({ kind }) => kind);

describe('a quiet study', () => {
  // One level for all tests of a study: at most one in twenty shows anything (± 1.5 with so many).
  it.each([
    { items: 6, rounds: 8, step: 0.2 },
    { items: 3, rounds: 5, step: 0.5 },
    { items: 6, rounds: 8, step: 2 },
  ])('of $items items in $rounds rounds in steps of $step SD shows nothing', (design) => {
    let loud = 0;
    for (let seed = 1; seed <= 200; seed += 1) {
      if (inspectStudy(simulatedStudy(design, seed).document).length > 0) loud += 1;
    }
    expect(loud / 200).toBeLessThanOrEqual(0.065);
  });
});

describe('what is wrong with a study is noticed', () => {
  const design = { items: 6, rounds: 8, step: 0.1 };
  it('a drift, with which way and how far', () => {
    const { document } = simulatedStudy(design, 3, (value, { place }) => value - 0.06 * place);
    const [found] = inspectStudy(document);
    expect(found).toMatchObject({ kind: 'drift' });
    expect(found?.message).toMatch(
      /^Pull falls along the run order: the last third reads .* lower than the first\.$/,
    );
  });
  it('first readings of rounds that differ', () => {
    const { document } = simulatedStudy(design, 4, (value, { inRound }) =>
      inRound === 0 ? value - 3 : value,
    );
    expect(kinds(document)).toContain('first of a round');
  });
  it('an item that spreads unlike the others, by its name', () => {
    const { document } = simulatedStudy(design, 5, (value, { item, round }) =>
      item === 2 ? value + (round % 2 === 0 ? 6 : -6) : value,
    );
    expect(inspectStudy(document).find(({ kind }) => kind === 'unequal spread')?.message).toMatch(
      /^Item 3 spreads/,
    );
  });
  it.each([
    ['drift', 3, (value: number, { place }: Planted) => value - 0.06 * place],
    ['first of a round', 4, (value: number, { inRound }: Planted) => (inRound === 0 ? value - 3 : value)],
    [
      'unequal spread',
      5,
      (value: number, { item, round }: Planted) => value + (item === 2 ? 6 - 12 * (round % 2) : 0),
    ],
    ['readings at the end of a range', 12, (value: number) => Math.min(52, value)],
  ] as const)(
    '%s is none of what was worked out from others, nor of what no test holds for',
    (kind, seed, plant) => {
      const study = inspectedStudy(simulatedStudy(design, seed, plant).document);
      const found = (flags: object) =>
        inspect({
          ...study,
          measurands: study.measurands.map((measurand) => ({ ...measurand, ...flags })),
        }).map((finding) => finding.kind);
      expect(found({})).toContain(kind);
      expect(found({ derived: true })).not.toContain(kind);
      expect(found({ untested: true })).not.toContain(kind);
    },
  );
  it('a mean from elsewhere outside its own readings, and an SD that they cannot have', () => {
    const { document } = simulatedStudy(design, 7);
    const [item, measurand] = [document.items[0], document.measurands[0]];
    const typed = (change: object) => {
      const { version, createdAt, updatedAt } = document.study;
      document.figures = [
        {
          ...{ id: testId(), studyId: document.study.id, version, createdAt, updatedAt, levels: [] },
          ...{ itemId: item?.id ?? '', measurandId: measurand?.id ?? '', kind: 'summary', source: '' },
          ...{ n: 4, mean: 3.2, sd: 0.1, low: 3, high: 3.4, ...change },
        },
      ];
      return inspectStudy({ ...document }).filter(({ id }) => id.startsWith('typed figure/'));
    };
    expect(typed({})).toEqual([]);
    expect(typed({ low: null, high: null, sd: 9 })).toEqual([]);
    // Two readings at each end: the SD is 0.2 × √(4/3).
    expect(typed({ sd: 0.2309 })).toEqual([]);
    expect(typed({ sd: 0.2311 })).toMatchObject([{ kind: 'SD wider than its readings' }]);
    // Of three, one at one end and two at the other: 0.4/√3.
    expect(typed({ n: 3, sd: 0.2309 })).toEqual([]);
    expect(typed({ n: 3, sd: 0.2311 })).toMatchObject([{ kind: 'SD wider than its readings' }]);
    expect(typed({ mean: 3.5 })).toMatchObject([{ kind: 'mean outside its readings' }]);
    expect(typed({ mean: 3.5 })[0]?.todo).toBe('Look it up again, or take the figure out.');
    expect(typed({ mean: 3.5, source: 'the box' })[0]?.todo).toContain('Look it up again (the box)');
    expect(typed({ mean: 3.5, measurandId: testId() })).toEqual([]);
    expect(typed({ mean: 2, high: null })[0]?.message).toMatch(
      /lies outside its own readings, which run from 3/,
    );
  });
  it('an instrument that is stuck, and none that is only coarse', () => {
    const stuckFrom = (step: number) =>
      simulatedStudy({ ...design, step }, 6, (value, { item, round }) =>
        item === 1 && round > 3 ? 51.3 : value,
      );
    expect(kinds(stuckFrom(0.1).document)).toContain('the same value again and again');
    expect(kinds(simulatedStudy({ ...design, step: 4 }, 6).document)).not.toContain(
      'the same value again and again',
    );
  });
  it('names the first of two that are as long', () => {
    const { document } = simulatedStudy({ items: 2, rounds: 12, step: 0.001 }, 6, (value, { item, round }) =>
      item === 1 && round <= 4 ? 51.3 : item === 1 && round > 8 ? 52.4 : value,
    );
    const found = inspectStudy(document).find(({ kind }) => kind === 'the same value again and again');
    expect(found?.message).toMatch(/ read 51\.3.* 4 times in a row\.$/);
    expect(found?.readingIds).toHaveLength(4);
  });
  it('four equal readings in a row where each is likely to be another, and not three', () => {
    const equal = (count: number) =>
      simulatedStudy({ items: 2, rounds: 12, step: 0.001 }, 6, (value, { item, round }) =>
        item === 1 && round > 12 - count ? 51.3 : value,
      ).document;
    expect(kinds(equal(4))).toContain('the same value again and again');
    expect(kinds(equal(3))).not.toContain('the same value again and again');
  });
  it('an instrument at the end of its range, over items that reach it, and none that is only coarse', () => {
    const cut = (step: number, high: number) =>
      simulatedStudy({ items: 4, rounds: 10, step }, 12, (value) => Math.min(high, value)).document;
    const [found] = inspectStudy(cut(0.1, 52.5)).filter(
      ({ kind }) => kind === 'readings at the end of a range',
    );
    expect(found?.message).toMatch(
      /^\d+ readings of Pull are exactly 52\.5.*none is higher \(.*Item 3 and Item 4\)\.$/,
    );
    expect(found?.readingIds.length).toBeGreaterThan(5);
    const low = simulatedStudy({ items: 4, rounds: 20, step: 0.05 }, 12, (value) => Math.max(49.6, value));
    expect(
      inspectStudy(low.document)
        .map(({ message }) => message)
        .join(),
    ).toMatch(/exactly 49\.6.*none is lower/);
    expect(kinds(cut(2, 99))).not.toContain('readings at the end of a range');
    expect(kinds(cut(0.1, 99))).not.toContain('readings at the end of a range');
  });
  it('a yield of which more came out than was fed, and none that is just a hundred', () => {
    const { document, measurand, read } = testStudy(['Ama', 'Bel']);
    Object.assign(measurand, { form: 'fed-recovered', unit: '%' });
    const recovered = (item: number, round: number, number: number) => {
      read(item, round, '1').parts = [
        { name: 'fed', text: '200', number: 200 },
        { name: 'recovered', text: String(number), number },
      ];
    };
    [200, 198].forEach((number, item) => {
      recovered(item, 1, number);
    });
    const over = () => inspectStudy({ ...document }).find(({ kind }) => kind === 'yield over 100 %');
    expect(over()).toBeUndefined();
    recovered(1, 2, 201);
    recovered(0, 2, 200.5);
    expect(over()?.message.replace(/\s/g, ' ')).toBe(
      '2 yields over 100 % in Pull, the highest 100.5 % of Bel.',
    );
  });
  it('a slip of digits that no rule judged', () => {
    const { document, measurand } = simulatedStudy(
      { items: 3, rounds: 4, step: 0.1 },
      7,
      (value, { item, round }) => (item === 0 && round === 2 ? value * 10 : value),
    );
    measurand.rule = { ...DEFAULT_RULE, name: 'none' };
    const slip = inspectStudy(document).find(({ kind }) => kind === 'digit slip');
    expect(slip?.message).toContain('may have its decimal point moved');
    expect(slip?.readingIds).toHaveLength(1);
  });
  it('a step that is coarser than the margin', () => {
    const { document, measurand } = simulatedStudy({ ...design, step: 0.5 }, 8);
    measurand.margin = { kind: 'absolute', value: 0.2 };
    expect(kinds(document)).toContain('resolution too coarse for the margin');
  });
  it('differences that the instrument’s accuracy covers', () => {
    const { document, measurand } = simulatedStudy(design, 9);
    measurand.instrument = { ...measurand.instrument, accuracyConstant: 10 };
    expect(kinds(document)).toContain('difference smaller than the instrument’s uncertainty');
  });
  it('sessions without a required condition, with two instruments, and an item read in another warmth', () => {
    const { document } = simulatedStudy(design, 10);
    const stamp = {
      studyId: document.study.id,
      ...{ version: 1, createdAt: '2026-05-04T10:00:00.000Z', updatedAt: '2026-05-04T10:00:00.000Z' },
    };
    const condition = {
      ...{ id: testId(), ...stamp, ...newCondition('Air temperature', '°C', 1), tolerableDrift: 1 },
    };
    document.conditions.push(condition);
    const session = (instrument: string, warmth: number | undefined) => ({
      ...{ id: testId(), ...stamp, ...newSession('2026-05-04T09:00:00.000Z'), instrument },
      conditions:
        warmth === undefined
          ? []
          : [
              {
                ...{ conditionId: condition.id, at: 'start' as const, takenAt: '2026-05-04T09:00:00.000Z' },
                ...{ text: String(warmth), number: warmth },
              },
            ],
    });
    const [cool, warm, unknown] = [session('Meter A', 20), session('Meter B', 24), session('', undefined)];
    document.sessions.push(cool, warm, unknown);
    document.readings.forEach((reading, i) => {
      const isLast = reading.itemId === document.items.at(-1)?.id;
      reading.sessionId = (i === 0 ? unknown : isLast ? warm : cool).id;
    });
    const found = inspectStudy(document);
    const message = (kind: string) => found.find((finding) => finding.kind === kind)?.message;
    expect(message('required condition missing')).toContain(
      'Air temperature was not read at the start of 1 session',
    );
    document.conditions.push({ ...condition, id: testId(), quantity: 'Humidity', unit: '%' });
    expect(
      inspectStudy(document).find(({ kind }) => kind === 'required condition missing')?.message,
    ).toContain('Humidity and Air temperature were not read at the start of 3 sessions');
    expect(message('instrument changed midway')).toBe('The readings were taken with Meter A and Meter B.');
    expect(message('item measured under other conditions')).toMatch(
      /^Item 6 was read at 24.*the others at 20/,
    );
  });
});

describe('a factor that nothing answers to', () => {
  const moved = (by: number, levels: number, resolution = 0.5) => {
    const { document, measurand } = levelledStudy(
      { items: 2, levels, rounds: 3, decimals: 1 },
      ({ item, level, round }) => 50 + 5 * item + by * level + 0.5 * (round % 2),
    );
    measurand.instrument.resolution = resolution;
    return inspectStudy(document).filter(({ kind }) => kind === 'no response to a factor');
  };
  it('is pointed out where the readings stay within one step over all of its levels', () => {
    expect(moved(0, 2)).toMatchObject([
      {
        message: 'Pull moves by 0\u202fg over all levels of Pressure, no more than one step of the display.',
      },
    ]);
    expect(moved(0.2, 3)[0]?.message).toContain('moves by 0.4\u202fg over');
  });
  it('is none where they move by more than that, or the factor has one level', () => {
    expect(moved(0.3, 3)).toEqual([]);
    expect(moved(0, 1)).toEqual([]);
  });
});

describe('a condition in words', () => {
  const { document } = simulatedStudy({ items: 3, rounds: 4, step: 0.1 }, 11);
  const stamp = { studyId: document.study.id, version: 1, createdAt: '', updatedAt: '' };
  const ground = { ...{ id: testId(), ...stamp }, ...newCondition('Ground', '', 1), kind: 'word' as const };
  document.conditions = [ground];
  const session = (startedAt: string, ...words: [takenAt: string, text: string][]) => ({
    ...{ id: testId(), ...stamp, ...newSession(startedAt) },
    conditions: words.map(([takenAt, text]) => ({
      ...{ conditionId: ground.id, at: 'during' as const, takenAt, text, number: null },
    })),
  });
  const [morning, evening] = ['2026-05-04T08:00:00.000Z', '2026-05-04T18:00:00.000Z'];
  /** What is found where the last item was read in a session of its own. */
  const found = (words: [string, string][], others: [string, string][], takenAt = evening) => {
    const [its, theirs] = [session(morning, ...words), session(morning, ...others)];
    const lastId = document.items.at(-1)?.id;
    const sessions = [its, theirs];
    const readings = document.readings.map((reading) => ({
      ...reading,
      takenAt,
      sessionId: (reading.itemId === lastId ? its : theirs).id,
    }));
    return inspectStudy({ ...document, sessions, readings })
      .filter(({ kind }) => kind === 'item measured under other conditions')
      .map(({ id, message }) => [id, message]);
  };
  it('that was another one whenever an item was read is found', () => {
    expect(found([[morning, 'gravel']], [[morning, 'lawn']])).toEqual([
      [
        `other conditions/${ground.id}/${document.items.at(-1)?.id ?? ''}`,
        'Ground was “gravel” whenever Item 3 was read, and “lawn” for the others.',
      ],
    ]);
  });
  it('is nothing where it was the same at any time, or nobody noted it', () => {
    expect(found([[morning, 'Lawn ']], [[morning, 'lawn']])).toEqual([]);
    expect(found([], [[morning, 'lawn']])).toEqual([]);
    expect(found([[morning, 'gravel']], [])).toEqual([]);
  });
  it('is what was noted last before a reading', () => {
    const turned: [string, string][] = [
      [morning, 'lawn'],
      ['2026-05-04T12:00:00.000Z', 'gravel'],
    ];
    expect(found(turned, [[morning, 'lawn']])).toHaveLength(1);
    expect(found(turned, [[morning, 'lawn']], '2026-05-04T12:00:00.000Z')).toHaveLength(1);
    expect(found(turned, [[morning, 'lawn']], '2026-05-04T11:59:00.000Z')).toEqual([]);
    // Noted late, it is what it was first.
    expect(found(turned, [[morning, 'lawn']], '2026-05-04T07:00:00.000Z')).toEqual([]);
  });
});

const stampOf = ({ study }: StudyDocument) => ({
  ...{ studyId: study.id, version: 1, createdAt: study.createdAt, updatedAt: study.updatedAt },
});

describe('a control', () => {
  it('that reads out of its range puts its session in doubt; another item never does', () => {
    const { document, measurand, items } = simulatedStudy({ items: 3, rounds: 6, step: 0.1 }, 4);
    const [control] = items as [(typeof items)[number]];
    const range = (low: number | null, high: number | null) => {
      measurand.controls = [{ itemId: control.id, low, high }];
      return inspectStudy(structuredClone(document)).filter(
        ({ kind }) => kind === 'control out of its range',
      );
    };
    expect(range(40, 60)).toEqual([]);
    expect(range(70, 80)).toEqual([]);
    control.role = 'control';
    expect(range(40, 60)).toEqual([]);
    expect(range(70, null)).toMatchObject([
      {
        message: expect.stringMatching(
          /^Item 1 read .* the mean of 6 readings; at least 70.* is expected/,
        ) as string,
      },
    ]);
    expect(range(null, 20)).toHaveLength(1);
    expect(range(null, 20)[0]?.message).toMatch(/at most 20.* is expected/);
    expect(range(70, 80)[0]?.message).toMatch(/70\sg to 80\sg is expected/);
    expect(range(null, null)).toEqual([]);
    expect(range(null, 20)[0]?.message).not.toContain('in the session of');
    // What lies at an end of it is in it.
    const parts = [{ name: 'value', text: '50', number: 50 }];
    document.readings = document.readings.map((reading) =>
      reading.itemId === control.id ? { ...reading, parts } : reading,
    );
    expect(range(50, 60)).toEqual([]);
    expect(range(40, 50)).toEqual([]);
    const session = { ...stampOf(document), id: testId(), ...newSession('2026-05-04T09:00:00.000Z') };
    document.sessions.push(session);
    document.readings = document.readings.map((reading) => ({
      ...reading,
      sessionId: reading.round <= 2 ? session.id : null,
    }));
    expect(range(51, null).map(({ message }) => message)).toMatchObject([
      expect.stringMatching(/^Item 1 read 50\u202fg of pull in the session of 2026-05-04, the mean/),
      expect.stringMatching(/^Item 1 read 50\u202fg of pull, the mean of 4 readings;/),
    ]);
    expect(range(null, null)).toEqual([]);
  });
});

describe('the demo studies', () => {
  const found = Object.fromEntries(
    readdirSync('demo')
      .filter((file) => file.endsWith('.json'))
      .map((file) => {
        const document = JSON.parse(readFileSync(`demo/${file}`, 'utf8')) as StudyDocument;
        return [document.study.title, inspectStudy(document).map(({ message }) => message)];
      }),
  );
  it('show what was planted in them, and nothing else', () => {
    expect(found['Desk fans']).toEqual([
      expect.stringMatching(/^Quillop S was read at 23.*others at 21\.2/),
      // Its true spread is twice that of the others.
      expect.stringMatching(/^Brunnow spreads 2\.5 times/),
    ]);
    expect(found['Flour sieves']).toEqual([expect.stringMatching(/^1 yield over 100.*102\.6.*Ivel\.$/)]);
    expect(found['Lawn sprinklers']).toEqual([
      expect.stringMatching(/^Water used falls along the run order/),
      // A nozzle was clogged in one round.
      expect.stringMatching(/^Cassin spreads 9\.2 times as much as the others in Evenness/),
    ]);
    expect(found['Kitchen thermometers']).toEqual([]);
    expect(found['Tap aerators']).toEqual([]);
    expect(found['Vacuum flasks']).toEqual([
      expect.stringMatching(/^Air temperature was not read at the start of 1 session/),
    ]);
    expect(found['Vacuum flasks, five months on']).toEqual([]);
  });
});

describe('what the inspections work with', () => {
  // Critical values at 5 % of Cochran's test, ISO 5725-2:1994, table 4 (from memory): laboratories, results of each, C.
  it.each([
    [2, 5, 0.906],
    [3, 3, 0.871],
    [3, 5, 0.746],
    [5, 3, 0.684],
    [6, 3, 0.616],
    [10, 2, 0.602],
  ])('of %d variances of %d readings the largest is tested as Cochran has it', (count, n, critical) => {
    const rest = { variance: (1 - critical) / (count - 1), df: n - 1 };
    const all = [{ variance: critical, df: n - 1 }, ...Array.from({ length: count - 1 }, () => rest)];
    expect(largestVariance(all)).toBeCloseTo(0.05, 3);
  });
  it('a variance beside none is as telling as can be, and none beside none tells nothing', () => {
    const none = { variance: 0, df: 4 };
    expect(largestVariance([none, { variance: 1, df: 4 }, none])).toBe(0);
    expect(largestVariance([none, none])).toBe(1);
  });
  it('a slope within cells is that of an analysis of covariance', () => {
    // R 4.2: d <- data.frame(x = 1:8, y = c(2.1, 2.9, 4.2, 4.8, 9.9, 11.2, 11.8, 13.1), g = gl(2, 4));
    // summary(lm(y ~ x + g, d))
    const y = [2.1, 2.9, 4.2, 4.8, 9.9, 11.2, 11.8, 13.1];
    const slope = slopeWithin(y.map((value, i) => ({ cell: i < 4 ? 'a' : 'b', along: i + 1, value })));
    expect(slope?.df).toBe(5);
    expect(slope?.slope).toBeCloseTo(0.98, 9);
    expect(slope?.se).toBeCloseTo(0.06260990337, 9);
    expect(slope?.p).toBeCloseTo(1.934556185e-5, 12);
  });
  it('two groups are compared as Welch has it', () => {
    // R 4.2: t.test(c(1.2, 3.4, 2.2, 2.9), c(4.1, 3.9, 5.6))
    const found = groupsDiffer([1.2, 3.4, 2.2, 2.9], [4.1, 3.9, 5.6]);
    expect(found?.difference).toBeCloseTo(2.425 - 4.5333333333, 9);
    expect(found?.p).toBeCloseTo(0.036515, 6);
  });
  it('groups without spread, or of one, are not compared', () => {
    expect(groupsDiffer([1], [2, 3])).toBeUndefined();
    expect(groupsDiffer([1, 1], [2, 2])).toBeUndefined();
  });
});
