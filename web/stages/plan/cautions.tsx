import { CheckboxButton, CheckboxField, CheckboxGroup } from 'react-aria-components';
import styled from 'styled-components';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { CAUTIONS, type Hazard, cautionOf } from '../../../core/plan/cautions.ts';
import { patchStudy } from '../../app/api/studies.ts';
import { Note } from '../../ui/note.tsx';
import { focusRing } from '../../ui/tokens.ts';
import { tell } from '../../app/tell.ts';

const Group = styled(CheckboxGroup)`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
  gap: 2px 16px;
`;

const Box = styled(CheckboxButton)`
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 44px;
  cursor: pointer;
  &::before {
    content: '';
    flex: none;
    width: 20px;
    height: 20px;
    border: 1.5px solid var(--rule-strong);
    border-radius: 5px;
  }
  &[data-selected]::before {
    background: var(--fern);
    border-color: var(--fern);
    box-shadow: inset 0 0 0 3px var(--sheet);
  }
  &[data-selected] {
    font-weight: 640;
  }
  &[data-focus-visible] {
    ${focusRing}
    border-radius: 6px;
  }
`;

const Texts = styled.div`
  display: grid;
  gap: 14px;
  margin-top: 18px;
  max-width: 720px;
`;

/** What can hurt at this bench; the cautions go with the study to bench and report. */
export function Cautions({ document: { study } }: { document: StudyDocument }) {
  return (
    <>
      <Group
        aria-label="Hazards"
        value={study.hazards}
        onChange={(hazards) => {
          tell(patchStudy(study, { hazards: hazards as Hazard[] }));
        }}
      >
        {CAUTIONS.map(({ hazard, label }) => (
          <CheckboxField key={hazard} value={hazard}>
            <Box>{label}</Box>
          </CheckboxField>
        ))}
      </Group>
      {study.hazards.length > 0 && (
        <Texts>
          {study.hazards.map((hazard) => (
            <Note key={hazard} tone="attention" title={cautionOf(hazard).label}>
              {cautionOf(hazard).caution}
            </Note>
          ))}
          <p>
            These are the usual cautions and no more. The makers’ instructions, local codes and licensed
            practice come first.
          </p>
        </Texts>
      )}
    </>
  );
}
