import { inOrder, itemsInOrder, measurandsInOrder } from '../model/in-order.ts';
import type { Factor, Item, Level, Measurand } from '../model/parts.ts';
import type { Cell } from '../model/study.ts';
import type { StudyDocument } from '../model/study-document.ts';

/** More runs than this are refused: no bench gets through them, and no page shows them. */
export const MOST_RUNS = 20000;

/** What the runs of a plan follow from. */
export type PlanOfRuns = Pick<StudyDocument, 'study' | 'items' | 'measurands' | 'factors' | 'levels'>;

/** A factor with its levels in order. */
export interface FactorLevels {
  factor: Factor;
  levels: Level[];
  /** The level that changes are told from: the one marked so, else the first. */
  baseline: Level;
}

/** Factors that have levels, in the order of the plan. */
export function factorLevels({ factors, levels }: Pick<StudyDocument, 'factors' | 'levels'>): FactorLevels[] {
  return inOrder(factors).flatMap((factor) => {
    const ofFactor = inOrder(levels.filter(({ factorId }) => factorId === factor.id));
    const [first] = ofFactor;
    return first
      ? [{ factor, levels: ofFactor, baseline: ofFactor.find(({ baseline }) => baseline) ?? first }]
      : [];
  });
}

/** The factor whose levels cannot be undone, so that all runs of an earlier one come first; a plan has at most one. */
export const irreversibleFactor = (
  plan: Pick<StudyDocument, 'factors' | 'levels'>,
): FactorLevels | undefined => factorLevels(plan).find(({ factor }) => factor.irreversible);

/** One level of each factor, in the order of the factors. Without factors there is one setting, an empty one. */
export type Setting = readonly Level[];

const countSettings = (factors: readonly FactorLevels[]): number =>
  factors.reduce((product, { levels }) => product * levels.length, 1);

/**
 * All combinations of the levels, the last factor changing fastest.
 * @throws RangeError where there are more than a plan may have
 */
export function settingsOf(factors: readonly FactorLevels[]): Setting[] {
  if (countSettings(factors) > MOST_RUNS) throw new RangeError('The plan has too many settings.');
  return factors.reduce<Level[][]>(
    (settings, { levels }) => settings.flatMap((setting) => levels.map((level) => [...setting, level])),
    [[]],
  );
}

/** The ids of a setting as the record keeps them, in the order of the ids. */
export const levelIdsOf = (setting: readonly { id: string }[]): string[] =>
  setting.map(({ id }) => id).sort();

const keys = new WeakMap<readonly string[], string>();

/** The key of a setting, whatever order its ids are in. Cells of one setting share their list, and so the key. */
export function settingKey(levelIds: readonly string[]): string {
  let key = keys.get(levelIds);
  if (key === undefined) {
    key = [...levelIds].sort().join('/');
    keys.set(levelIds, key);
  }
  return key;
}

export const cellKey = ({ itemId, levelIds }: Cell): string =>
  levelIds.length === 0 ? itemId : `${itemId}/${settingKey(levelIds)}`;

/** A setting in words: “2 bar, folded”. */
export const settingWords = (setting: readonly Pick<Level, 'name'>[]): string =>
  setting.map(({ name }) => name).join(', ');

export const isMeasuredOn = ({ onItems, expression }: Measurand, { id }: Pick<Item, 'id'>): boolean =>
  expression === null && (onItems === null || onItems.includes(id));

/** How much a plan asks for, by multiplication alone, so that a grid of millions is counted and not made. */
export interface PlanSize {
  settings: number;
  /** Cells of the full grid, and how many of them are struck out. */
  grid: number;
  struck: number;
  rounds: number;
  /** Readings to take. */
  runs: number;
  /** What the plan cannot hold, in words. */
  refused: string | undefined;
}

export function planSize(document: PlanOfRuns): PlanSize {
  const { study, items, measurands } = document;
  const factors = factorLevels(document);
  const settings = countSettings(factors);
  const known = new Set(items.map(({ id }) => id));
  const current = new Set(factors.flatMap(({ levels }) => levels.map(({ id }) => id)));
  const struckOf = new Map<string, number>();
  const seen = new Set<string>();
  for (const cell of study.struck) {
    const stands =
      known.has(cell.itemId) &&
      cell.levelIds.length === factors.length &&
      cell.levelIds.every((id) => current.has(id));
    const key = cellKey(cell);
    if (!stands || seen.has(key)) continue;
    seen.add(key);
    struckOf.set(cell.itemId, (struckOf.get(cell.itemId) ?? 0) + 1);
  }
  const read = measurands.filter(({ expression }) => expression === null);
  const runs =
    study.rounds *
    items.reduce((sum, item) => {
      const measured = read.filter((measurand) => isMeasuredOn(measurand, item)).length;
      return sum + measured * (settings - (struckOf.get(item.id) ?? 0));
    }, 0);
  // Levels count before there are items, so that no item can make a plan too large that is not so yet.
  const size = Math.max(runs, Math.max(1, items.length) * settings);
  return {
    settings,
    grid: items.length * settings,
    struck: seen.size,
    rounds: study.rounds,
    runs,
    refused:
      size > MOST_RUNS
        ? `This makes ${String(size)} runs, and at most ${String(MOST_RUNS)} can be planned. Take fewer levels or rounds, or split the study.`
        : undefined,
  };
}

/** The cells of the grid that are measured, in the order of the plan: setting by setting, item by item. */
export function gridCells(document: PlanOfRuns): Cell[] {
  const struck = new Set(document.study.struck.map(cellKey));
  const items = itemsInOrder(document);
  return settingsOf(factorLevels(document)).flatMap((setting) => {
    const levelIds = levelIdsOf(setting);
    return items.flatMap(({ id }) => {
      const cell = { itemId: id, levelIds };
      return struck.size > 0 && struck.has(cellKey(cell)) ? [] : [cell];
    });
  });
}

/** The measurands that are read at the bench on an item, in order. */
export const measurandsRead = (document: Pick<StudyDocument, 'measurands'>): Measurand[] =>
  measurandsInOrder(document).filter(({ expression }) => expression === null);
