import { idTime } from '../model/id-time.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { chanceOverLooks, lookLevels } from '../plan/look-levels.ts';
import { plannedLooks } from '../plan/looks.ts';
import type { Run } from './queue.ts';

/** Where a study stands on the way to its answer. */
export interface LookState {
  /** Rounds in which nothing is to come, and rounds planned. */
  complete: number;
  of: number;
  /** Whether the plan is complete, so that the answer is final. */
  final: boolean;
  /** Level at which the pairs are read now. */
  level: number;
  /** Rounds after which the plan looks, the last one included. */
  planned: readonly number[];
  /** Whether a look is planned right now. */
  due: boolean;
  /** The next planned look, undefined behind the last one. */
  next: number | undefined;
  /** How often the ranking was looked at while readings were to come, each state of it once. */
  looked: number;
  /** Chance of a false winner with all looks that were taken and the last one. */
  chance: number;
}

/** A look before this share of the readings is in settles nothing and costs nothing. */
const EARLIEST = 0.05;

/** Level at which the ranking is read after a number of complete rounds: that of the planned look before, or the next. */
function levelAfter(complete: number, planned: readonly number[], levels: readonly number[]): number {
  const passed = planned.findLastIndex((round) => round <= complete);
  return levels[Math.max(0, passed)] as number;
}

const known = new Map<string, { levels: number[]; chance: number }>();

/** Levels and chances are kept, since integrating takes a few milliseconds. */
function levelsAndChance(
  planned: readonly number[],
  of: number,
  { alpha, spending }: { alpha: number; spending: 'late' | 'even' },
  looks: readonly number[],
): { levels: number[]; chance: number } {
  const key = JSON.stringify([planned, of, alpha, spending, looks]);
  let found = known.get(key);
  if (!found) {
    const levels = lookLevels(
      planned.map((round) => round / of),
      alpha,
      spending,
    );
    found = {
      levels,
      chance: chanceOverLooks(
        looks.map((share) => share / of),
        looks.map((share) => levelAfter(share, planned, levels)),
      ),
    };
    if (known.size > 200) known.clear();
    known.set(key, found);
  }
  return found;
}

/** Readings in by the time of each recorded look, as rounds: shares of what the plan asks for. */
function roundsAtLooks(document: StudyDocument, queue: readonly Run[]): number[] {
  const looks = document.decisions.filter(({ action }) => action === 'look').map(({ id }) => idTime(id));
  if (looks.length === 0) return [];
  const planned = queue.filter(({ added }) => !added);
  const taken = planned.flatMap(({ reading }) => (reading ? [idTime(reading.reading.id)] : []));
  const shares = looks.map(
    (look) => taken.filter((time) => time <= look).length / Math.max(1, planned.length),
  );
  return shares
    .filter((share) => share >= EARLIEST && share < 1)
    .map((share) => share * document.study.rounds);
}

/** A study that was made of a table was never planned: what is not in it will not come. */
const isTableAlone = ({ readings }: StudyDocument): boolean =>
  readings.length > 0 && readings.every(({ source, sessionId }) => source === 'import' && sessionId === null);

/**
 * Where a study stands: rounds complete, the level at which its ranking is read now, and what looking has cost.
 * @param queue its run queue
 * @param alpha chance of a false winner that is promised, 0 < alpha < 1
 */
export function lookState(document: StudyDocument, queue: readonly Run[], alpha: number): LookState {
  const { study } = document;
  const of = study.rounds;
  const open = new Set(
    queue.flatMap(({ state, added, round }) => (state === 'to come' && !added ? [round] : [])),
  );
  const complete = Math.max(0, of - open.size);
  const final = queue.length > 0 && (open.size === 0 || isTableAlone(document));
  const planned = plannedLooks(study);
  const before = roundsAtLooks(document, queue);
  // What was looked at is one look, however often the page was opened on the same readings.
  const looked = [...new Set([...before.map((rounds) => Number(rounds.toFixed(4)))])].sort((a, b) => a - b);
  const everything = [...new Set([...looked.filter((rounds) => rounds < of), of])];
  const { levels, chance } = levelsAndChance(
    planned,
    of,
    { alpha, spending: study.looks.spending },
    everything,
  );
  return {
    complete,
    of,
    final,
    level: final ? (levels[levels.length - 1] as number) : levelAfter(complete, planned, levels),
    planned,
    due: !final && planned.includes(complete),
    next: final ? undefined : planned.find((round) => round > complete),
    looked: looked.length,
    chance,
  };
}
