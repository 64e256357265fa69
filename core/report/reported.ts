import { type ClassAnalysis, type SettingAnalysis, analyseStudy } from '../analysis/analyse-study.ts';
import { atSetting } from '../analysis/at-setting.ts';
import type { Occasion } from '../analysis/occasion.ts';
import { type OverLevels, overSettings } from '../analysis/over-levels.ts';
import { factorsRead } from '../analysis/series.ts';
import { measurandsInOrder } from '../model/in-order.ts';
import type { Measurand } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { answer } from './answer.ts';
import { answerOverLevels } from './over-levels.ts';
import { answerOverSettings } from './over-settings.ts';

/** How the readings are looked at on the way to the answer. */
export interface ReportLook {
  /** Whether the plan is not complete yet, so that the answer may still change. */
  soFar: boolean;
  /** Level of the pairs: a planned look has its own. */
  pairAlpha: number;
}

export interface ComposeOptions {
  /** Tests that the study names as earlier ones, as far as they are at hand. */
  earlier?: readonly Occasion[] | undefined;
  /** How a day and time are written. */
  when: (instant: string) => string;
  /** Version of the program. */
  program: string;
}

/** A measurand over the levels of a factor, at one setting of the other factors. */
export interface ReportedSeries {
  over: OverLevels;
  key: string;
}

/** One measurand of a report: over the levels of a factor where there is one, else at its only setting. */
export interface Reported {
  measurand: Measurand;
  setting: SettingAnalysis;
  /** All settings at which it was read, over the levels of the first factor; none without factors. */
  all: OverLevels[];
  /** Those that have a picture and sentences of their own. */
  series: ReportedSeries[];
  /** How many others are read at two levels or more. */
  more: number;
}

/** More settings of the other factors than this have no picture and no sentence of their own. */
const MOST_SERIES = 4;

export const isRanked = ({ direction }: Measurand): boolean => direction.kind !== 'unranked';

export function reportedOf(
  document: StudyDocument,
  { pairAlpha }: Pick<ReportLook, 'pairAlpha'>,
): Reported[] {
  const [along] = factorsRead(document);
  return measurandsInOrder(document).flatMap((measurand): Reported[] => {
    const analysis = analyseStudy(document, measurand.id, { pairAlpha, resamples: 0 });
    if (analysis.settings.every(({ readings }) => readings.length === 0)) return [];
    const setting = atSetting(analysis);
    const exact = setting.classes.every((group) => group.analysis.exact);
    const all =
      along && !exact ? overSettings(document, measurand.id, along.over.factor.id, { pairAlpha }) : [];
    const series = all.flatMap((over): ReportedSeries[] => {
      const found = along?.series.find(({ words }) => words === over.held);
      return found ? [{ over, key: found.key }] : [];
    });
    return [
      {
        ...{ measurand, setting, all },
        series: series.slice(0, MOST_SERIES),
        more: Math.max(0, series.length - MOST_SERIES),
      },
    ];
  });
}

/** The classes of a measurand wherever they are compared. */
export const classesOf = ({ setting, all }: Reported): ClassAnalysis[] =>
  all.length > 0
    ? all.flatMap(({ classes }) =>
        classes.flatMap(({ levels }) => levels.filter((level) => level !== undefined)),
      )
    : setting.classes;

const headed = (heads: readonly string[], sentence: string): string =>
  [...heads.filter((head) => head !== ''), sentence].join(': ');

/** The answer of a measurand, class by class: the same sentences as the ranking has. */
export function sentences({ measurand, setting, all, series }: Reported, soFar: boolean): string[] {
  if (!isRanked(measurand)) return [`${measurand.name} is not ranked.`];
  if (all.length > 1) {
    const names = [...new Set(all.flatMap(({ classes }) => classes.map(({ name }) => name)))];
    return names.map((name) => headed([name], answerOverSettings(all, name, soFar)));
  }
  if (series.length > 0) return seriesSentences(series, soFar);
  return setting.classes.map(({ name, items, analysis }) =>
    headed(
      [name],
      answer(
        items.map((item) => item.name),
        analysis,
        measurand.unit,
        soFar,
      ).sentence,
    ),
  );
}

/** What is to be said of the settings of several factors one by one, behind what is said of them all. */
export const details = ({ measurand, all, series }: Reported, soFar: boolean): string[] =>
  isRanked(measurand) && all.length > 1 ? seriesSentences(series, soFar) : [];

const seriesSentences = (series: readonly ReportedSeries[], soFar: boolean): string[] =>
  series.flatMap(({ over }) =>
    over.classes.map((group) =>
      headed([over.held, group.name], answerOverLevels(over, group, soFar).sentence),
    ),
  );
