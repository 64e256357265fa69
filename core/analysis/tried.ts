import type { Decision, Item } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { placeRange } from '../rank/place.ts';
import type { SettingAnalysis } from './analyse-study.ts';
import { groupsOf } from './at-setting.ts';

/** What can be decided of a reading on the screen. */
export type TriedAction = Extract<Decision['action'], 'leave-out' | 'take-back' | 'keep'>;

/** A study as it would be if something were decided of some readings, to see what that would change. */
export function asIfDecided(
  document: StudyDocument,
  readingIds: readonly string[],
  action: TriedAction,
): StudyDocument {
  const { id: studyId, updatedAt } = document.study;
  return {
    ...document,
    decisions: [
      ...document.decisions,
      ...readingIds.map((readingId, i): Decision => ({
        ...{ id: `tried-${String(i)}`, studyId, version: 1, createdAt: updatedAt, updatedAt },
        ...{ action, readingId, sessionId: null, run: null, reason: 'tried', decidedAt: updatedAt },
      })),
    ],
  };
}

/** What is known of an item: as many readings, their mean and spread, and its places where it is ranked. */
export interface ItemState {
  n: number;
  mean: number | null;
  sd: number | null;
  places: string;
}

export interface ItemChange {
  item: Item;
  before: ItemState;
  after: ItemState;
}

/** The state of every item at a setting, by its id. */
function statesOf(analysis: SettingAnalysis): Map<string, { item: Item; state: ItemState }> {
  const states = new Map<string, { item: Item; state: ItemState }>();
  for (const { items, analysis: of, signed } of groupsOf(analysis)) {
    items.forEach((item, i) => {
      const { summary } = of.items[i] ?? {};
      const ranked = of.ranking.find(({ index }) => index === i);
      const { n = 0, mean = null, sd = null } = signed?.[i] ?? summary ?? {};
      states.set(item.id, { item, state: { n, mean, sd, places: ranked ? placeRange(ranked) : '' } });
    });
  }
  return states;
}

/** The items of which anything is another one, in the order of the plan. */
export function changesBetween(before: SettingAnalysis, after: SettingAnalysis): ItemChange[] {
  const then = statesOf(after);
  return [...statesOf(before).values()].flatMap(({ item, state }): ItemChange[] => {
    const other = then.get(item.id)?.state;
    if (!other) return [];
    const same = (['n', 'mean', 'sd', 'places'] as const).every((name) => state[name] === other[name]);
    return same ? [] : [{ item, before: state, after: other }];
  });
}
