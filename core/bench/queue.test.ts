import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { StudyDocument } from '../model/study-document.ts';
import { testStudy } from '../testing-study.ts';
import { isEveryRunSettled, plannedRuns, runQueue } from './queue.ts';

/** The queue of a copy that nothing has seen before, so that all of it is made from the start. */
const fromTheStart = (document: StudyDocument) => runQueue(structuredClone(document));

const ACTIONS = [
  ...['read', 'read', 'read', 'misfire', 'take-again', 'leave-out', 'take-back', 'withdraw', 'restore'],
  ...['skip', 'unskip', 'add-run', 'remove-run', 'undo'],
] as const;

describe('a queue that is taken on from reading to reading', () => {
  const step = fc.record({
    what: fc.constantFrom(...ACTIONS),
    item: fc.integer({ min: 0, max: 2 }),
    round: fc.integer({ min: 1, max: 4 }),
    which: fc.integer({ min: 0, max: 30 }),
    between: fc.constantFrom('nothing', 'another study', 'a question', 'an older state'),
  });
  it('is the one that is made from the start, whatever happens in between', () => {
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 25 }), (steps) => {
        const made = testStudy(['Ama', 'Bel', 'Cor'], { rounds: 3 });
        const other = testStudy(['Dun', 'Eik']);
        const planned = plannedRuns(made.document);
        const states: StudyDocument[] = [];
        for (const { what, item, round, which, between } of steps) {
          const { readings } = made.document;
          const readingId = readings[which % Math.max(1, readings.length)]?.id;
          const run = {
            ...{ round, itemId: made.items[item]?.id as string, measurandId: made.measurand.id },
            levelIds: [],
          };
          if (what === 'read') made.read(item, round, '7');
          else if (what === 'undo') made.document.readings.pop();
          else if (what === 'skip' || what === 'unskip' || what === 'add-run' || what === 'remove-run')
            made.decide(what, { run });
          else if (readingId !== undefined) made.decide(what, { readingId, reason: 'so' });
          const document = {
            ...made.document,
            readings: [...made.document.readings],
            decisions: [...made.document.decisions],
          };
          states.push(document);
          if (between === 'another study') runQueue(other.document);
          if (between === 'a question')
            expect(isEveryRunSettled(document)).toBe(isEveryRunSettled(structuredClone(document)));
          if (between === 'an older state') runQueue(states[which % states.length] as StudyDocument, planned);
          expect(runQueue(document, planned)).toEqual(fromTheStart(document));
        }
      }),
      { numRuns: 150 },
    );
  });
  it('says again whether all is settled when one of many was taken back', () => {
    const { document, read, decide, items, measurand } = testStudy(['Ama', 'Bel'], { rounds: 2 });
    const settled = () =>
      isEveryRunSettled({
        ...document,
        readings: [...document.readings],
        decisions: [...document.decisions],
      });
    for (const round of [1, 2]) for (const item of [0, 1]) read(item, round, '7');
    expect(settled()).toBe(true);
    const readingId = document.readings[2]?.id as string;
    decide('leave-out', { readingId, reason: 'so' });
    expect(settled()).toBe(true);
    decide('misfire', { readingId, reason: 'so' });
    expect(settled()).toBe(false);
    decide('take-back', { readingId });
    expect(settled()).toBe(true);
    decide('withdraw', { readingId });
    expect(settled()).toBe(false);
    const run = {
      ...{ round: 2, itemId: items[0]?.id as string, measurandId: measurand.id, levelIds: [] },
    };
    decide('skip', { run });
    expect(settled()).toBe(true);
    decide('unskip', { run });
    expect(settled()).toBe(false);
  });
  it('keeps the runs that nothing happened to, and hands out a list of its own each time', () => {
    const { document, read } = testStudy(['Ama', 'Bel']);
    const planned = plannedRuns(document);
    const grown = () => ({ ...document, readings: [...document.readings] });
    read(0, 1, '7');
    const first = runQueue(grown(), planned);
    read(1, 1, '8');
    const second = runQueue(grown(), planned);
    expect(second.filter((run) => !first.includes(run))).toHaveLength(1);
    second.length = 0;
    expect(runQueue(grown(), planned)).toHaveLength(first.length);
  });
});
