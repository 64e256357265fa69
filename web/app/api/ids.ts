import { v7 } from 'uuid';
import { idTime } from '../../../core/model/id-time.ts';

/**
 * An id that sorts behind all that are known, also after the clock was set back: the record is read in the order of
 * its ids, and undo takes back the last one.
 * @param known ids of what was recorded before
 * @param now the time in ms
 */
export function idBehind(known: readonly string[], now = Date.now()): string {
  const latest = known.reduce((most, id) => Math.max(most, idTime(id)), 0);
  return v7({ msecs: Math.max(now, latest + 1) });
}
