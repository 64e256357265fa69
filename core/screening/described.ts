import described from './described.json' with { type: 'json' };
import type { RuleName, ScreeningRule } from './rule.ts';

/** What a school of screening is and what it can do, without what it works out: all that is needed to speak of it. */
export type DescribedRule = Omit<ScreeningRule, 'screen'>;

/** Every school in words, in the order in which they are shown. Written from the rules by scripts/schema.ts. */
export const DESCRIBED_RULES = described as readonly DescribedRule[];

/** @throws RangeError for a name that no rule has */
export function describedRule(name: RuleName): DescribedRule {
  const rule = DESCRIBED_RULES.find((candidate) => candidate.name === name);
  if (!rule) throw new RangeError(`no screening rule is called “${name}”`);
  return rule;
}
