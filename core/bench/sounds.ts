import type { Item, RunRef } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import type { Run } from './queue.ts';
import { type PlaceInQueue, placeBeyond, placeOf } from './tracks.ts';

/** What is known of a sound in a recording that may become a reading. */
export interface Heard {
  /** No reading: a dog, a door. */
  extra: boolean;
  /** Runs before it of which nothing is heard: misfires. */
  missed: number;
  /** An item that was chosen for it; undefined for the one whose turn it is. */
  itemId: string | undefined;
}

/** The run of a sound: whose it is, and where its reading goes. */
export interface HeardRun {
  item: Item;
  place: PlaceInQueue;
}

/**
 * The runs of sounds in the order of a recording: the ones to come of a measurand, in the order of the queue. A sound that
 * is no reading takes none, a missed run is skipped, and an item that was chosen has its next run, or one beyond the plan.
 * @returns a run for each sound, undefined where there is none; and the runs that were missed
 */
export function runsOfSounds(
  document: StudyDocument,
  queue: readonly Run[],
  measurandId: string,
  sounds: readonly Heard[],
): { runs: (HeardRun | undefined)[]; missed: RunRef[] } {
  const waiting = queue.filter((run) => run.measurandId === measurandId && run.state === 'to come');
  const beyond: PlaceInQueue[] = [];
  const missedRuns: RunRef[] = [];
  const take = (run: Run): HeardRun => {
    waiting.splice(waiting.indexOf(run), 1);
    return { item: run.item, place: placeOf(run) };
  };
  const runs = sounds.map(({ extra, missed, itemId }) => {
    missedRuns.push(...waiting.splice(0, missed).map((run) => placeOf(run).ref));
    if (extra) return undefined;
    if (itemId === undefined) return waiting[0] && take(waiting[0]);
    const next = waiting.find((run) => run.itemId === itemId);
    if (next) return take(next);
    const place = placeBeyond(document, queue, measurandId, itemId, beyond);
    const item = document.items.find(({ id }) => id === itemId);
    return place && item ? { item, place } : undefined;
  });
  return { runs, missed: missedRuns };
}
