import { type StandingReading, gaveWay, recordOf } from '../record/record.ts';
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

/** One place in the run queue: one item in one round at one setting, one measurand. */
export interface Run extends RunRef {
  key: string;
  item: Item;
  measurand: Measurand;
  /** The levels in the order of the factors. */
  setting: readonly Level[];
  /** Place in the run order, from 0. */
  place: number;
  state: 'to come' | 'done' | 'skipped';
  /** The reading that counts for this run; misfires before it are in the record only. */
  reading: StandingReading | undefined;
  misfires: number;
  /** How often its reading was taken again. */
  takenAgain: number;
  /** Not part of the plan: added at the bench. */
  added: boolean;
}

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

/** A run as the plan has it, before anything is read. */
type PlannedRun = Omit<Run, 'state' | 'reading' | 'misfires' | 'takenAgain' | 'added'>;

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

/** What the record holds of each run, by its key. */
function recordedRuns(document: StudyDocument) {
  const counted = new Map<string, StandingReading>();
  const misfires = new Map<string, number>();
  const again = new Map<string, number>();
  for (const entry of recordOf(document).readings) {
    const key = runKey(runOfReading(entry.reading));
    const { standing } = entry;
    if (standing.is === 'withdrawn') continue;
    if (gaveWay(standing)) {
      if (standing.is === 'left out' && standing.by === 'again') again.set(key, (again.get(key) ?? 0) + 1);
      else misfires.set(key, (misfires.get(key) ?? 0) + 1);
    } else counted.set(key, entry);
  }
  const skipped = new Set<string>();
  const added = new Map<string, RunRef>();
  for (const { run, action } of document.decisions) {
    if (!run) continue;
    if (action === 'skip') skipped.add(runKey(run));
    if (action === 'unskip') skipped.delete(runKey(run));
    if (action === 'add-run') added.set(runKey(run), run);
    if (action === 'remove-run') added.delete(runKey(run));
  }
  return { counted, misfires, again, skipped, added };
}

/** Whether every run of the plan, and every one that was added, has its reading or was skipped. */
export function isEveryRunSettled(document: StudyDocument): boolean {
  const { runs, refused } = planSize(document);
  // With fewer readings and skips than runs there is no need to look.
  if (refused !== undefined || runs === 0) return false;
  if (document.readings.length + document.decisions.length < runs) return false;
  const { counted, skipped, added } = recordedRuns(document);
  const isSettled = (key: string) => counted.has(key) || skipped.has(key);
  const items = new Map(document.items.map((item) => [item.id, item]));
  const measurands = measurandsRead(document);
  const isPlanSettled = gridCells(document).every(({ itemId, levelIds }) => {
    const read = measurands.filter((measurand) => isMeasuredOn(measurand, items.get(itemId) as Item));
    for (let round = 1; round <= document.study.rounds; round += 1) {
      if (!read.every(({ id }) => isSettled(runKey({ round, itemId, measurandId: id, levelIds }))))
        return false;
    }
    return true;
  });
  const isGone = ({ itemId, measurandId }: RunRef) =>
    !items.has(itemId) || !measurands.some(({ id }) => id === measurandId);
  return isPlanSettled && [...added].every(([key, run]) => isSettled(key) || isGone(run));
}

/**
 * The whole run queue, in order: done, skipped and to come. A misfire leaves its run to come.
 * @param planned the runs of its plan
 * @returns nothing for a plan that is refused for its size
 */
export function runQueue(document: StudyDocument, planned = plannedRuns(document)): Run[] {
  if (planned.length === 0 && planSize(document).refused !== undefined) return [];
  const { counted, misfires, again, skipped, added } = recordedRuns(document);
  const stateOf = (run: PlannedRun, beyondPlan: boolean): Run => {
    const reading = counted.get(run.key);
    return {
      ...run,
      state: reading ? 'done' : skipped.has(run.key) ? 'skipped' : 'to come',
      reading,
      misfires: misfires.get(run.key) ?? 0,
      takenAgain: again.get(run.key) ?? 0,
      added: beyondPlan,
    };
  };
  const queue = planned.map((run) => stateOf(run, false));
  if (added.size === 0) return queue;
  for (const { key } of planned) added.delete(key);
  const settingOf = levelsBySetting(document);
  for (const [key, ref] of added) {
    const item = document.items.find(({ id }) => id === ref.itemId);
    const measurand = measurandsRead(document).find(({ id }) => id === ref.measurandId);
    if (!item || !measurand) continue;
    const setting = settingOf(ref.levelIds);
    queue.push(stateOf({ ...ref, key, item, measurand, setting, place: queue.length }, true));
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
  const sameCell = (one: RunRef) =>
    one.itemId === itemId && one.measurandId === measurandId && settingKey(one.levelIds) === key;
  const rounds = [...queue, ...document.readings.map(runOfReading)]
    .filter(sameCell)
    .map(({ round }) => round);
  const round = rounds.reduce((most, one) => Math.max(most, one), document.study.rounds) + 1;
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
