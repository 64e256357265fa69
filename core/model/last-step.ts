import type { Session } from './parts.ts';

/** When something was last done to a session itself, its readings aside, in ms. */
export function lastStep({
  startedAt,
  endedAt,
  pauses,
  conditions,
}: Pick<Session, 'startedAt' | 'endedAt' | 'pauses' | 'conditions'>): number {
  const times = [
    ...[startedAt, endedAt],
    ...pauses.flatMap(({ from, to }) => [from, to]),
    ...conditions.map(({ takenAt }) => takenAt),
  ];
  return times.reduce((last, time) => Math.max(last, time === null ? 0 : Date.parse(time)), 0);
}
