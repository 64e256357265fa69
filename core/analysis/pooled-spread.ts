import type { StudyDocument } from '../model/study-document.ts';
import { analyseStudy } from './analyse-study.ts';

/**
 * The pooled spread of the readings of a measurand, each item at each setting by itself; in its unit.
 * @returns a spread of undefined where nothing was read twice, or all readings are the same
 */
export function pooledSpread(document: StudyDocument, measurandId: string): { spread: number | undefined } {
  let [df, squares] = [0, 0];
  for (const { classes } of analyseStudy(document, measurandId, { resamples: 0 }).settings) {
    for (const { summary } of classes.flatMap(({ analysis }) => analysis.items)) {
      df += summary.df;
      squares += summary.df * (summary.sd ?? 0) ** 2;
    }
  }
  return { spread: squares > 0 ? Math.sqrt(squares / df) : undefined };
}
