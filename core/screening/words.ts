import type { RuleInForce } from '../model/parts.ts';
import { formatPlain } from '../quantity/format.ts';
import { type DescribedRule, describedRule } from './described.ts';

/** What of a rule in force is not its usual way. */
function ways(rule: DescribedRule, { parameter, level, judges }: RuleInForce): string[] {
  return [
    ...(parameter !== null && rule.parameter ? [`${rule.parameter.label} ${formatPlain(parameter)}`] : []),
    ...(rule.tests ? [level === 'study' ? 'per study' : 'per sample'] : []),
    ...(rule.keepsAll || rule.alwaysCuts || rule.byItself || judges === 'distance'
      ? []
      : ['readings by themselves']),
  ];
}

/** A rule in force with how it is applied: “Generalized ESD, per study”. */
export function ruleWords(inForce: RuleInForce): string {
  const rule = describedRule(inForce.name);
  return [rule.label, ...ways(rule, inForce)].join(', ');
}
