import type { PlaceInQueue } from '../../../../core/bench/tracks.ts';
import { FILE_PARTS, partText } from '../../../../core/forms/worked-out.ts';
import type { Item, Measurand, Reading, RunRef, Session } from '../../../../core/model/parts.ts';
import type { StudyDocument } from '../../../../core/model/study-document.ts';
import { blindItems } from '../../../../core/plan/blind.ts';
import { listed } from '../../../../core/quantity/format.ts';
import { recordOf } from '../../../../core/record/record.ts';
import { type NewBenchPart, newRecordId, recordParts } from '../../../app/api/studies.ts';
import { sessionFields } from '../session/use-session.ts';

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

/** The items as they are called at the bench: by their codes where the study is blind. */
export function itemsAtBench(document: StudyDocument): readonly Item[] {
  if (document.study.blind !== 'blind') return document.items;
  const blind = blindItems(document);
  return document.items.map((item) => blind.get(item.id) ?? item);
}

/** A window that becomes a reading. */
export interface Taken {
  place: PlaceInQueue;
  parts: Reading['parts'];
  /** When it was measured, where the file says that. */
  takenAt?: string | undefined;
}

/** What was recorded together, to be taken back together. */
export interface TakenTogether {
  ids: string[];
  skipped: readonly RunRef[];
}

/** The session that is on, or a new one of readings that came from these files. */
function sessionFor(
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
 * Records windows as readings: in the session that is on, else in one of their own.
 * @param names of the files that they are from
 * @param skipped runs that come to nothing
 */
export async function takeTogether(
  studyId: string,
  on: Session | undefined,
  names: ReadonlySet<string>,
  taken: readonly Taken[],
  skipped: readonly RunRef[] = [],
): Promise<TakenTogether> {
  const now = new Date().toISOString();
  const { id: sessionId, opened } = sessionFor(studyId, on, now, names);
  const added: NewBenchPart[] = skipped.map((run) => ({
    kind: 'decisions',
    fields: { action: 'skip', run },
  }));
  const ids: string[] = [];
  for (const { place, parts, takenAt = now } of taken) {
    const id = newRecordId(studyId);
    const { itemId, measurandId, round } = place.ref;
    if (place.added) added.push({ kind: 'decisions', fields: { action: 'add-run', run: place.ref } });
    added.push({
      kind: 'readings',
      fields: {
        ...{ id, itemId, measurandId, sessionId, round, place: place.place, parts, takenAt },
        levels: place.setting.map(({ id: levelId, factorId }) => ({ factorId, levelId })),
        source: 'recording',
      },
    });
    ids.push(id);
  }
  await recordParts(studyId, [...opened, ...added]);
  return { ids, skipped };
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

/** Takes back what was just recorded: the readings, and the runs that were skipped with them. */
export const takeBack = (studyId: string, { ids, skipped }: TakenTogether) =>
  recordParts(studyId, [
    ...ids.map((readingId): NewBenchPart => ({
      kind: 'decisions',
      fields: { action: 'withdraw', readingId, reason: 'taken back' },
    })),
    ...skipped.map((run): NewBenchPart => ({ kind: 'decisions', fields: { action: 'unskip', run } })),
  ]);
