import { readingForm } from '../forms/index.ts';
import { inspect } from '../inspections/index.ts';
import type { InspectedMeasurand, InspectedStudy, StudyFinding } from '../inspections/inspection.ts';
import { measurandsInOrder } from '../model/in-order.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { screenedOf } from './observed.ts';

/** A study as those see it who look for what is odd in its readings. */
export function inspectedStudy(document: StudyDocument): InspectedStudy {
  const measurands = measurandsInOrder(document).map((measurand): InspectedMeasurand => {
    const { observations, cells, step, ranksOnly, exact } = screenedOf(document, measurand);
    return {
      measurand,
      observations,
      cells: cells.map(({ itemId, setting, observations: counting, screening }) => {
        const out = new Set(screening.leftOut.map(({ index }) => index));
        return { itemId, setting, kept: counting.filter((_, i) => !out.has(i)) };
      }),
      step,
      derived: measurand.expression !== null,
      untested: ranksOnly || exact || (readingForm(measurand.form)?.ranksOnly ?? false),
    };
  });
  const items = new Map(document.items.map((item) => [item.id, item]));
  return { document, measurands, items };
}

/** All that is noticed in the readings of a study, over all its measurands and settings. */
export const inspectStudy = (document: StudyDocument): StudyFinding[] => inspect(inspectedStudy(document));
