import type { Measurand, RuleInForce } from '../../../core/model/parts.ts';
import { ruleWords } from '../../../core/screening/words.ts';
import { patchPart } from '../../app/api/studies.ts';
import { tellDone, tellFailure } from '../../app/tell.ts';

/** Puts another rule in force, and says so with a way back. */
export function enforce(measurand: Measurand, rule: RuleInForce): void {
  const before = measurand.rule;
  patchPart('measurands', measurand, { rule })
    .then((now) => {
      tellDone(`${ruleWords(rule)} is in force now.`, () => patchPart('measurands', now, { rule: before }));
    })
    .catch(tellFailure);
}
