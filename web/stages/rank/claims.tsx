import styled from 'styled-components';
import { type ClaimOutcome, OUTCOME_WORDS } from '../../../core/claims/outcome.ts';
import { claimWords } from '../../../core/plan/claim-words.ts';
import type { Measurand } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { useClaims } from '../../app/api/analysis.ts';
import { Section } from '../../ui/page.tsx';
import { dayAndTime } from '../../ui/when.ts';

const List = styled.ul`
  display: grid;
  gap: 16px;
  max-width: 860px;
  li {
    display: grid;
    grid-template-columns: 150px minmax(0, 1fr);
    gap: 4px 20px;
  }
  small {
    display: block;
    font-size: var(--size-15);
    color: var(--quiet);
  }
  @media (max-width: 620px) {
    li {
      grid-template-columns: minmax(0, 1fr);
    }
  }
`;

const Outcome = styled.strong<{ $outcome: ClaimOutcome }>`
  font-weight: 660;
  color: ${({ $outcome }) =>
    ({
      holds: 'var(--fern)',
      contradicted: 'var(--rust)',
      'not contradicted': 'var(--ink)',
      'depends on the level': 'var(--rust)',
      'no readings': 'var(--quiet)',
    })[$outcome]};
`;

/** What was claimed about a measurand before the readings, and what these say of it. */
export function Claims({
  document,
  measurand,
  settingKey,
}: {
  document: StudyDocument;
  measurand: Measurand;
  /** All that were read, when left out. */
  settingKey?: string;
}) {
  const { data: checked } = useClaims(document, measurand.id, settingKey);
  const claims = document.claims.filter(({ measurandId }) => measurandId === measurand.id);
  if (claims.length === 0 || !checked) return null;
  const first = document.readings.find(({ measurandId }) => measurandId === measurand.id)?.takenAt;
  return (
    <Section aria-labelledby="claims">
      <h2 id="claims">What was claimed</h2>
      <List>
        {claims.map((claim) => {
          const found = checked.find(({ claimId }) => claimId === claim.id);
          return (
            <li key={claim.id}>
              <Outcome $outcome={found?.outcome ?? 'no readings'}>
                {OUTCOME_WORDS[found?.outcome ?? 'no readings']}
              </Outcome>
              <div>
                <bdi>{claimWords(claim, document)}</bdi>
                <p>{found?.sentence}</p>
                <small>
                  {claim.source && (
                    <>
                      <bdi>{claim.source}</bdi>.{' '}
                    </>
                  )}
                  Entered {dayAndTime(claim.createdAt)}
                  {first !== undefined &&
                    (claim.createdAt < first ? ', before the first reading' : ', after the first reading')}
                  .
                </small>
              </div>
            </li>
          );
        })}
      </List>
    </Section>
  );
}
