import { type ClassAnalysis, analyseStudy } from '../analysis/analyse-study.ts';
import { DRAWS } from '../analysis/draws.ts';
import type { Ranking } from '../model/ranking.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { blindStudy } from '../plan/blind.ts';
import { answer } from './answer.ts';

type RankedClass = Ranking['settings'][number]['classes'][number];

function rankedClass({ name, items, analysis }: ClassAnalysis, unit: string): RankedClass {
  const idOf = (index: number) => items[index]?.id ?? '';
  return {
    class: name,
    answer: answer(
      items.map((item) => item.name),
      analysis,
      unit,
      false,
    ).sentence,
    method: analysis.method,
    ranking: analysis.ranking.map(({ index, place, placeLow, placeHigh, chanceFirst }) => {
      const { summary, typed } = analysis.items[index] as (typeof analysis.items)[number];
      const { n, mean, interval } = summary;
      return {
        ...{ itemId: idOf(index), item: items[index]?.name ?? '', place, placeLow, placeHigh },
        ...{ n, mean, interval: interval ? [...interval] : null, chanceFirst },
        typed: typed ? { low: typed.low, high: typed.high } : null,
      };
    }),
    pairs: analysis.pairs.map(({ a, b, difference, low, high, verdict, matters }) => ({
      ...{ a: idOf(a), b: idOf(b), difference, verdict, matters },
      interval:
        low === null || high === null ? null : [low, high].map((end) => (Number.isFinite(end) ? end : null)),
    })),
  };
}

/**
 * The ranking of one measurand at every setting, as plain figures: the same as the ranking page shows. Of a blind study
 * the items have their codes.
 * @throws RangeError when the study has no such measurand
 */
export function rankingOf(whole: StudyDocument, measurandId: string): Ranking {
  const { measurand, settings } = analyseStudy(blindStudy(whole), measurandId, { resamples: DRAWS });
  return {
    measurandId,
    measurand: measurand.name,
    unit: measurand.unit,
    settings: settings.map(({ setting, classes }) => ({
      setting: setting.words,
      classes: classes.map((group) => rankedClass(group, measurand.unit)),
    })),
  };
}
