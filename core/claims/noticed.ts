import { inspectStudy } from '../analysis/inspect-study.ts';
import type { StudyFinding } from '../inspections/inspection.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { checkClaims } from './check.ts';

/** Expected orders that the verdicts of the ranking contradict, at one level or at all. */
function againstClaims(document: StudyDocument): StudyFinding[] {
  const orders = document.claims.filter(({ kind }) => kind === 'order');
  return [...new Set(orders.map(({ measurandId }) => measurandId))].flatMap((measurandId) => {
    const name = document.measurands.find(({ id }) => id === measurandId)?.name ?? '';
    return checkClaims(document, measurandId).flatMap(({ claimId, outcome, sentence }): StudyFinding[] => {
      const claim = orders.find(({ id }) => id === claimId);
      if (!claim || (outcome !== 'contradicted' && outcome !== 'depends on the level')) return [];
      const source = claim.source === '' ? '' : `, said by ${claim.source},`;
      return [
        {
          ...{ id: `against claim/${claimId}`, kind: 'order against the claim', measurandId },
          message: `The expected order in ${name}${source} is contradicted${outcome === 'contradicted' ? '' : ' at some levels'}: ${sentence}`,
          why: 'What was expected and what was read do not go together: one of them is wrong, or they speak of different things.',
          todo: 'Look whether the samples were mixed up and which way is better; if the readings stand, the claim does not.',
          source: 'the verdicts of the ranking, which share the level of the study',
          readingIds: [],
        },
      ];
    });
  });
}

/** All that is noticed in a study: in its readings, and against what was expected of them. */
export const noticedIn = (document: StudyDocument): StudyFinding[] => [
  ...inspectStudy(document),
  ...againstClaims(document),
];
