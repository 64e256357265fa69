import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { testId, testStudy } from '../testing-study.ts';
import { namesFromPaste, proposeCode, proposeMark } from './code.ts';
import { isEveryRunSettled, runQueue } from '../bench/queue.ts';
import { HAZARDS } from '../model/words.ts';
import sampleSize from '../reference/sample-size.json' with { type: 'json' };
import { CLOSE, expectRelative } from '../testing.ts';
import { CAUTIONS, cautionOf, suggestedHazards } from './cautions.ts';
import { planDuration, spokenDuration, workloadOf } from './duration.ts';
import {
  alikeDf,
  differenceSeen,
  differenceSeenPooled,
  levelPerPair,
  ownDf,
  power,
  readingsNeeded,
} from './power.ts';
import { undoSteps } from '../bench/undo.ts';

describe('how many readings', () => {
  // R: power.t.test, two-sided, per group.
  it.each(sampleSize.perGroup)('see $difference at a spread of $sd with power $power', (row) => {
    expectRelative(readingsNeeded(row.power, row), row.n, CLOSE);
  });
  it.each(sampleSize.power)('$n readings have the power that R gives', (row) => {
    expectRelative(power(row.n, row), row.power, CLOSE);
    expectRelative(differenceSeen(row.n, row.power, row), row.difference, CLOSE);
  });
  it.each([
    // Two items are compared by their own differences.
    [2, 5, 4],
    // Others lend half of (n − 1)(k − 2), and at most what as many rounds are trusted with.
    [3, 2, 1 + 0.5],
    [3, 3, 2 + 1],
    [6, 2, 1 + 2],
    [12, 4, 3 + 6],
    // In two rounds of more than six items one odd item would carry all.
    [7, 2, 1],
    [7, 3, 2 + 2],
  ])('of %i items in %i rounds are compared with %f degrees of freedom', (items, rounds, df) => {
    expect(alikeDf(items)(rounds)).toBe(df);
  });
  it('are at least two, and not named where none would do', () => {
    expect(readingsNeeded(0.8, { difference: 100, sd: 1, alpha: 0.05 })).toBe(2);
    expect(readingsNeeded(0.8, { difference: 0.001, sd: 1, alpha: 0.05 })).toBeUndefined();
    expect(readingsNeeded(0.8, { difference: 0, sd: 1, alpha: 0.05 })).toBeUndefined();
  });
  it('grow with the number of pairs that must hold at once', () => {
    // Šidák: for three pairs 1 − 0.95^(1/3) = 0.016952.
    expect(levelPerPair(0.05, 3)).toBeCloseTo(0.016952, 6);
    expect(levelPerPair(0.05, 2)).toBe(0.05);
    expect(levelPerPair(0.05, 1)).toBe(0.05);
  });
  it('within rounds depends on whether the items scatter alike', () => {
    // R, noncentral t with 3(n − 1), n − 1 and, by qtukey, (n − 1)(k − 1) degrees of freedom; six items, SD 1.
    const alpha = levelPerPair(0.05, 6);
    expect(readingsNeeded(0.8, { difference: 1, sd: 1, alpha, df: alikeDf(6) })).toBeCloseTo(29.8817, 3);
    expect(differenceSeen(8, 0.8, { sd: 1, alpha, df: ownDf })).toBeCloseTo(2.7253, 3);
    expect(differenceSeenPooled(8, 0.8, { sd: 1, alpha: 0.05, items: 6 })).toBeCloseTo(1.9429, 3);
    expect(differenceSeenPooled(8, 0.8, { sd: 2, alpha: 0.05, items: 6 })).toBeCloseTo(2 * 1.9429, 3);
    expect(differenceSeenPooled(2, 0.8, { sd: 1, alpha: 0.05, items: 2 })).toBeUndefined();
    expect(differenceSeenPooled(2, 0.8, { sd: 1, alpha: 0.05, items: 3 })).toBeGreaterThan(3);
    expect(differenceSeenPooled(3, 0.8, { sd: 1, alpha: 0.05, items: 2 })).toBeGreaterThan(3);
  });
});

const TIMES = {
  setupS: 25,
  levelS: 40,
  roundWaitS: 0,
  sessionS: 7200,
  sessionsPerDay: 1,
  waitS: { session: 0, item: 0, reading: 0 },
};

describe('how long a plan takes', () => {
  it('adds up readings, changes of item and waits, and says what dominates', () => {
    const readings = [{ measurand: 'Pull', count: 48, eachS: 20 }];
    const times = { ...TIMES, roundWaitS: 60, sessionS: 1800, sessionsPerDay: 2 };
    const found = planDuration({ rounds: 8, itemChanges: 48, levelChanges: 0, readings }, times);
    // By hand: 48·20 + 48·25 + 7·60 = 2580 s, two sessions of half an hour, one day.
    expect(found).toMatchObject({ totalS: 2580, sessions: 2, days: 1 });
    expect(found.shares[0]).toMatchObject({ what: 'changing items', seconds: 1200 });
  });
  it('names readings by their measurand where there are several', () => {
    const readings = ['Pull', 'Mass'].map((measurand) => ({ measurand, count: 3, eachS: 20 }));
    const work = { rounds: 3, itemChanges: 0, levelChanges: 0 };
    const whats = (of: typeof readings) =>
      planDuration({ ...work, readings: of }, TIMES).shares.map(({ what }) => what);
    expect(whats(readings).filter((what) => what.startsWith('readings'))).toEqual([
      'readings of Pull',
      'readings of Mass',
    ]);
    expect(whats(readings.slice(0, 1))).toContain('readings');
  });
  it('counts the waits of the procedure when they come', () => {
    const readings = [{ measurand: 'Pull', count: 48, eachS: 20 }];
    const times = { ...TIMES, sessionS: 1800, waitS: { session: 600, item: 5, reading: 10 } };
    const found = planDuration({ rounds: 8, itemChanges: 48, levelChanges: 3, readings }, times);
    // By hand: 960 + 1200 + 3·40 + 48·15 = 3000 s of work; 1200 s of each session are left for it, so three of them.
    expect(found).toMatchObject({ totalS: 3000 + 3 * 600, sessions: 3, days: 3 });
  });
  it('counts a measurand on the items alone that it is measured on, and every change of item and setting', () => {
    const { document, items, measurand } = testStudy(['Ama', 'Bel', 'Cor'], { rounds: 2 });
    measurand.onItems = items.slice(0, 2).map(({ id }) => id);
    const other = { ...measurand, id: testId(), name: 'Mass', onItems: null, readingS: 7, position: 2 };
    document.measurands.push(other);
    const run = (item: number, level: string) => ({
      ...{ itemId: items[item]?.id ?? '', round: 1, place: 0, levelIds: level === '' ? [] : [level] },
    });
    const order = [run(0, 'a'), run(0, 'b'), run(1, 'b'), run(2, 'b'), run(0, 'a'), run(0, '')];
    expect(workloadOf(document, order as never)).toEqual({
      ...{ rounds: 2, itemChanges: 4, levelChanges: 3 },
      readings: [
        { measurand: 'Pull', eachS: measurand.readingS, count: 5 },
        { measurand: 'Mass', eachS: 7, count: 6 },
      ],
    });
  });
  it('is spoken in hours and minutes', () => {
    expect([0, 29, 60, 89, 90, 3600, 3629, 7500].map(spokenDuration)).toEqual([
      ...['1 minute', '1 minute', '1 minute', '1 minute', '2 minutes'],
      ...['1 hour', '1 hour', '2 hours 5 minutes'],
    ]);
  });
  it('has no wait between rounds where there is one', () => {
    const times = { ...TIMES, roundWaitS: 600 };
    const work = { rounds: 1, itemChanges: 2, levelChanges: 0, readings: [] };
    const waited = (rounds: number) => planDuration({ ...work, rounds }, times).totalS;
    expect(waited(1)).toBe(waited(0));
    expect(waited(3) - waited(1)).toBe(1200);
  });
  it('of nothing is nothing', () => {
    const nothing = { rounds: 0, itemChanges: 0, levelChanges: 0, readings: [] };
    expect(planDuration(nothing, TIMES)).toMatchObject({ totalS: 0, days: 1 });
    // Nobody waits for a session in which nothing is done.
    const waits = { ...TIMES, waitS: { session: 600, item: 5, reading: 5 } };
    const found = planDuration(nothing, waits);
    expect(found).toMatchObject({ totalS: 0, sessions: 1 });
    expect(found.shares.map(({ share }) => share)).toEqual(found.shares.map(() => 0));
  });
});

describe('cautions', () => {
  it('have one for each hazard, and defer where practice is licensed', () => {
    expect(CAUTIONS.map(({ hazard }) => hazard)).toEqual([...HAZARDS]);
    expect(cautionOf('mains').caution).toContain('licensed');
    expect(cautionOf('body').caution).toContain('never a basis for treatment');
  });
  it('are suggested by whole words and units of the plan, never twice', () => {
    const hazards = (texts: string[]) => suggestedHazards(texts, []).map(({ caution }) => caution.hazard);
    expect(hazards(['Fill with liquid nitrogen'])).toEqual(['cryogens']);
    expect(hazards(['bar'])).toEqual(['stored-energy']);
    expect(hazards(['Barley and sandbars'])).toEqual([]);
    expect(suggestedHazards(['Sharpen the blade'], ['cutting'])).toEqual([]);
  });
});

describe('the run queue', () => {
  it('takes every item in every round, and every measurand of a run', () => {
    const { document, measurand } = testStudy(['Ama', 'Bel']);
    document.measurands.push({ ...measurand, id: testId(), name: 'Length', position: 2 });
    const queue = runQueue(document);
    expect(queue).toHaveLength(12);
    expect(queue.map(({ place }) => place)).toEqual([...Array(12).keys()]);
    expect(queue[0]?.item).toBe(queue[1]?.item);
  });
  it('leaves a run to come after a misfire, and counts it', () => {
    const { document, items, read, decide } = testStudy(['Ama', 'Bel']);
    const misfire = read(0, 1, '9');
    decide('misfire', { readingId: misfire.id, reason: 'slipped' });
    const runAgain = () => runQueue(document).find((run) => run.round === 1 && run.itemId === items[0]?.id);
    expect(runAgain()).toMatchObject({ state: 'to come', misfires: 1 });
    read(0, 1, '7');
    expect(runAgain()).toMatchObject({ state: 'done', misfires: 1 });
    expect(runAgain()?.reading?.value).toBe(7);
    decide('take-again', { readingId: runAgain()?.reading?.reading.id ?? '', reason: '' });
    expect(runAgain()).toMatchObject({ state: 'to come', misfires: 1, takenAgain: 1 });
  });
  it('keeps a run done when its reading is left out at the screening', () => {
    const { document, items, read, decide } = testStudy(['Ama', 'Bel']);
    decide('leave-out', { readingId: read(0, 1, '9').id, reason: 'draught' });
    expect(runQueue(document).find((run) => run.round === 1 && run.itemId === items[0]?.id)?.state).toBe(
      'done',
    );
  });
  it('remembers what was skipped until it is taken up again', () => {
    const { document, items, measurand, decide } = testStudy(['Ama', 'Bel']);
    const run = { round: 2, itemId: items[1]?.id as string, measurandId: measurand.id, levelIds: [] };
    const state = () =>
      runQueue(document).find((other) => other.round === 2 && other.itemId === run.itemId)?.state;
    decide('skip', { run });
    expect(state()).toBe('skipped');
    decide('unskip', { run });
    expect(state()).toBe('to come');
  });
  it('is settled when no run of it is to come, whatever happened', () => {
    const step = fc.record({
      what: fc.constantFrom('read', 'read', 'read', 'misfire', 'skip', 'unskip', 'add-run', 'remove-run'),
      item: fc.integer({ min: 0, max: 1 }),
      round: fc.integer({ min: 1, max: 3 }),
    });
    let settled = 0;
    fc.assert(
      fc.property(fc.array(step, { minLength: 4, maxLength: 24 }), (steps) => {
        const { document, items, measurand, read, decide } = testStudy(['Ama', 'Bel'], { rounds: 2 });
        for (const { what, item, round } of steps) {
          const run = { round, itemId: items[item]?.id as string, measurandId: measurand.id, levelIds: [] };
          if (what === 'read') read(item, round, '7');
          else if (what === 'misfire')
            decide(what, { readingId: read(item, round, '9').id, reason: 'slipped' });
          else decide(what, { run });
        }
        const isSettled = isEveryRunSettled(document);
        if (isSettled) settled += 1;
        expect(isSettled).toBe(runQueue(document).every(({ state }) => state !== 'to come'));
      }),
      { numRuns: 300 },
    );
    expect(settled).toBeGreaterThan(20);
  });
});

describe('undo at the bench', () => {
  it('takes back readings one by one, the latest first', () => {
    const { document, read, decide } = testStudy(['Ama', 'Bel']);
    const first = read(0, 1, '5');
    const second = read(1, 1, '6');
    const last = () => undoSteps(document).at(-1);
    expect(last()).toMatchObject({ action: 'withdraw', readingId: second.id, what: 'reading' });
    decide('withdraw', { readingId: second.id });
    expect(last()).toMatchObject({ readingId: first.id });
    decide('withdraw', { readingId: first.id });
    expect(last()).toBeUndefined();
    expect(runQueue(document).every(({ state }) => state === 'to come')).toBe(true);
  });
  it('takes a misfire back as one step', () => {
    const { document, read, decide } = testStudy(['Ama']);
    const misfire = read(0, 1, '5');
    decide('misfire', { readingId: misfire.id, reason: 'door' });
    expect(undoSteps(document)).toHaveLength(1);
    expect(undoSteps(document)[0]).toMatchObject({ action: 'withdraw', what: 'misfire' });
  });
  it('takes a later misfire back by counting the reading again', () => {
    const { document, read, decide } = testStudy(['Ama', 'Bel']);
    const first = read(0, 1, '5');
    read(1, 1, '6');
    const later = '2026-05-04T10:00:20.000Z';
    decide('misfire', { readingId: first.id, reason: 'door', decidedAt: later });
    expect(undoSteps(document).at(-1)).toMatchObject({ action: 'take-back', readingId: first.id });
  });
  it('takes a reading that was marked right after it was recorded back in two steps', () => {
    const { document, read, decide } = testStudy(['Ama']);
    const only = read(0, 1, '5');
    decide('misfire', { readingId: only.id, reason: 'taken again', decidedAt: '2026-05-04T10:00:03.000Z' });
    expect(undoSteps(document).map(({ what, action }) => [what, action])).toEqual([
      ['reading', 'withdraw'],
      ['misfire', 'take-back'],
    ]);
  });
  it('takes a skip back', () => {
    const { document, items, measurand, decide } = testStudy(['Ama']);
    const run = { round: 1, itemId: items[0]?.id as string, measurandId: measurand.id, levelIds: [] };
    decide('skip', { run });
    expect(undoSteps(document).at(-1)).toMatchObject({ action: 'unskip', run, what: 'skip' });
    decide('unskip', { run });
    expect(undoSteps(document)).toEqual([]);
  });
});

describe('codes and marks', () => {
  it('come from the name and differ from those taken', () => {
    expect(proposeCode('Larven 3', [])).toBe('L3');
    expect(proposeCode('Larven 3', ['l3'])).not.toBe('L3');
    expect(proposeCode('Dappelin', ['D'])).toBe('DA');
    expect(proposeCode('!!!', [])).toBe('X');
    expect(proposeMark([0, 1, 3])).toBe(2);
    expect(proposeMark([])).toBe(0);
  });
  it('are always new and fit the model, for any name', () => {
    fc.assert(
      fc.property(
        fc.array(fc.string({ minLength: 1, maxLength: 30, unit: 'grapheme' }), { maxLength: 30 }),
        (names) => {
          const codes: string[] = [];
          for (const name of names) codes.push(proposeCode(name, codes));
          expect(new Set(codes.map((code) => code.toUpperCase())).size).toBe(codes.length);
          expect(codes.every((code) => /^\S{1,8}$/u.test(code) && code.length <= 8)).toBe(true);
        },
      ),
    );
  });
  it('are pasted as a column, blank lines and repeats skipped', () => {
    expect(namesFromPaste('Ama\r\nBel\n\n"Cor"\nama\n')).toEqual(['Ama', 'Bel', 'Cor']);
    expect(namesFromPaste('Ama\tBel')).toEqual(['Ama', 'Bel']);
  });
});
