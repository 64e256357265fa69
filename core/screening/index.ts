import { dropExtremes } from './drop-extremes.ts';
import { generalizedEsd } from './generalized-esd.ts';
import { grubbs } from './grubbs.ts';
import { modifiedZ } from './modified-z.ts';
import { none } from './none.ts';
import type { RuleName, ScreeningRule } from './rule.ts';

/** Every school of screening, in the order in which they are shown. */
export const SCREENING_RULES: readonly ScreeningRule[] = [
  none,
  dropExtremes,
  grubbs,
  generalizedEsd,
  modifiedZ,
];

export function screeningRule(name: RuleName): ScreeningRule {
  const rule = SCREENING_RULES.find((candidate) => candidate.name === name);
  if (!rule) throw new RangeError(`no screening rule is called “${name}”`);
  return rule;
}
