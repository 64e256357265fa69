import type { StudyDocument } from '../model/study-document.ts';
import { type FactorLevels, factorLevels, settingKey, settingWords } from '../plan/grid.ts';
import { type StudySetting, settingsRead } from './settings.ts';

/** The settings that differ in one factor alone: those over which its levels can be compared. */
export interface SettingSeries {
  /** Key of the levels of the other factors. */
  key: string;
  words: string;
  /** Level by level of the factor; undefined where nothing was read. */
  settings: (StudySetting | undefined)[];
}

/** The series of settings over a factor's levels that were read at so many levels at least. */
export function settingSeries(
  document: StudyDocument,
  { levels }: FactorLevels,
  fewest: number,
): SettingSeries[] {
  const series = new Map<string, SettingSeries>();
  for (const setting of settingsRead(document)) {
    const place = levels.findIndex((level) => setting.levels.includes(level));
    if (place === -1) continue;
    const others = setting.levels.filter((level) => level !== levels[place]);
    const key = settingKey(others.map(({ id }) => id));
    const found = series.get(key) ?? {
      key,
      words: settingWords(others),
      settings: levels.map(() => undefined),
    };
    found.settings[place] = setting;
    series.set(key, found);
  }
  return [...series.values()].filter(({ settings }) => settings.filter(Boolean).length >= fewest);
}

/** The factors over whose levels something was read, each with its series. */
export const factorsRead = (document: StudyDocument): { over: FactorLevels; series: SettingSeries[] }[] =>
  factorLevels(document).flatMap((over) => {
    const series = settingSeries(document, over, 2);
    return series.length > 0 ? [{ over, series }] : [];
  });
