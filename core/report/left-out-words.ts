import type { SettingAnalysis } from '../analysis/analyse-study.ts';
import { counted, listed } from '../quantity/format.ts';
import { describedRule } from '../screening/described.ts';
import type { RuleName } from '../screening/rule.ts';
import type { LeftOut } from '../analysis/left-out.ts';
import type { LeftOutBy } from '../observations/observation.ts';

/** Readings that gave way to others at the bench, as they are counted: “1 misfire”. Nobody judged them. */
export function gaveWayWords({ readings }: Pick<LeftOut, 'readings'>): string[] {
  const by = (reason: LeftOutBy) => readings.filter(({ use }) => use.by === reason).length;
  return [
    ...(by('again') > 0 ? [`${counted(by('again'), 'reading')} taken again at the bench`] : []),
    ...(by('misfire') > 0 ? [counted(by('misfire'), 'misfire')] : []),
  ];
}

/** How many readings do not count, and by what: “2 readings left out by Generalized ESD, 1 misfire”. */
export function leftOutWords({ readings }: Pick<LeftOut, 'readings'>, rule: RuleName): string {
  const counts = new Map<LeftOutBy, number>();
  for (const { use } of readings) counts.set(use.by, (counts.get(use.by) ?? 0) + 1);
  const by = (reason: LeftOutBy) => counts.get(reason) ?? 0;
  const parts = [
    ...(by('rule') > 0 ? [`${counted(by('rule'), 'reading')} left out by ${describedRule(rule).label}`] : []),
    ...(by('hand') > 0 ? [`${counted(by('hand'), 'reading')} left out by hand`] : []),
    ...(by('source') > 0 ? [`${counted(by('source'), 'value')} left out with what they come from`] : []),
    ...(by('correction') > 0 ? [`${counted(by('correction'), 'reading')} that cannot be set right`] : []),
    ...gaveWayWords({ readings }),
  ];
  return parts.length === 0 ? 'every reading counts' : listed(parts);
}

/** The words under the strip of a measurand: what it shows, and what bars and hollow marks are. */
export function stripCaption(
  { measurand: { name, unit, rule }, setting, leftOut }: SettingAnalysis,
  {
    ranksOnly,
    placed = true,
  }: { ranksOnly: boolean; /** Whether lanes end with places. */ placed?: boolean },
): string {
  const where = `${name}${unit && ` in ${unit}`}${setting.words && ` at ${setting.words}`}`;
  const out = leftOut.readings.length > 0;
  return `${where}: ${out ? 'every reading, ' : ''}${leftOutWords(leftOut, rule.name)}. ${
    ranksOnly
      ? `Marks in an order${placed ? '; the last column is the place' : ''}.`
      : `Bars are 95 % intervals of the means${out ? '; what was left out is hollow' : ''}.`
  }`;
}
