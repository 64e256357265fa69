import type { Item, RunRef } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { type Run, runBeyond } from './queue.ts';
import { runKey } from './run-records.ts';

/** A column of a file that a reading can be worked out from. */
export interface Track {
  key: string;
  fileId: string;
  /** Name of its file, which another may have too. */
  file: string;
  column: string;
}

/** Words of a name without case and signs, with a space at either end. */
const plain = (text: string): string =>
  ` ${text
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim()} `;

/** The item whose name is in a text: the longest. */
export function itemNamed(text: string, items: readonly Item[]): Item | undefined {
  const inText = plain(text);
  return items
    .filter(({ name }) => plain(name).trim() !== '' && inText.includes(plain(name)))
    .sort((a, b) => b.name.length - a.name.length)[0];
}

/** The item that a text names: by its name, or by its code. */
const namedIn = (text: string, items: readonly Item[]): Item | undefined =>
  itemNamed(text, items) ?? items.find(({ code }) => plain(text).includes(plain(code)));

/**
 * The item of each track: the one that its column names, or its file; where a file names none, its columns are taken in
 * the order of the run queue.
 * @returns item ids by the tracks' keys; tracks that are no item's are not in it
 */
export function proposedItems(
  tracks: readonly Track[],
  items: readonly Item[],
  queue: readonly Run[],
  measurandId: string,
): Map<string, string> {
  const proposed = new Map<string, string>();
  const columns = new Map<string, number>();
  for (const { fileId } of tracks) columns.set(fileId, (columns.get(fileId) ?? 0) + 1);
  const speaking = new Set<string>();
  for (const { key, column, fileId, file } of tracks) {
    const item = namedIn(column, items) ?? (columns.get(fileId) === 1 ? namedIn(file, items) : undefined);
    if (!item) continue;
    proposed.set(key, item.id);
    speaking.add(fileId);
  }
  const used = new Set(proposed.values());
  const waiting = new Set(
    queue
      .filter((run) => run.measurandId === measurandId && run.state === 'to come' && !used.has(run.itemId))
      .map(({ itemId }) => itemId),
  );
  const next = waiting.values();
  for (const { key, fileId } of tracks) {
    if (speaking.has(fileId)) continue;
    const { value: itemId } = next.next();
    if (itemId !== undefined) proposed.set(key, itemId);
  }
  return proposed;
}

/** Where a reading of a track goes in the queue. */
export interface PlaceInQueue {
  ref: RunRef;
  place: number;
  setting: Run['setting'];
  /** Beyond the plan. */
  added: boolean;
}

/** Where the reading of a run to come goes. */
export const placeOf = ({ round, itemId, measurandId, levelIds, place, setting }: Run): PlaceInQueue => ({
  ref: { round, itemId, measurandId, levelIds },
  place,
  setting,
  added: false,
});

/**
 * Where one more reading of an item goes, beyond the plan; undefined where the measurand is not read on it.
 * @param beyond places beyond the plan that were given before, to which this one is added
 */
export function placeBeyond(
  document: StudyDocument,
  queue: readonly Run[],
  measurandId: string,
  itemId: string,
  beyond: PlaceInQueue[],
): PlaceInQueue | undefined {
  const like = queue.findLast((run) => run.itemId === itemId && run.measurandId === measurandId);
  if (!like) return undefined;
  const asRuns = beyond.map(({ ref }) => ({ ...like, ...ref, key: runKey(ref) }));
  const ref = runBeyond(document, [...queue, ...asRuns], like);
  const given = { ref, place: queue.length + beyond.length, setting: like.setting, added: true };
  beyond.push(given);
  return given;
}

/**
 * The runs that readings of items go to: the next one to come of each, and one beyond the plan where none is left.
 * @param itemIds in the order of the readings
 */
export function placesInQueue(
  document: StudyDocument,
  queue: readonly Run[],
  measurandId: string,
  itemIds: readonly string[],
): (PlaceInQueue | undefined)[] {
  const taken = new Set<string>();
  const beyond: PlaceInQueue[] = [];
  return itemIds.map((itemId) => {
    const ofItem = queue.filter((run) => run.itemId === itemId && run.measurandId === measurandId);
    const run = ofItem.find(({ state, key }) => state === 'to come' && !taken.has(key));
    if (!run) return placeBeyond(document, queue, measurandId, itemId, beyond);
    taken.add(run.key);
    return placeOf(run);
  });
}
