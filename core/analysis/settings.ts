import type { Level, Reading } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { factorLevels, levelIdsOf, settingKey, settingWords } from '../plan/grid.ts';

/** One combination of levels: its key, its levels in the order of the factors, and both in words. */
export interface StudySetting {
  key: string;
  levels: readonly Level[];
  words: string;
}

type LevelsRead = Reading['levels'];

/** The levels that are together in a list, which only grows, each combination once. */
interface Together {
  count: number;
  combinations: Map<string, LevelsRead>;
}
const together = new WeakMap<readonly object[], Together>();

function combinationsIn(list: readonly { levels: LevelsRead }[]): Together['combinations'] {
  const { count, combinations } = together.get(list) ?? {
    count: 0,
    combinations: new Map<string, LevelsRead>(),
  };
  for (let i = count; i < list.length; i += 1) {
    const { levels } = list[i] as { levels: LevelsRead };
    const key = levels.length === 0 ? '' : settingKey(levels.map(({ levelId }) => levelId));
    if (!combinations.has(key)) combinations.set(key, levels);
  }
  together.set(list, { count: list.length, combinations });
  return combinations;
}

/**
 * The settings at which something was read or is known from elsewhere, in the order of the plan; where nothing was read yet, the baseline levels
 * together. Without factors there is one, with an empty key.
 */
export function settingsRead(document: StudyDocument): StudySetting[] {
  const factors = factorLevels(document);
  const place = new Map(factors.flatMap(({ levels }) => levels.map((level, i) => [level.id, i] as const)));
  const seen = new Map<string, readonly Level[]>();
  for (const list of [document.readings, document.figures])
    for (const [key, levels] of combinationsIn(list)) {
      const read = new Set(levels.map(({ levelId }) => levelId));
      seen.set(
        key,
        factors.flatMap((factor) => factor.levels.filter(({ id }) => read.has(id))),
      );
    }
  if (seen.size === 0) {
    const baseline = factors.map((factor) => factor.baseline);
    seen.set(settingKey(levelIdsOf(baseline)), baseline);
  }
  const placesOf = (levels: readonly Level[]) => levels.map(({ id }) => place.get(id) as number);
  return [...seen]
    .map(([key, levels]) => ({ key, levels, words: settingWords(levels) }))
    .sort((a, b) => {
      const [left, right] = [placesOf(a.levels), placesOf(b.levels)];
      const differs = left.findIndex((levelPlace, i) => levelPlace !== right[i]);
      return differs === -1 ? 0 : (left[differs] as number) - (right[differs] as number);
    });
}
