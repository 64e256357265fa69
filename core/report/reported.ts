import { type ClassAnalysis, type SettingAnalysis, analyseStudy } from '../analysis/analyse-study.ts';
import { atSetting } from '../analysis/at-setting.ts';
import type { Occasion } from '../analysis/occasion.ts';
import { type OverLevels, overLevels } from '../analysis/over-levels.ts';
import { factorsRead } from '../analysis/series.ts';
import { measurandsInOrder } from '../model/in-order.ts';
import type { Measurand } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { counted } from '../quantity/format.ts';
import { answer } from './answer.ts';
import { answerOverLevels } from './over-levels.ts';

export interface ComposeOptions {
  /** Whether the plan is not complete yet, so that the answer may still change. */
  soFar: boolean;
  /** Level of the pairs, where a planned look has its own. */
  pairAlpha?: number | undefined;
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
  series: ReportedSeries[];
  /** Settings of the other factors that the report leaves to the ranking. */
  more: number;
}

/** More settings of the other factors than this are left to the ranking. */
const MOST_SERIES = 4;

export const isRanked = ({ direction }: Measurand): boolean => direction.kind !== 'unranked';

export function reportedOf(
  document: StudyDocument,
  { pairAlpha }: Pick<ComposeOptions, 'pairAlpha'>,
): Reported[] {
  const [along] = factorsRead(document);
  return measurandsInOrder(document).flatMap((measurand): Reported[] => {
    const analysis = analyseStudy(document, measurand.id, { pairAlpha, resamples: 0 });
    if (analysis.settings.every(({ readings }) => readings.length === 0)) return [];
    const setting = atSetting(analysis);
    const exact = setting.classes.every((group) => group.analysis.exact);
    const all = along && !exact ? along.series : [];
    return [
      {
        measurand,
        setting,
        series: all.slice(0, MOST_SERIES).flatMap(({ key }): ReportedSeries[] => {
          const over = overLevels(document, measurand.id, along?.over.factor.id ?? '', key, { pairAlpha });
          return over ? [{ over, key }] : [];
        }),
        more: Math.max(0, all.length - MOST_SERIES),
      },
    ];
  });
}

/** The classes of a measurand wherever they are compared. */
export const classesOf = ({ setting, series }: Reported): ClassAnalysis[] =>
  series.length > 0
    ? series.flatMap(({ over }) =>
        over.classes.flatMap(({ levels }) => levels.filter((level) => level !== undefined)),
      )
    : setting.classes;

const headed = (heads: readonly string[], sentence: string): string =>
  [...heads.filter((head) => head !== ''), sentence].join(': ');

/** The answer of a measurand, class by class and setting by setting: the same sentences as the ranking has. */
export function sentences({ measurand, setting, series, more }: Reported, soFar: boolean): string[] {
  if (!isRanked(measurand)) return [`${measurand.name} is not ranked.`];
  if (series.length === 0) {
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
  return [
    ...series.flatMap(({ over }) =>
      over.classes.map((group) =>
        headed([over.held, group.name], answerOverLevels(over, group, soFar).sentence),
      ),
    ),
    ...(more > 0 ? [`${counted(more, 'more setting')} of the other factors: see the ranking.`] : []),
  ];
}
