import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import styled from 'styled-components';
import { claimWords } from '../../../core/plan/claim-words.ts';
import type { Claim } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { createPart, deletePart } from '../../app/api/studies.ts';
import { tellDone, tellFailure } from '../../app/tell.ts';
import { Button } from '../../ui/button.tsx';
import { Dialog } from '../../ui/dialog.tsx';
import { IconButton } from '../../ui/icon-button.tsx';
import { dayAndTime } from '../../ui/when.ts';
import { NewClaim } from './new-claim.tsx';

const List = styled.ul`
  display: grid;
  gap: 10px;
  max-width: 860px;
  margin-bottom: 14px;
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 44px;
    gap: 8px;
    align-items: start;
  }
  small {
    display: block;
    font-size: var(--size-15);
    color: var(--quiet);
  }
`;

/** Removes a claim, with a way back. */
async function remove(claim: Claim): Promise<void> {
  try {
    await deletePart('claims', claim);
    const { studyId, version: _version, createdAt: _created, updatedAt: _updated, ...fields } = claim;
    tellDone('The claim is removed.', () => createPart(studyId, 'claims', fields));
  } catch (error) {
    tellFailure(error);
  }
}

/** A claim, who makes it, and whether it was entered before the readings. */
function ClaimLine({ claim, document }: { claim: Claim; document: StudyDocument }) {
  const begun = document.readings.find(({ measurandId }) => measurandId === claim.measurandId)?.takenAt;
  return (
    <li>
      <div>
        <bdi>{claimWords(claim, document)}</bdi>
        <small>
          {claim.source && (
            <>
              <bdi>{claim.source}</bdi>.{' '}
            </>
          )}
          Entered {dayAndTime(claim.createdAt)}
          {begun !== undefined &&
            (claim.createdAt < begun ? ', before the first reading' : ', after the first reading')}
          .
        </small>
      </div>
      <IconButton
        label={`Remove the claim ${claimWords(claim, document)}`}
        onPress={() => void remove(claim)}
      >
        <Trash2 size={18} aria-hidden />
      </IconButton>
    </li>
  );
}

/** What is expected or claimed, entered before the readings; the ranking says what becomes of it. */
export function Claims({ document }: { document: StudyDocument }) {
  const [adding, setAdding] = useState(false);
  return (
    <>
      {document.claims.length === 0 && (
        <p style={{ maxWidth: '68ch', marginBottom: 12 }}>
          What do you expect, what does the maker say, what does everybody know? Entered before the first
          reading, it is checked fairly.
        </p>
      )}
      <List>
        {document.claims.map((claim) => (
          <ClaimLine key={claim.id} claim={claim} document={document} />
        ))}
      </List>
      <Button
        isDisabled={document.items.length === 0 || document.measurands.length === 0}
        onPress={() => {
          setAdding(true);
        }}
      >
        <Plus size={18} aria-hidden /> A claim
      </Button>
      <Dialog
        title="A claim to check"
        isOpen={adding}
        onClose={() => {
          setAdding(false);
        }}
      >
        <NewClaim
          document={document}
          onDone={() => {
            setAdding(false);
          }}
        />
      </Dialog>
    </>
  );
}
