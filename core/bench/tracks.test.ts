import { describe, expect, it } from 'vitest';
import flasks from '../../demo/vacuum-flasks.json' with { type: 'json' };
import type { StudyDocument } from '../model/study-document.ts';
import { runQueue } from './queue.ts';
import { itemNamed, placesInQueue, proposedItems } from './tracks.ts';

const STUDY = flasks as unknown as StudyDocument;
const OPEN: StudyDocument = { ...STUDY, readings: [], decisions: [], study: { ...STUDY.study, rounds: 2 } };
const queue = runQueue(OPEN);
const [first, second, third] = OPEN.items as [
  StudyDocument['items'][number],
  StudyDocument['items'][number],
  StudyDocument['items'][number],
];
const measurandId = queue[0]?.measurandId ?? '';
const track = (file: string, column: string, fileId = file) => ({
  ...{ key: `${fileId}/${column}`, fileId, file, column },
});

describe('items of tracks', () => {
  it('are those that their columns name, in any case and spelling, or by their codes', () => {
    const tracks = [
      track('night.csv', `${first.name.toUpperCase()} (°C)`),
      track('night.csv', `probe_${second.code.toLowerCase()}`),
      track('night.csv', 'Room (°C)'),
    ];
    expect([...proposedItems(tracks, OPEN.items, queue, measurandId)]).toEqual([
      [tracks[0]?.key, first.id],
      [tracks[1]?.key, second.id],
    ]);
  });
  it('is the one that a file names, where it has one column', () => {
    const tracks = [track(`${third.name} 2.csv`, 'Channel 1'), track(`${first.name}.csv`, 'Channel 1')];
    expect([...proposedItems(tracks, OPEN.items, queue, measurandId).values()]).toEqual([third.id, first.id]);
  });
  it('are looked for in each file by itself, though two are called the same', () => {
    const tracks = ['a', 'b'].map((fileId) => track(`${first.name}.csv`, 'Channel 1', fileId));
    expect([...proposedItems(tracks, OPEN.items, queue, measurandId).values()]).toEqual([first.id, first.id]);
  });
  it('are none that another track names, none that was read, and none of another measurand', () => {
    const inState = (run: (typeof queue)[number], state: string) =>
      ({ ...run, state }) as (typeof queue)[number];
    const mine = queue.filter((run) => run.measurandId === measurandId);
    const runs = [
      inState(
        { ...(mine[0] as (typeof queue)[number]), itemId: third.id, measurandId: 'another' },
        'to come',
      ),
      ...mine.map((run) => inState(run, run.itemId === second.id ? 'done' : 'to come')),
    ];
    const tracks = [track('night.csv', first.name), track('log.csv', 'Ch 1'), track('log.csv', 'Ch 2')];
    const [named, ...others] = [...proposedItems(tracks, OPEN.items, runs, measurandId).values()];
    expect(named).toBe(first.id);
    const left = [...new Set(mine.map(({ itemId }) => itemId))].filter(
      (id) => id !== first.id && id !== second.id,
    );
    expect(others).toEqual(left.slice(0, 2));
  });
  it('come in the order of the queue where nothing names any', () => {
    const tracks = ['Ch 1', 'Ch 2'].map((column) => track('log.csv', column));
    const next = [
      ...new Set(queue.filter((run) => run.measurandId === measurandId).map(({ itemId }) => itemId)),
    ];
    expect([...proposedItems(tracks, OPEN.items, queue, measurandId).values()]).toEqual(next.slice(0, 2));
  });
});

describe('the item that a file is called after', () => {
  it('is the one whose name is in it, the longest, and none by a code alone', () => {
    const named = (text: string, items = OPEN.items) => itemNamed(text, items)?.name;
    expect(named(`2026-06-15 ${first.name.toUpperCase()} take 2`)).toBe(first.name);
    expect(named(`take ${first.code}`)).toBeUndefined();
    const longer = { ...second, name: `${first.name} Mini` };
    expect(named(`${first.name} mini`, [first, longer])).toBe(longer.name);
    expect(named('round-2')).toBeUndefined();
  });
});

describe('runs of tracks', () => {
  it('are the next to come of each item, then runs beyond the plan', () => {
    const ids = [first.id, first.id, first.id, first.id, second.id];
    const places = placesInQueue(OPEN, queue, measurandId, ids);
    expect(places.map((place) => [place?.ref.itemId === first.id, place?.ref.round, place?.added])).toEqual([
      [true, 1, false],
      [true, 2, false],
      [true, 3, true],
      [true, 4, true],
      [false, 1, false],
    ]);
    expect(new Set(places.map((place) => place?.place)).size).toBe(5);
  });
  it('are none of an item that is not measured so', () => {
    expect(placesInQueue(OPEN, queue, 'another', [first.id])).toEqual([undefined]);
  });
});
