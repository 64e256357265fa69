import type { Timing } from '../model/parts.ts';

/** How much work a plan is. */
export interface Workload {
  rounds: number;
  /** Item changes: one for each item in each round. */
  changes: number;
  readings: number;
}

export interface Duration {
  totalS: number;
  sessions: number;
  days: number;
  /** Each kind of work with its share of the time, largest first. */
  shares: { what: 'readings' | 'changing items' | 'waits between rounds'; seconds: number; share: number }[];
}

/**
 * How long a plan takes, by straight addition: readings, changes of item, and a wait between rounds.
 * @source common practice, no source
 * @example 48 readings of 20 s and 48 changes of 25 s are 36 min
 */
export function planDuration({ rounds, changes, readings }: Workload, timing: Timing): Duration {
  const parts = [
    { what: 'readings' as const, seconds: readings * timing.readingS },
    { what: 'changing items' as const, seconds: changes * timing.setupS },
    { what: 'waits between rounds' as const, seconds: Math.max(0, rounds - 1) * timing.roundWaitS },
  ];
  const totalS = parts.reduce((sum, { seconds }) => sum + seconds, 0);
  const sessions = Math.max(1, Math.ceil(totalS / timing.sessionS));
  return {
    totalS,
    sessions,
    days: Math.ceil(sessions / timing.sessionsPerDay),
    shares: parts
      .map((part) => ({ ...part, share: totalS > 0 ? part.seconds / totalS : 0 }))
      .sort((a, b) => b.seconds - a.seconds),
  };
}
