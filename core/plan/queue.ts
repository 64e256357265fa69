import { type StandingReading, itemsInOrder, measurandsInOrder, standingReadings } from '../model/record.ts';
import type { Item, Measurand, RunRef } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { runOrder } from './run-order.ts';

/** One place in the run queue: one item in one round, one measurand. */
export interface Run extends RunRef {
  key: string;
  item: Item;
  measurand: Measurand;
  /** Place in the run order, from 0. */
  place: number;
  state: 'to come' | 'done' | 'skipped';
  /** The reading that counts for this run; misfires before it are in the record only. */
  reading: StandingReading | undefined;
  misfires: number;
}

export const runKey = ({ round, itemId, measurandId }: RunRef): string =>
  `${String(round)}/${itemId}/${measurandId}`;

/** The whole run queue, in order: done, skipped and to come. A misfire leaves its run to come. */
export function runQueue(document: StudyDocument): Run[] {
  const items = new Map(document.items.map((item) => [item.id, item]));
  const measurands = measurandsInOrder(document);
  const counted = new Map<string, StandingReading>();
  const misfires = new Map<string, number>();
  for (const entry of standingReadings(document)) {
    const key = runKey(entry.reading);
    const { standing } = entry;
    if (standing.is === 'withdrawn') continue;
    if (standing.is === 'left out' && standing.by === 'misfire') {
      misfires.set(key, (misfires.get(key) ?? 0) + 1);
    } else counted.set(key, entry);
  }
  const skipped = new Set<string>();
  for (const { run, action } of document.decisions) {
    if (!run) continue;
    if (action === 'skip') skipped.add(runKey(run));
    if (action === 'unskip') skipped.delete(runKey(run));
  }
  const queue: Run[] = [];
  const order = runOrder({
    kind: document.study.runOrder,
    itemIds: itemsInOrder(document).map(({ id }) => id),
    rounds: document.study.rounds,
    seed: document.study.seed,
  });
  for (const { itemId, round } of order) {
    for (const measurand of measurands) {
      const ref = { round, itemId, measurandId: measurand.id };
      const key = runKey(ref);
      const reading = counted.get(key);
      queue.push({
        ...ref,
        key,
        item: items.get(itemId) as Item,
        measurand,
        place: queue.length,
        state: reading ? 'done' : skipped.has(key) ? 'skipped' : 'to come',
        reading,
        misfires: misfires.get(key) ?? 0,
      });
    }
  }
  return queue;
}
