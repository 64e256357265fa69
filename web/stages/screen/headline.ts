import type { SettingAnalysis } from '../../../core/analysis/analyse-study.ts';
import { groupsOf } from '../../../core/analysis/at-setting.ts';
import type { Measurand } from '../../../core/model/parts.ts';
import { counted, decimalsFor, formatNumber, listed, withUnit } from '../../../core/quantity/format.ts';
import { gaveWay } from '../../../core/record/record.ts';
import { standsOutSentence } from '../../../core/report/answer.ts';
import { gaveWayWords } from '../../../core/report/left-out-words.ts';
import { settingFigures } from '../../strip/lanes.ts';

/** What screening does to the means, in one sentence. */
export function headline(analysis: SettingAnalysis, measurand: Measurand): string {
  const { readings, meansWith } = analysis.leftOut;
  const out = readings.filter(({ use }) => !gaveWay(use));
  // They are hollow too, and nobody left them out.
  const gone = listed(gaveWayWords(analysis.leftOut));
  const odd = groupsOf(analysis)
    .map((group) => standsOutSentence(group.analysis))
    .filter((sentence) => sentence !== '')
    .join(' ');
  if (out.length === 0) return `Every reading counts${gone && ` but ${gone}`}. ${odd}`.trim();
  const { decimals } = settingFigures(analysis);
  const moved = groupsOf(analysis).flatMap((group) =>
    group.items.flatMap((item, i) => {
      const ofAll = meansWith.get(item.id);
      const mean = (group.signed?.[i] ?? group.analysis.items[i]?.summary)?.mean;
      const shift = mean == null || ofAll === undefined ? 0 : Math.abs(mean - ofAll);
      // A mean moves where it is printed as another one.
      if (Number(shift.toFixed(decimals)) === 0) return [];
      const printed = formatNumber(shift, Math.min(decimals, decimalsFor(shift)));
      // A number at the end of a name stays with it: “2 by 0.14” at the start of a line is read as something else.
      const name = item.name.replace(/ (?=\S{1,3}$)/u, '\u00a0');
      return [`${name} by ${withUnit(printed, measurand.unit)}`];
    }),
  );
  const words = `${counted(out.length, 'reading is', 'readings are')} left out${gone && `, besides ${gone}`}`;
  if (moved.length === 0) return `${words}. No mean moves by it. ${odd}`.trim();
  return moved.length > 3
    ? `${words}. That moves ${counted(moved.length, 'mean')}. ${odd}`.trim()
    : `${words}. That moves ${listed(moved)}. ${odd}`.trim();
}
