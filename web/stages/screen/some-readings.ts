import type { Observation } from '../../../core/observations/observation.ts';
import type { Session } from '../../../core/model/parts.ts';
import type { StripLane } from '../../strip/layout.ts';
import { dayAndTime } from '../../ui/when.ts';

/** More rounds than this are not offered one by one. */
const MOST_ROUNDS = 60;

/** Readings that belong together: those of a round or of a session. */
export interface SomeReadings {
  value: string;
  label: string;
  ids: string[];
}

/** Ids of readings by something that they share. */
function idsBy<Key>(
  readings: readonly Observation[],
  keyOf: (reading: Observation) => Key,
): Map<Key, string[]> {
  const groups = new Map<Key, string[]>();
  for (const reading of readings) {
    const ids = groups.get(keyOf(reading));
    if (ids) ids.push(reading.id);
    else groups.set(keyOf(reading), [reading.id]);
  }
  return groups;
}

/** The rounds of readings, in order, and the sessions in which they were taken. */
export function partsOf(
  readings: readonly Observation[],
  sessions: readonly Session[],
): { rounds: SomeReadings[]; sessions: SomeReadings[] } {
  const inSessions = idsBy(readings, ({ sessionId }) => sessionId);
  return {
    rounds: [...idsBy(readings, ({ round }) => round)]
      .sort(([a], [b]) => a - b)
      .map(([round, ids]) => ({ value: `round ${String(round)}`, label: `Round ${String(round)}`, ids })),
    sessions: sessions.flatMap(({ id, startedAt }) => {
      const ids = inSessions.get(id);
      return ids ? [{ value: `session ${id}`, label: `Session of ${dayAndTime(startedAt)}`, ids }] : [];
    }),
  };
}

/** Whether readings are of several rounds, and of few enough that each is offered. */
function isOfferedByRound(readings: readonly Observation[]): boolean {
  const rounds = new Set<number>();
  for (const { round } of readings) {
    rounds.add(round);
    if (rounds.size > MOST_ROUNDS) return false;
  }
  return rounds.size > 1;
}

/** The sessions and the rounds of a measurand's readings, where there are several. */
export function someReadings(readings: readonly Observation[], sessions: readonly Session[]): SomeReadings[] {
  const byRound = isOfferedByRound(readings);
  if (!byRound && sessions.length < 2) return [];
  const parts = partsOf(readings, sessions);
  return [...(parts.sessions.length > 1 ? parts.sessions : []), ...(byRound ? parts.rounds : [])];
}

/** Lanes with some of their readings; means and intervals stay those of all. */
export function lanesOfSome(lanes: readonly StripLane[], { ids }: SomeReadings): StripLane[] {
  const shown = new Set(ids);
  return lanes.map((lane) => ({ ...lane, marks: lane.marks.filter(({ id }) => shown.has(id)) }));
}
