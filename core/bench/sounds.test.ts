import { describe, expect, it } from 'vitest';
import flasks from '../../demo/vacuum-flasks.json' with { type: 'json' };
import type { StudyDocument } from '../model/study-document.ts';
import { runQueue } from './queue.ts';
import { type Heard, runsOfSounds } from './sounds.ts';

const STUDY = flasks as unknown as StudyDocument;
const OPEN: StudyDocument = { ...STUDY, readings: [], decisions: [], study: { ...STUDY.study, rounds: 2 } };
const queue = runQueue(OPEN);
const measurandId = queue[0]?.measurandId ?? '';
const waiting = queue.filter((run) => run.measurandId === measurandId);
const SOUND: Heard = { extra: false, missed: 0, itemId: undefined };
const runsOf = (...changes: Partial<Heard>[]) =>
  runsOfSounds(
    OPEN,
    queue,
    measurandId,
    changes.map((change) => ({ ...SOUND, ...change })),
  ).runs;
const places = (...changes: Partial<Heard>[]) =>
  runsOf(...changes).map((run) => run && waiting.findIndex(({ place }) => place === run.place.place));

describe('the runs of sounds', () => {
  it('are those to come, in the order of the queue', () => {
    expect(places({}, {}, {})).toEqual([0, 1, 2]);
    expect(runsOf({})[0]?.item.id).toBe(waiting[0]?.itemId);
  });
  it('are none of what is no reading, and leave out what was missed', () => {
    expect(places({}, { extra: true }, {})).toEqual([0, undefined, 1]);
    expect(places({}, { missed: 1 }, {})).toEqual([0, 2, 3]);
    const { missed } = runsOfSounds(OPEN, queue, measurandId, [SOUND, { ...SOUND, missed: 2 }]);
    expect(missed.map(({ itemId, round }) => [itemId, round])).toEqual(
      waiting.slice(1, 3).map(({ itemId, round }) => [itemId, round]),
    );
    // A run that was missed before what is no reading was missed all the same.
    expect(places({ extra: true, missed: 1 }, {})).toEqual([undefined, 1]);
  });
  it('are the next of an item that was chosen, and go on with the others', () => {
    const third = waiting[2]?.itemId ?? '';
    expect(places({ itemId: third }, {}, {}, {})).toEqual([2, 0, 1, 3]);
  });
  it('are beyond the plan where none of an item is left, and none where no item is chosen', () => {
    const { itemId } = waiting[0] ?? { itemId: '' };
    const chosen = runsOf({ itemId }, { itemId }, { itemId }, { itemId });
    expect(chosen.map((run) => [run?.place.ref.round, run?.place.added])).toEqual([
      [1, false],
      [2, false],
      [3, true],
      [4, true],
    ]);
    expect(places({ missed: waiting.length }, {})).toEqual([undefined, undefined]);
    expect(runsOf({ itemId: 'another' })).toEqual([undefined]);
  });
});
