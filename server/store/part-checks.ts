import isEqual from 'lodash/isEqual.js';
import { EMPTY } from '../../core/model/new-study.ts';
import { PART_KINDS, type PartKind } from '../../core/model/part-kinds.ts';
import type { FilePart, Level, Measurand, Reading } from '../../core/model/parts.ts';
import { StudyDocument } from '../../core/model/study-document.ts';
import { counted, wordFor } from '../../core/quantity/format.ts';
import {
  checkFiles,
  checkLevelsOf,
  checkPart,
  checkPlanSize,
  checkReading,
} from '../../core/record/checks.ts';
import type { Row, Writes } from '../database.ts';
import { invalid } from '../problems.ts';
import type { Store, Stored } from './store.ts';

/** Fetches what a part refers to, in the same study; refuses what is not there. */
async function referredBy(
  store: Store,
  kind: PartKind,
  studyId: string,
  part: Row,
): Promise<Map<PartKind, Stored>> {
  const named = Object.entries(PART_KINDS[kind].refers).flatMap(([field, other]) => {
    const id = part[field];
    return typeof id === 'string' ? [{ field, other, id }] : [];
  });
  const found = await Promise.all(
    named.map(async ({ field, other, id }) => {
      const row = await store.part(other, studyId, id);
      if (row) return [other, row] as const;
      const message = `The study has no ${PART_KINDS[other].word} with this id.`;
      throw invalid([{ path: `/${field}`, message }]);
    }),
  );
  return new Map(found);
}

async function problemsOf(store: Store, kind: PartKind, studyId: string, part: Row) {
  const referred = await referredBy(store, kind, studyId, part);
  if (kind === 'readings') {
    // Readings come one after the other at the bench, so only what they need is fetched.
    const reading = part as unknown as Reading;
    return [
      ...checkReading(reading, referred.get('measurands') as unknown as Measurand | undefined),
      ...(reading.levels.length > 0
        ? checkLevelsOf(reading, await store.list<Level>('levels', studyId))
        : []),
    ];
  }
  if (kind === 'files') {
    const others = (await store.list<FilePart>('files', studyId)).filter(({ id }) => id !== part.id);
    return checkFiles([...others, part as unknown as FilePart]);
  }
  const context = PART_KINDS[kind].plan ? await store.planContext(studyId) : EMPTY;
  return checkPart(kind, part, context);
}

/** Refuses a part that does not fit its study. @throws Problem that names the fields */
export async function checkFits(store: Store, kind: PartKind, studyId: string, part: Row): Promise<void> {
  await store.refuseDeleted(studyId);
  const problems = await problemsOf(store, kind, studyId, part);
  if (problems.length > 0) throw invalid(problems);
}

/** Refuses a change that makes the plan larger than any bench can take; the caller holds a transaction. */
export async function checkSize(store: Store, kind: PartKind, studyId: string): Promise<void> {
  if (!PART_KINDS[kind].sizesPlan) return;
  const study = await store.study(studyId);
  const problems = checkPlanSize({ ...EMPTY, study, ...(await store.planContext(studyId)) });
  if (problems.length > 0) throw invalid(problems);
}

/** Refuses one more than a study may hold, since no file of it could be read. */
export async function checkCount(writer: Writes, kind: PartKind, studyId: string): Promise<void> {
  const { maxItems } = StudyDocument.properties[kind] as unknown as { maxItems: number };
  if (!(await writer.hasMore(kind, studyId, maxItems))) return;
  throw invalid([
    { path: '', message: `A study holds at most ${counted(maxItems, PART_KINDS[kind].word)}.` },
  ]);
}

/** Refuses another unit or setting under which the texts of the readings would mean something else. */
export async function checkMeaning(writer: Writes, before: Measurand, after: Measurand): Promise<void> {
  const otherForm = after.form !== before.form;
  const otherUnit = after.unit !== before.unit;
  const sameMeaning =
    !otherUnit &&
    !otherForm &&
    after.expression === before.expression &&
    isEqual(after.settings, before.settings);
  if (sameMeaning) return;
  const figures = await writer.count('figures', { measurandId: after.id });
  if (figures > 0 && (otherUnit || otherForm)) {
    throw invalid([
      {
        path: otherForm ? '/form' : '/unit',
        message: `${counted(figures, 'figure')} from elsewhere would mean something else then. Take ${wordFor(figures, 'it', 'them')} out first.`,
      },
    ]);
  }
  const readings = (await writer.select('readings', { measurandId: after.id })) as unknown as Reading[];
  const otherwise = readings.filter((reading) => checkReading(reading, after).length > 0).length;
  if (otherwise === 0) return;
  throw invalid([
    {
      path: otherForm ? '/form' : otherUnit ? '/unit' : '/settings',
      message: `${counted(otherwise, 'reading')} would mean something else then, so this stays as it was when they were taken.`,
    },
  ]);
}
