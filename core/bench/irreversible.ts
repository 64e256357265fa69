import type { Level } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { irreversibleFactor, settingWords } from '../plan/grid.ts';
import { counted, wordFor } from '../quantity/format.ts';
import type { Run } from './queue.ts';

type Plan = Pick<StudyDocument, 'factors' | 'levels'>;

/** Consecutive runs of the queue under one heading. */
export interface QueueGroup {
  key: string;
  title: string;
  runs: Run[];
}

/**
 * The queue as it is worked through: round by round, and all rounds of an earlier level before those of a later one
 * where that cannot be undone. Shuffled as a whole it has no rounds that follow each other, and one heading.
 */
export function queueGroups(plan: Plan & Pick<StudyDocument, 'study'>, queue: readonly Run[]): QueueGroup[] {
  const irreversible = irreversibleFactor(plan);
  const last = queue.reduce((most, { round }) => Math.max(most, round), 0);
  const shuffled = plan.study.runOrder === 'full-shuffle';
  const groups: QueueGroup[] = [];
  for (const run of queue) {
    const level = irreversible?.levels.find(({ id }) => run.levelIds.includes(id));
    const round = shuffled && !run.added ? 'In this order' : `Round ${String(run.round)} of ${String(last)}`;
    const title = level ? `${level.name}: ${round.toLowerCase()}` : round;
    const group = groups.at(-1);
    if (group?.title === title) group.runs.push(run);
    else groups.push({ key: run.key, title, runs: [run] });
  }
  return groups;
}

/** What is lost where a level that cannot be undone is opened before the earlier ones are read. */
export interface OpeningEarly {
  level: Level;
  /** Runs of the item at earlier levels that are not read. */
  lost: Run[];
}

/**
 * Whether a run would take an item to a level from which there is no way back while it has runs at earlier ones left.
 * @returns undefined where nothing would be lost, or the item is there already
 */
export function openingEarly(plan: Plan, queue: readonly Run[], run: Run): OpeningEarly | undefined {
  const { levels = [] } = irreversibleFactor(plan) ?? {};
  const placeOf = ({ levelIds }: Run) => levels.findIndex(({ id }) => levelIds.includes(id));
  const place = placeOf(run);
  const level = levels[place];
  if (place < 1 || !level || run.state === 'done') return undefined;
  const runsOfItem = queue.filter(({ itemId }) => itemId === run.itemId);
  if (runsOfItem.some((other) => other.state === 'done' && placeOf(other) >= place)) return undefined;
  const lost = runsOfItem.filter((other) => other.state !== 'done' && placeOf(other) < place);
  return lost.length > 0 ? { level, lost } : undefined;
}

/** What would be lost, in a sentence. */
export function openingEarlyWords({ level, lost }: OpeningEarly): string {
  const settings = [...new Set(lost.map(({ setting }) => settingWords(setting)))];
  const skipped = lost.filter(({ state }) => state === 'skipped').length;
  const [are, them] = [wordFor(lost.length, 'is', 'are'), wordFor(lost.length, 'it', 'them')];
  return `${counted(lost.length, 'reading')} of ${lost[0]?.item.name ?? 'it'} at ${settings.join(' and ')} ${are} not taken${skipped > 0 ? `, ${String(skipped)} of them skipped` : ''}. At ${level.name} there is no way back to ${them}.`;
}
