import { Suspense, lazy } from 'react';
import styled from 'styled-components';
import type { SettingAnalysis } from '../../../core/analysis/analyse-study.ts';
import { correctionsOf } from '../../../core/forms/index.ts';
import type { Measurand } from '../../../core/model/parts.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { decimalsFor, formatNumber, withUnit } from '../../../core/quantity/format.ts';
import { correctionLayers } from '../../../core/record/correction-words.ts';
import { moments } from '../../../core/summary/moments.ts';
import { patchInTurn } from '../../app/api/studies.ts';
import { tell } from '../../app/tell.ts';
import { CheckBox } from '../../ui/check-box.tsx';
import { Fold } from '../../ui/fold.tsx';

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

/** By how much corrections move what was read, from the least to the most of any item. */
function movedBy({ readings, measurand }: SettingAnalysis): string {
  const shifts = new Map<string, number[]>();
  for (const { itemId, value, read } of readings) {
    if (value === null || read === undefined) continue;
    const ofItem = shifts.get(itemId);
    if (ofItem) ofItem.push(value - read);
    else shifts.set(itemId, [value - read]);
  }
  const means = [...shifts.values()].map((ofItem) => moments(ofItem).mean);
  if (means.length === 0) return '';
  const [least, most] = [Math.min(...means), Math.max(...means)];
  const decimals = Math.max(0, decimalsFor(Math.max(Math.abs(least), Math.abs(most))));
  const [from, to] = [formatNumber(least, decimals), formatNumber(most, decimals)];
  return from === to
    ? `Moves all readings by ${withUnit(to, measurand.unit)}`
    : `Moves items by ${from} to ${withUnit(to, measurand.unit)}`;
}

/** What is set right in the readings, each to be switched off; and where it is said. */
export function Corrections({
  document,
  measurand,
  analysis,
}: {
  document: StudyDocument;
  measurand: Measurand;
  analysis: SettingAnalysis;
}) {
  if (correctionsOf(measurand).length === 0) return null;
  const layers = correctionLayers(measurand, document);
  const moved = movedBy(analysis);
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
        <Suspense fallback={null}>
          <CorrectionFields document={document} measurand={measurand} />
        </Suspense>
      </Fold>
    </>
  );
}
