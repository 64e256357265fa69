import { recordOf } from '../record/record.ts';
import type { Item, Level, Measurand, RunRef } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import {
  type PlanOfRuns,
  factorLevels,
  gridCells,
  isMeasuredOn,
  measurandsRead,
  planSize,
  settingKey,
} from '../plan/grid.ts';
import { studyOrder } from '../plan/run-order.ts';
import { type RunRecord, type RunsSeen, runKey, runOfReading, runRecords } from './run-records.ts';

/** One place in the run queue: one item in one round at one setting, one measurand. */
export interface Run extends RunRef, RunRecord {
  key: string;
  item: Item;
  measurand: Measurand;
  /** The levels in the order of the factors. */
  setting: readonly Level[];
  /** Place in the run order, from 0. */
  place: number;
  state: 'to come' | 'done' | 'skipped';
  /** Not part of the plan: added at the bench. */
  added: boolean;
}

/** A run as the plan has it, before anything is read. */
type PlannedRun = Omit<Run, keyof RunRecord | 'state' | 'added'>;

const levelsBySetting = (plan: PlanOfRuns) => {
  const factors = factorLevels(plan);
  const settings = new Map<string, Level[]>();
  return (levelIds: readonly string[]): Level[] => {
    const key = settingKey(levelIds);
    let found = settings.get(key);
    if (!found) {
      found = factors.flatMap(({ levels }) => levels.filter(({ id }) => levelIds.includes(id)));
      settings.set(key, found);
    }
    return found;
  };
};

/**
 * The runs that a plan makes, in order. It takes longer than what the record adds to them, so that it is made once for
 * many readings.
 * @returns nothing for a plan that is refused for its size
 */
export function plannedRuns(plan: PlanOfRuns): PlannedRun[] {
  if (planSize(plan).refused !== undefined) return [];
  const items = new Map(plan.items.map((item) => [item.id, item]));
  const measurands = measurandsRead(plan);
  const settingOf = levelsBySetting(plan);
  return studyOrder(plan)
    .flatMap(({ itemId, levelIds, round }) => {
      const item = items.get(itemId) as Item;
      return measurands
        .filter((measurand) => isMeasuredOn(measurand, item))
        .map((measurand) => ({
          ref: { round, itemId, measurandId: measurand.id, levelIds },
          item,
          measurand,
        }));
    })
    .map(({ ref, item, measurand }, place) => ({
      ...ref,
      key: runKey(ref),
      item,
      measurand,
      setting: settingOf(ref.levelIds),
      place,
    }));
}

/** What decisions say of runs: those that are skipped, and those beyond the plan. */
function decidedRuns(decisions: StudyDocument['decisions']) {
  const skipped = new Set<string>();
  const added = new Map<string, RunRef>();
  for (const { run, action } of decisions) {
    if (!run) continue;
    if (action === 'skip') skipped.add(runKey(run));
    if (action === 'unskip') skipped.delete(runKey(run));
    if (action === 'add-run') added.set(runKey(run), run);
    if (action === 'remove-run') added.delete(runKey(run));
  }
  return { skipped, added };
}

/** A plan of which every run was settled when it was looked at last, and when that was. */
interface SettledPlan {
  plan: PlanOfRuns;
  skipped: ReadonlySet<string>;
  seen: RunsSeen;
}
let settledLast: SettledPlan | undefined;

const isSamePlan = (before: PlanOfRuns, now: PlanOfRuns) =>
  (['study', 'items', 'measurands', 'factors', 'levels'] as const).every(
    (parts) => before[parts] === now[parts],
  );

/** Whether every run of the plan, and every one that was added, has its reading or was skipped. */
export function isEveryRunSettled(document: StudyDocument): boolean {
  const { runs, refused } = planSize(document);
  // With fewer readings and skips than runs there is no need to look.
  if (refused !== undefined || runs === 0) return false;
  if (document.readings.length + document.decisions.length < runs) return false;
  const { skipped, added } = decidedRuns(document.decisions);
  const { of, seen, changedSince } = runRecords(recordOf(document).readings);
  const isSettled = (key: string) => of(key).reading !== undefined || skipped.has(key);
  const { study, items, measurands, factors, levels } = document;
  const itemOf = new Map(items.map((item) => [item.id, item]));
  const read = measurandsRead(document);
  const isPlanSettled = () =>
    gridCells(document).every(({ itemId, levelIds }) => {
      const onItem = read.filter((measurand) => isMeasuredOn(measurand, itemOf.get(itemId) as Item));
      for (let round = 1; round <= study.rounds; round += 1) {
        if (!onItem.every(({ id }) => isSettled(runKey({ round, itemId, measurandId: id, levelIds }))))
          return false;
      }
      return true;
    });
  // A plan that was settled is so still, but for the runs that have changed since.
  const before = settledLast && isSamePlan(settledLast.plan, document) ? settledLast : undefined;
  const changed = before && changedSince(before.seen);
  const isSettledStill = before && changed ? [...changed, ...before.skipped].every(isSettled) : false;
  if (!isSettledStill && !isPlanSettled()) return false;
  settledLast = { plan: { study, items, measurands, factors, levels }, skipped, seen };
  const isGone = ({ itemId, measurandId }: RunRef) =>
    !itemOf.has(itemId) || !read.some(({ id }) => id === measurandId);
  return [...added].every(([key, run]) => isSettled(key) || isGone(run));
}

/** A run with what the record and the decisions say of it. */
function standingRun(run: PlannedRun, record: RunRecord, skipped: ReadonlySet<string>, added: boolean): Run {
  const state = record.reading ? 'done' : skipped.has(run.key) ? 'skipped' : 'to come';
  return { ...run, ...record, state, added };
}

/** The planned part of a queue as it was made last, which the next one takes on where little has changed. */
interface LatestQueue {
  planned: readonly PlannedRun[];
  places: Map<string, number>;
  skipped: ReadonlySet<string>;
  seen: RunsSeen;
  queue: Run[];
}
let latest: LatestQueue | undefined;

function plannedQueue(
  planned: readonly PlannedRun[],
  skipped: ReadonlySet<string>,
  { of, seen, changedSince }: ReturnType<typeof runRecords>,
): Run[] {
  const before = latest;
  const changed =
    before?.planned === planned &&
    before.skipped.size === skipped.size &&
    [...skipped].every((key) => before.skipped.has(key))
      ? changedSince(before.seen)
      : undefined;
  const stateOf = (run: PlannedRun): Run => standingRun(run, of(run.key), skipped, false);
  if (!changed || !before) {
    const queue = planned.map(stateOf);
    const places = new Map(planned.map(({ key }, place) => [key, place]));
    latest = { planned, places, skipped, seen, queue };
    return [...queue];
  }
  const queue = [...before.queue];
  for (const key of changed) {
    const place = before.places.get(key);
    if (place !== undefined) queue[place] = stateOf(planned[place] as PlannedRun);
  }
  latest = { ...before, skipped, seen, queue };
  return [...queue];
}

/**
 * The whole run queue, in order: done, skipped and to come. A misfire leaves its run to come.
 * @param planned the runs of its plan
 * @returns nothing for a plan that is refused for its size
 */
export function runQueue(document: StudyDocument, planned = plannedRuns(document)): Run[] {
  if (planned.length === 0 && planSize(document).refused !== undefined) return [];
  const { skipped, added } = decidedRuns(document.decisions);
  const records = runRecords(recordOf(document).readings);
  const queue = plannedQueue(planned, skipped, records);
  if (added.size === 0) return queue;
  for (const { key } of planned) added.delete(key);
  const settingOf = levelsBySetting(document);
  for (const [key, ref] of added) {
    const item = document.items.find(({ id }) => id === ref.itemId);
    const measurand = measurandsRead(document).find(({ id }) => id === ref.measurandId);
    if (!item || !measurand) continue;
    const setting = settingOf(ref.levelIds);
    const run = { ...ref, key, item, measurand, setting, place: queue.length };
    queue.push(standingRun(run, records.of(key), skipped, true));
  }
  return queue;
}

/** A run beyond the plan: the same item, setting and measurand once more, in a round of its own. */
export function runBeyond(
  document: Pick<StudyDocument, 'readings' | 'study'>,
  queue: readonly Run[],
  { itemId, measurandId, levelIds }: Omit<RunRef, 'round'>,
): RunRef {
  const key = settingKey(levelIds);
  const sameCell = (run: RunRef) =>
    run.itemId === itemId && run.measurandId === measurandId && settingKey(run.levelIds) === key;
  const rounds = [...queue, ...document.readings.map(runOfReading)]
    .filter(sameCell)
    .map(({ round }) => round);
  const round = rounds.reduce((most, taken) => Math.max(most, taken), document.study.rounds) + 1;
  return { round, itemId, measurandId, levelIds: [...levelIds] };
}

/**
 * The first place of the run order that may be put in order again: behind everything that is done or skipped.
 * Places count cells of the order, not readings.
 */
export function firstPlaceToCome(document: StudyDocument): number {
  const settled = new Set(
    runQueue(document)
      .filter(({ state }) => state !== 'to come')
      .map(({ round, itemId, levelIds }) => `${String(round)}/${itemId}/${settingKey(levelIds)}`),
  );
  return (
    studyOrder(document).findLastIndex(({ round, itemId, levelIds }) =>
      settled.has(`${String(round)}/${itemId}/${settingKey(levelIds)}`),
    ) + 1
  );
}
