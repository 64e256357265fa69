import type { SettingAnalysis } from '../../../core/analysis/analyse-study.ts';
import { groupsOf } from '../../../core/analysis/at-setting.ts';
import type { Measurand } from '../../../core/model/parts.ts';
import { counted, formatNumber, listed, withUnit } from '../../../core/quantity/format.ts';
import { gaveWay } from '../../../core/record/record.ts';
import { standsOutSentence } from '../../../core/report/answer.ts';
import { meanOf } from '../../../core/summary/energy.ts';
import { settingFigures } from '../../strip/lanes.ts';

/** What cannot be set right is in no mean, with or without screening. */
const isUncorrected = (use: SettingAnalysis['readings'][number]['use']) =>
  use.is === 'left out' && use.by === 'correction';

/** What screening does to the means, in one sentence. */
export function headline(analysis: SettingAnalysis, measurand: Measurand): string {
  const out = analysis.readings.filter(({ use }) => use.is === 'left out' && !gaveWay(use));
  const odd = groupsOf(analysis)
    .map((group) => standsOutSentence(group.analysis))
    .filter((sentence) => sentence !== '')
    .join(' ');
  if (out.length === 0) return `Every reading counts. ${odd}`.trim();
  const { decimals } = settingFigures(analysis);
  // Means move of those items alone of which something is left out.
  const valuesOf = new Map(out.map(({ itemId }) => [itemId, [] as number[]]));
  for (const { itemId, value, use } of analysis.readings) {
    if (value === null || gaveWay(use) || isUncorrected(use)) continue;
    valuesOf.get(itemId)?.push(value);
  }
  const moved = groupsOf(analysis).flatMap((group) =>
    group.items.flatMap((item, i) => {
      const all = valuesOf.get(item.id) ?? [];
      const mean = (group.signed?.[i] ?? group.analysis.items[i]?.summary)?.mean;
      const shift = mean == null || all.length === 0 ? 0 : Math.abs(mean - meanOf(all, analysis.average));
      const printed = formatNumber(shift, Math.min(decimals, 2));
      return Number(printed.replace(/\u202f/g, '')) > 0
        ? [`${item.name} by ${withUnit(printed, measurand.unit)}`]
        : [];
    }),
  );
  const words = `${counted(out.length, 'reading is', 'readings are')} left out`;
  if (moved.length === 0) return `${words}. No mean moves by it. ${odd}`.trim();
  return moved.length > 3
    ? `${words}. That moves ${counted(moved.length, 'mean')}. ${odd}`.trim()
    : `${words}. That moves ${listed(moved)}. ${odd}`.trim();
}
