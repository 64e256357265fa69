import type { Observation } from '../../../core/observations/observation.ts';
import type { Session } from '../../../core/model/parts.ts';
import type { StripLane } from '../../strip/layout.ts';
import { dayAndTime } from '../../ui/when.ts';

/** More rounds than this are not offered one by one. */
const MOST_ROUNDS = 60;

/** Readings that can be looked at by themselves. */
export interface SomeReadings {
  value: string;
  label: string;
  holds: (reading: Observation) => boolean;
}

/** The sessions and the rounds of a measurand's readings, where there are several. */
export function someReadings(readings: readonly Observation[], sessions: readonly Session[]): SomeReadings[] {
  const seen = new Set(readings.map(({ sessionId }) => sessionId));
  const held = sessions.filter(({ id }) => seen.has(id));
  const rounds = [...new Set(readings.map(({ round }) => round))].sort((a, b) => a - b);
  return [
    ...(held.length > 1 ? held : []).map(({ id, startedAt }) => ({
      value: `session ${id}`,
      label: `Session of ${dayAndTime(startedAt)}`,
      holds: ({ sessionId }: Observation) => sessionId === id,
    })),
    ...(rounds.length > 1 && rounds.length <= MOST_ROUNDS ? rounds : []).map((round) => ({
      value: `round ${String(round)}`,
      label: `Round ${String(round)}`,
      holds: (reading: Observation) => reading.round === round,
    })),
  ];
}

/** Lanes with some of their readings; means and intervals stay those of all. */
export function lanesOfSome(
  lanes: readonly StripLane[],
  readings: readonly Observation[],
  { holds }: SomeReadings,
): StripLane[] {
  const shown = new Set(readings.filter(holds).map(({ id }) => id));
  return lanes.map((lane) => ({ ...lane, marks: lane.marks.filter(({ id }) => shown.has(id)) }));
}
