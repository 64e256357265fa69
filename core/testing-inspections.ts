import { inspectedStudy } from './analysis/inspect-study.ts';
import type { StudyDocument } from './model/study-document.ts';
import { testStudy } from './testing-study.ts';
import type { InspectedMeasurand, Inspection } from './inspections/inspection.ts';

type Study = ReturnType<typeof testStudy>;

/** A study of readings round by round, one column an item; a round is read from its end where `turned` says so. */
export function studyOf(
  columns: readonly (readonly number[])[],
  turned: (round: number) => boolean = () => false,
): Study {
  const study = testStudy(columns.map((_, i) => `Item ${String(i + 1)}`));
  const rounds = Math.max(...columns.map(({ length }) => length));
  for (let round = 0; round < rounds; round += 1) {
    const places = columns.flatMap((column, item) => (round < column.length ? [item] : []));
    for (const item of turned(round) ? places.reverse() : places)
      study.read(item, round + 1, String(columns[item]?.[round]));
  }
  return study;
}

/** What an inspection sees in a study: the p of each, and what it says without the narrow spaces. */
export function seenBy(
  inspection: Inspection,
  document: StudyDocument,
  change: Partial<InspectedMeasurand> = {},
) {
  const study = inspectedStudy(document);
  const measurands = study.measurands.map((measurand) => ({ ...measurand, ...change }));
  return inspection({ ...study, measurands }).map(({ p, finding }) => {
    const { message, readingIds, ...rest } = finding();
    return {
      ...rest,
      p,
      message: message.replaceAll('\u202f', ' '),
      readings: readingIds.length,
      readingIds,
    };
  });
}

export const messages = (
  inspection: Inspection,
  document: StudyDocument,
  change: Partial<InspectedMeasurand> = {},
) => seenBy(inspection, document, change).map(({ message }) => message);

/** Measurands of which nothing is tested. */
export const NOT_TESTED = [{ derived: true }, { untested: true }];
