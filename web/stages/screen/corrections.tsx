import { lazy, useMemo, memo } from 'react';
import styled from 'styled-components';
import type { SettingAnalysis } from '../../../core/analysis/analyse-study.ts';
import { correctionsOf } from '../../../core/forms/index.ts';
import type { Measurand } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { correctionLayers } from '../../../core/record/correction-words.ts';
import { movedWords } from '../../../core/report/moved.ts';
import { patchInTurn } from '../../app/api/studies.ts';
import { tell } from '../../app/tell.ts';
import { CheckBox } from '../../ui/check-box.tsx';
import { Fold } from '../../ui/fold.tsx';
import { Later } from '../../ui/later.tsx';

// Most studies never open it.
const CorrectionFields = lazy(async () => ({
  default: (await import('./correction-fields.tsx')).CorrectionFields,
}));

const Layers = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 0 18px;
  margin: -6px 0 10px -8px;
`;

/** What is set right in the readings, each to be switched off; and where it is said. */
export const Corrections = memo(function Corrections({
  document,
  measurand,
  analysis,
}: {
  document: StudyDocument;
  measurand: Measurand;
  analysis: SettingAnalysis;
}) {
  const layers = correctionLayers(measurand, document);
  const isCorrected = layers.length > 0;
  const moved = useMemo(() => (isCorrected ? movedWords(analysis) : ''), [isCorrected, analysis]);
  if (correctionsOf(measurand).length === 0) return null;
  return (
    <>
      {layers.length > 0 && (
        <Layers role="group" aria-label="What is set right">
          {layers.map(({ key, on, words, switched }) => (
            <CheckBox
              key={key}
              isSelected={on}
              onChange={(chosen) => {
                tell(
                  patchInTurn('measurands', measurand, (now) => ({
                    corrections: switched(now.corrections, chosen),
                  })),
                );
              }}
            >
              <bdi>{words}</bdi>
            </CheckBox>
          ))}
        </Layers>
      )}
      <Fold
        title="Corrections"
        state={
          layers.length === 0
            ? 'None: readings count as they were read.'
            : moved === ''
              ? 'None is in force: readings count as they were read.'
              : `${moved}; what was read is kept.`
        }
      >
        <Later>
          <CorrectionFields document={document} measurand={measurand} />
        </Later>
      </Fold>
    </>
  );
});
