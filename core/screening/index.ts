import { chauvenet } from './chauvenet.ts';
import { dixon } from './dixon.ts';
import { dropExtremes } from './drop-extremes.ts';
import { fences } from './fences.ts';
import { generalizedEsd } from './generalized-esd.ts';
import { grubbs } from './grubbs.ts';
import { modifiedZ } from './modified-z.ts';
import { none } from './none.ts';
import { peirce } from './peirce.ts';
import { plausibility } from './plausibility.ts';
import { trimmed } from './trimmed.ts';
import type { RuleName, ScreeningRule } from './rule.ts';

/** Every school of screening, in the order in which they are shown. */
export const SCREENING_RULES: readonly ScreeningRule[] = [
  none,
  generalizedEsd,
  grubbs,
  dixon,
  modifiedZ,
  fences,
  chauvenet,
  peirce,
  dropExtremes,
  trimmed,
  plausibility,
];

export function screeningRule(name: RuleName): ScreeningRule {
  const rule = SCREENING_RULES.find((candidate) => candidate.name === name);
  if (!rule) throw new RangeError(`no screening rule is called “${name}”`);
  return rule;
}
