import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { testId, testStudy } from '../testing-study.ts';
import { namesFromPaste, proposeCode, proposeMark } from './code.ts';
import { runQueue } from './queue.ts';
import { roundOrder } from './run-order.ts';
import { undoSteps } from './undo.ts';

const ids = ['a', 'b', 'c', 'd'].map(() => testId());

describe('the run order', () => {
  it('is made again by its seed, whatever order the items are listed in', () => {
    expect(roundOrder([...ids].reverse(), 7, 2)).toEqual(roundOrder(ids, 7, 2));
  });
  it('holds every item once a round', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 4294967295 }),
        fc.integer({ min: 1, max: 500 }),
        (seed, round) => {
          expect([...roundOrder(ids, seed, round)].sort()).toEqual([...ids].sort());
        },
      ),
    );
  });
  it('is a fresh shuffle each round, every order about equally often', () => {
    const counts = new Map<string, number>();
    const three = ids.slice(0, 3);
    for (let round = 1; round <= 6000; round += 1) {
      const key = roundOrder(three, 99, round)
        .map((id) => three.indexOf(id))
        .join('');
      counts.set(key, (counts.get(key) ?? 0) + 1);
    }
    expect(counts.size).toBe(6);
    // 1000 each expected; five standard deviations are 144.
    for (const count of counts.values()) expect(Math.abs(count - 1000)).toBeLessThan(144);
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
    const own = () => runQueue(document).find((run) => run.round === 1 && run.itemId === items[0]?.id);
    expect(own()).toMatchObject({ state: 'to come', misfires: 1 });
    read(0, 1, '7');
    expect(own()).toMatchObject({ state: 'done', misfires: 1 });
    expect(own()?.reading?.value).toBe(7);
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
    const run = { round: 2, itemId: items[1]?.id as string, measurandId: measurand.id };
    const state = () => runQueue(document).find((one) => one.round === 2 && one.itemId === run.itemId)?.state;
    decide('skip', { run });
    expect(state()).toBe('skipped');
    decide('unskip', { run });
    expect(state()).toBe('to come');
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
    decide('misfire', { readingId: first.id, reason: 'door' });
    expect(undoSteps(document).at(-1)).toMatchObject({ action: 'take-back', readingId: first.id });
  });
  it('takes a skip back', () => {
    const { document, items, measurand, decide } = testStudy(['Ama']);
    const run = { round: 1, itemId: items[0]?.id as string, measurandId: measurand.id };
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
  it('are pasted as a column, blank lines and repeats passed by', () => {
    expect(namesFromPaste('Ama\r\nBel\n\n"Cor"\nama\n')).toEqual(['Ama', 'Bel', 'Cor']);
    expect(namesFromPaste('Ama\tBel')).toEqual(['Ama', 'Bel']);
  });
});
