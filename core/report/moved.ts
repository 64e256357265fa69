import type { SettingAnalysis } from '../analysis/analyse-study.ts';
import { decimalsFor, formatNumber, withUnit } from '../quantity/format.ts';
import { moments } from '../summary/moments.ts';

/** By how much corrections move the readings, from the least to the most of any item; '' where none does. */
export function movedWords({ readings, measurand }: Pick<SettingAnalysis, 'readings' | 'measurand'>): string {
  const shifts = new Map<string, number[]>();
  for (const { itemId, value, read } of readings) {
    if (value === null || read === undefined) continue;
    const ofItem = shifts.get(itemId);
    if (ofItem) ofItem.push(value - read);
    else shifts.set(itemId, [value - read]);
  }
  if (shifts.size === 0) return '';
  const means = [...shifts.values()].map((ofItem) => moments(ofItem).mean);
  const [least, most] = [Math.min(...means), Math.max(...means)];
  const decimals = decimalsFor(Math.max(Math.abs(least), Math.abs(most)));
  const [from, to] = [formatNumber(least, decimals), formatNumber(most, decimals)];
  return from === to
    ? `Moves all readings by ${withUnit(to, measurand.unit)}`
    : `Moves items by ${from} to ${withUnit(to, measurand.unit)}`;
}
