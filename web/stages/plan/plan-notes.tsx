import { formatPlain, withUnit } from '../../../core/quantity/format.ts';
import { measurandsInOrder } from '../../../core/model/record.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { suggestedHazards } from '../../../core/plan/cautions.ts';
import { ChangeNote } from '../../app/change-note.tsx';
import { patchStudy } from '../../app/api/studies.ts';
import { Button } from '../../ui/button.tsx';
import { Note } from '../../ui/note.tsx';
import { Aside } from '../../ui/page.tsx';
import { tell } from './tell.ts';

/** What stands beside the plan: what it lacks, and why the order is what it is. */
export function PlanNotes({ document }: { document: StudyDocument }) {
  const { study, items, readings } = document;
  const measurands = measurandsInOrder(document);
  return (
    <>
      {items.length === 0 && (
        <Note tone="attention" title="Begin with the items">
          Type the first name under “Items” and press Enter, or paste a column of names.
        </Note>
      )}
      {items.length > 1 && study.rounds < 2 && (
        <Note tone="attention" title="One reading per item">
          One reading shows no spread, so no difference can be judged. Plan at least three rounds.
        </Note>
      )}
      {items.length > 1 && study.rounds > 1 && study.rounds < 4 && (
        <Note tone="plain" title={`${String(study.rounds)} rounds see large differences only`}>
          Four to eight are usual where readings are quick.
        </Note>
      )}
      {measurands
        .filter(
          ({ margin, instrument }) =>
            margin.kind === 'absolute' &&
            margin.value > 0 &&
            instrument.resolution !== null &&
            margin.value < instrument.resolution,
        )
        .map(({ id, name, margin, instrument, unit }) => (
          <Note key={id} tone="attention" title={`Margin finer than the instrument: ${name}`}>
            A difference of {withUnit(formatPlain(margin.value), unit)} cannot be seen in steps of{' '}
            {withUnit(formatPlain(instrument.resolution ?? 0), unit)}. Use a finer instrument, or a wider
            margin.
          </Note>
        ))}
      {measurands
        .filter(({ margin, direction }) => margin.value === 0 && direction.kind !== 'unranked')
        .map(({ id, name }) => (
          <Note key={id} title={`What difference would matter? ${name}`}>
            Without a margin, the smallest lead counts as a lead. Say what is worth having before you see the
            readings.
          </Note>
        ))}
      {readings.length > 0 && (
        <Note tone="attention" title="Readings are there already">
          The order of what was done stays as it was done. A change to margin or rule now is a change after
          the fact.
        </Note>
      )}
      {measurands.map((measurand) => (
        <ChangeNote key={measurand.id} document={document} measurand={measurand} />
      ))}
      {suggestedHazards(
        [
          study.title,
          study.question,
          ...study.procedure.beforeSession,
          ...study.procedure.beforeReading,
          ...study.materials,
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
