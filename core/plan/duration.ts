import { counted } from '../quantity/format.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { isMeasuredOn, measurandsRead, settingKey } from './grid.ts';
import { type OrderedRun, plannedOrder } from './run-order.ts';

/** How much work a plan is. */
export interface Workload {
  rounds: number;
  /** How often the item changes, the first one counted. */
  itemChanges: number;
  /** How often a level changes, the first setting counted where there are levels. */
  levelChanges: number;
  /** Readings of each measurand, with what one of them takes. */
  readings: readonly { measurand: string; count: number; eachS: number }[];
}

/** What the work takes besides the readings, in seconds but for the sessions a day. */
export interface WorkTimes {
  setupS: number;
  levelS: number;
  roundWaitS: number;
  sessionS: number;
  sessionsPerDay: number;
  /** Waits of the procedure, summed by when they come. */
  waitS: Record<'session' | 'item' | 'reading', number>;
}

export interface Duration {
  totalS: number;
  sessions: number;
  days: number;
  /** Each kind of work with its share of the time, largest first. */
  shares: { what: string; seconds: number; share: number }[];
}

/**
 * How long a plan takes, by straight addition: readings, changes of item and level, and waits.
 * @source common practice, no source
 * @example 48 readings of 20 s and 48 changes of 25 s are 36 min
 */
export function planDuration(
  { rounds, itemChanges, levelChanges, readings }: Workload,
  times: WorkTimes,
): Duration {
  const count = readings.reduce((sum, { count: n }) => sum + n, 0);
  const parts = [
    ...readings.map(({ measurand, count: n, eachS }) => ({
      what: readings.length > 1 ? `readings of ${measurand}` : 'readings',
      seconds: n * eachS,
    })),
    { what: 'changing items', seconds: itemChanges * times.setupS },
    { what: 'changing levels', seconds: levelChanges * times.levelS },
    { what: 'waits between rounds', seconds: Math.max(0, rounds - 1) * times.roundWaitS },
    {
      what: 'waits of the procedure',
      seconds: itemChanges * times.waitS.item + count * times.waitS.reading,
    },
  ];
  const workS = parts.reduce((sum, { seconds }) => sum + seconds, 0);
  // What is waited for at the start of each session leaves less of it for the work.
  const sessions = Math.max(1, Math.ceil(workS / Math.max(60, times.sessionS - times.waitS.session)));
  parts.push({
    what: 'waits at the start of sessions',
    seconds: workS > 0 ? sessions * times.waitS.session : 0,
  });
  const totalS = parts.reduce((sum, { seconds }) => sum + seconds, 0);
  return {
    totalS,
    sessions,
    days: Math.ceil(sessions / times.sessionsPerDay),
    shares: parts
      .map((part) => ({ ...part, share: totalS > 0 ? part.seconds / totalS : 0 }))
      .sort((a, b) => b.seconds - a.seconds),
  };
}

/** The work that a study's plan is, from its run order. */
export function workloadOf(document: StudyDocument, order: readonly OrderedRun[]): Workload {
  let itemChanges = 0;
  let levelChanges = 0;
  order.forEach(({ itemId, levelIds }, i) => {
    const before = order[i - 1];
    if (before?.itemId !== itemId) itemChanges += 1;
    if (levelIds.length > 0 && settingKey(levelIds) !== settingKey(before?.levelIds ?? [])) levelChanges += 1;
  });
  const perItem = new Map<string, number>();
  for (const { itemId } of order) perItem.set(itemId, (perItem.get(itemId) ?? 0) + 1);
  return {
    rounds: document.study.rounds,
    itemChanges,
    levelChanges,
    readings: measurandsRead(document).map((measurand) => ({
      measurand: measurand.name,
      eachS: measurand.readingS,
      count: document.items.reduce(
        (sum, item) => sum + (isMeasuredOn(measurand, item) ? (perItem.get(item.id) ?? 0) : 0),
        0,
      ),
    })),
  };
}

/** How long a study's plan takes. */
export function studyDuration(
  document: StudyDocument,
  order: readonly OrderedRun[] = plannedOrder(document),
): Duration {
  const { timing, procedure } = document.study;
  const waitS = { session: 0, item: 0, reading: 0 };
  for (const { when, durationS } of procedure.waits) waitS[when] += durationS;
  return planDuration(workloadOf(document, order), { ...timing, waitS });
}

/** “36 minutes”, “2 hours 5 minutes”. */
export function spokenDuration(seconds: number): string {
  const minutes = Math.max(1, Math.round(seconds / 60));
  const hours = Math.floor(minutes / 60);
  const rest = minutes % 60;
  if (hours === 0) return counted(minutes, 'minute');
  return rest === 0 ? counted(hours, 'hour') : `${counted(hours, 'hour')} ${counted(rest, 'minute')}`;
}
