import { TRACE_PARTS, takenOff, trace, traceParts } from '../../../../core/forms/trace.ts';
import type { FilePart, Item, Measurand, Reading } from '../../../../core/model/parts.ts';
import type { StudyDocument } from '../../../../core/model/study-document.ts';
import { recordOf } from '../../../../core/record/record.ts';
import type { TimeWindow } from '../../../../core/trace/series.ts';
import type { TrackValue } from '../../../workers/trace.worker.ts';
import { type NewBenchPart, recordParts } from '../../../app/api/studies.ts';
import { trackValue } from '../../../app/api/traces.ts';

export const textOf = ({ parts }: Reading, name: string): string | undefined =>
  parts.find((part) => part.name === name)?.text;
const numberOf = ({ parts }: Reading, name: string): number =>
  parts.find((part) => part.name === name)?.number ?? Number.NaN;

/** The window that a reading was worked out from. */
export const windowOf = (reading: Reading): TimeWindow => ({
  from: numberOf(reading, TRACE_PARTS.from),
  to: numberOf(reading, TRACE_PARTS.to),
});

/** The readings of a measurand that count and were worked out from files. */
export const workedOut = (document: StudyDocument, measurand: Measurand): Reading[] =>
  recordOf(document).readings.flatMap(({ reading, standing }) =>
    reading.measurandId === measurand.id &&
    standing.is === 'kept' &&
    textOf(reading, TRACE_PARTS.file) !== undefined
      ? [reading]
      : [],
  );

/** The parts of a reading from what a window gave. */
export function partsOf(
  value: Exclude<TrackValue, { problem: string }>,
  window: TimeWindow,
  from: { fileId: string; column: string; less: string | undefined },
  measurand: Measurand,
): Reading['parts'] {
  const { fileId, column, less } = from;
  const names = { fileId, column, ...(less === undefined ? {} : { less }) };
  const understood = trace.read(traceParts(value, window, names, measurand.settings), measurand);
  return 'parts' in understood ? understood.parts : [];
}

/**
 * Works readings out again that were worked out with other settings: the old ones stay in the record, as taken again.
 * @param lessOf the column of a file that is taken off where the reading says none
 * @returns what could not be worked out, in sentences
 */
export async function workAgain(
  stale: readonly Reading[],
  measurand: Measurand,
  {
    files,
    items,
    lessOf,
  }: { files: readonly FilePart[]; items: readonly Item[]; lessOf: (file: FilePart) => string | undefined },
): Promise<string[]> {
  const off = takenOff(measurand.settings).kind === 'column';
  const problems: string[] = [];
  const added: NewBenchPart[] = [];
  for (const reading of stale) {
    const name = items.find(({ id }) => id === reading.itemId)?.name ?? '';
    const say = (problem: string) => problems.push(`${name}, round ${String(reading.round)}: ${problem}`);
    const file = files.find(({ id }) => id === textOf(reading, TRACE_PARTS.file));
    if (!file) {
      say('its file is not in this study.');
      continue;
    }
    const column = textOf(reading, TRACE_PARTS.column) ?? '';
    const less = off ? (textOf(reading, TRACE_PARTS.less) ?? lessOf(file)) : undefined;
    const window = windowOf(reading);
    try {
      const value = await trackValue(
        { file: file.file, track: { column, less }, window },
        measurand.settings,
      );
      if ('problem' in value) {
        say(value.problem);
        continue;
      }
      const { itemId, measurandId, sessionId, round, place, levels, source, takenAt } = reading;
      const parts = partsOf(value, window, { fileId: file.id, column, less }, measurand);
      added.push(
        { kind: 'decisions', fields: { action: 'take-again', readingId: reading.id } },
        {
          kind: 'readings',
          fields: { itemId, measurandId, sessionId, round, place, levels, source, takenAt, parts },
        },
      );
    } catch (error) {
      say(error instanceof Error ? error.message : String(error));
    }
  }
  const studyId = measurand.studyId;
  if (added.length > 0) await recordParts(studyId, added);
  return problems;
}

/** Takes readings back that were just taken. */
export const takeBack = (studyId: string, ids: readonly string[]) =>
  recordParts(
    studyId,
    ids.map((readingId) => ({
      kind: 'decisions',
      fields: { action: 'withdraw', readingId, reason: 'taken back' },
    })),
  );
