import type { RunRef } from '../model/parts.ts';
import { settingKey } from '../plan/grid.ts';
import { type StandingReading, gaveWay } from '../record/record.ts';

export const runKey = ({ round, itemId, measurandId, levelIds }: RunRef): string =>
  `${String(round)}/${itemId}/${measurandId}${levelIds.length === 0 ? '' : `/${settingKey(levelIds)}`}`;

/** One list for all runs of studies without factors: its key is made once. */
const NO_LEVELS: string[] = [];

/** The run that a reading was taken for. */
export const runOfReading = ({
  round,
  itemId,
  measurandId,
  levels,
}: Omit<RunRef, 'levelIds'> & { levels: readonly { levelId: string }[] }): RunRef => ({
  round,
  itemId,
  measurandId,
  levelIds: levels.length === 0 ? NO_LEVELS : levels.map(({ levelId }) => levelId).sort(),
});

/** What the record holds of one run. */
export interface RunRecord {
  /** The reading that counts for it; misfires before it are in the record only. */
  reading: StandingReading | undefined;
  misfires: number;
  /** How often its reading was taken again. */
  takenAgain: number;
}

const NOTHING: RunRecord = { reading: undefined, misfires: 0, takenAgain: 0 };

function recordOfRun(entries: readonly StandingReading[]): RunRecord {
  let { reading, misfires, takenAgain } = NOTHING;
  for (const entry of entries) {
    const { standing } = entry;
    if (standing.is === 'withdrawn') continue;
    if (!gaveWay(standing)) reading = entry;
    else if (standing.is === 'left out' && standing.by === 'again') takenAgain += 1;
    else misfires += 1;
  }
  return { reading, misfires, takenAgain };
}

/** The readings of a study by their runs. */
interface Grouped {
  entries: readonly StandingReading[];
  /** The run of each entry. */
  keys: string[];
  byRun: Map<string, StandingReading[]>;
  /** The runs that have changed since all were grouped, in turn. */
  changed: string[];
}

/** What was grouped last: a record that only adds to it, or changes a few, takes it on. */
let latest: Grouped | undefined;

/** More changes than this are grouped from the start. */
const MOST_CHANGED = 1000;
const MOST_KEPT = 100_000;

function add({ keys, byRun }: Grouped, entry: StandingReading): string {
  const key = runKey(runOfReading(entry.reading));
  keys.push(key);
  const ofRun = byRun.get(key);
  if (ofRun) ofRun.push(entry);
  else byRun.set(key, [entry]);
  return key;
}

function grouped(entries: readonly StandingReading[]): Grouped {
  const made: Grouped = { entries, keys: [], byRun: new Map(), changed: [] };
  for (const entry of entries) add(made, entry);
  return made;
}

/** Brings what was grouped last up to date, where that is worth it. */
function takenOn(before: Grouped, entries: readonly StandingReading[]): Grouped | undefined {
  if (entries.length < before.entries.length || before.changed.length > MOST_KEPT) return undefined;
  const others: number[] = [];
  for (let i = 0; i < before.entries.length; i += 1) {
    if (entries[i] === before.entries[i]) continue;
    if (entries[i]?.reading !== before.entries[i]?.reading || others.length === MOST_CHANGED)
      return undefined;
    others.push(i);
  }
  const { keys, byRun, changed } = before;
  for (const i of others) {
    const key = keys[i] as string;
    const ofRun = byRun.get(key) as StandingReading[];
    ofRun[ofRun.indexOf(before.entries[i] as StandingReading)] = entries[i] as StandingReading;
    changed.push(key);
  }
  for (const entry of entries.slice(before.entries.length)) changed.push(add(before, entry));
  return { ...before, entries };
}

/** A moment in the life of what was grouped. */
export interface RunsSeen {
  grouping: unknown;
  changes: number;
}

/**
 * What the record holds of each run, by its key. It holds until this is asked of another record.
 * @param entries of a record, in the order recorded
 */
export function runRecords(entries: readonly StandingReading[]): {
  of: (key: string) => RunRecord;
  seen: RunsSeen;
  /** The runs that have changed since a moment; undefined where that may be any. */
  changedSince: (moment: RunsSeen) => readonly string[] | undefined;
} {
  latest = (latest && takenOn(latest, entries)) ?? grouped(entries);
  const { byRun, changed } = latest;
  return {
    of: (key) => {
      const ofRun = byRun.get(key);
      return ofRun ? recordOfRun(ofRun) : NOTHING;
    },
    seen: { grouping: byRun, changes: changed.length },
    changedSince: ({ grouping, changes }) => (grouping === byRun ? changed.slice(changes) : undefined),
  };
}
