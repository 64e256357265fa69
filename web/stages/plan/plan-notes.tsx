import { useMemo } from 'react';
import { measurandsInOrder } from '../../../core/model/in-order.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { planFindings } from '../../../core/plan/findings.ts';
import type { OrderedRun } from '../../../core/plan/run-order.ts';
import { suggestedHazards } from '../../../core/plan/cautions.ts';
import { ChangeNote } from '../../app/change-note.tsx';
import { patchStudy } from '../../app/api/studies.ts';
import { Button } from '../../ui/button.tsx';
import { Note } from '../../ui/note.tsx';
import { Aside } from '../../ui/page.tsx';
import { tell } from '../../app/tell.ts';

/** What stands beside the plan: what it lacks, and why the order is what it is. */
export function PlanNotes({ document, order }: { document: StudyDocument; order: readonly OrderedRun[] }) {
  const { study, readings } = document;
  const measurands = measurandsInOrder(document);
  const found = useMemo(() => planFindings(document, order), [document, order]);
  return (
    <>
      {found.map(({ tone, title, text }) => (
        <Note key={title} tone={tone} title={title}>
          {text}
        </Note>
      ))}
      {readings.length > 0 && (
        <Note tone="attention" title="Readings are there already">
          The order of what was done stays as it was done. A change to margin or rule now is a change after
          the fact.
        </Note>
      )}
      <ChangeNote document={document} asking />
      {suggestedHazards(
        [
          study.title,
          study.question,
          ...study.procedure.beforeSession,
          ...study.procedure.beforeReading,
          ...study.materials,
          ...study.procedure.waits.map(({ what }) => what),
          ...measurands.flatMap(({ name, unit }) => [name, unit]),
        ],
        study.hazards,
      )
        .slice(0, 3)
        .map(({ caution, because }) => (
          <Note
            key={caution.hazard}
            tone="attention"
            title={`${caution.label}?`}
            actions={
              <Button
                size="small"
                onPress={() => {
                  tell(patchStudy(study, { hazards: [...study.hazards, caution.hazard] }));
                }}
              >
                Add the caution
              </Button>
            }
          >
            The plan speaks of “{because}”.
          </Note>
        ))}
      <Aside>
        <h3>Why in rounds</h3>
        <p>
          Each round takes every item once, in a fresh order. Whatever drifts from round to round (warmth,
          wear, a tired hand) then falls on all items alike.
        </p>
      </Aside>
    </>
  );
}
