import { FILE_PARTS, partText } from '../../../../core/forms/worked-out.ts';
import type { Item, Measurand, Reading, Session } from '../../../../core/model/parts.ts';
import type { StudyDocument } from '../../../../core/model/study-document.ts';
import { listed } from '../../../../core/quantity/format.ts';
import { recordOf } from '../../../../core/record/record.ts';
import type { TimeWindow } from '../../../../core/trace/series.ts';
import { type NewBenchPart, recordParts } from '../../../app/api/studies.ts';
import { sessionFields } from '../session/use-session.ts';

const numberOf = ({ parts }: Reading, name: string): number =>
  parts.find((part) => part.name === name)?.number ?? Number.NaN;

/** The window that a reading was worked out from. */
export const windowOf = (reading: Reading): TimeWindow => ({
  from: numberOf(reading, FILE_PARTS.from),
  to: numberOf(reading, FILE_PARTS.to),
});

/** The readings of a measurand that count and were worked out from files. */
export const workedOut = (document: StudyDocument, measurand: Measurand): Reading[] =>
  recordOf(document).readings.flatMap(({ reading, standing }) =>
    reading.measurandId === measurand.id &&
    standing.is === 'kept' &&
    partText(reading, FILE_PARTS.file) !== undefined
      ? [reading]
      : [],
  );

/** The files that readings were worked out from, by id. */
export const usedFiles = ({ readings }: StudyDocument): Set<string> =>
  new Set(readings.flatMap((reading) => partText(reading, FILE_PARTS.file) ?? []));

/** The session that is on, or a new one of readings that came from these files. */
export function sessionFor(
  studyId: string,
  on: Session | undefined,
  now: string,
  names: ReadonlySet<string>,
): { id: string; opened: NewBenchPart[] } {
  if (on) return { id: on.id, opened: [] };
  const fields = sessionFields(studyId, {
    ...{ kind: 'import', startedAt: now, endedAt: now },
    note: `worked out from ${listed([...names])}`.slice(0, 1000),
  });
  return { id: fields.id, opened: [{ kind: 'sessions', fields }] };
}

/**
 * Works readings out again that were worked out with other settings: the old ones stay in the record, as taken again.
 * @param work the parts of a reading by the settings that hold now, or a sentence why there are none
 * @returns what could not be worked out, in sentences
 */
export async function workAgain(
  stale: readonly Reading[],
  { studyId, items }: { studyId: string; items: readonly Item[] },
  work: (reading: Reading) => Promise<{ parts: Reading['parts'] } | { problem: string }>,
): Promise<string[]> {
  const problems: string[] = [];
  const added: NewBenchPart[] = [];
  for (const reading of stale) {
    const name = items.find(({ id }) => id === reading.itemId)?.name ?? '';
    const say = (problem: string) => problems.push(`${name}, round ${String(reading.round)}: ${problem}`);
    try {
      const found = await work(reading);
      if ('problem' in found) {
        say(found.problem);
        continue;
      }
      const { itemId, measurandId, sessionId, round, place, levels, source, takenAt } = reading;
      const { parts } = found;
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
