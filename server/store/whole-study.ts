import { PART_KIND_NAMES } from '../../core/model/part-kinds.ts';
import type { StudyDocument } from '../../core/model/study-document.ts';
import { STUDY_FORMAT, STUDY_FORMAT_VERSION } from '../../core/model/study-format.ts';
import type { Database, Snapshot, Writes } from '../database.ts';
import type { Way } from '../heavy/heavy.ts';
import { notFound } from '../problems.ts';

/** Parts that are written or erased at a time, so that others have their turn in between. */
const AT_A_TIME = 2000;

const headOf = async (state: Snapshot, studyId: string) => {
  const [study] = await state.select('studies', { id: studyId });
  if (!study) throw notFound('study');
  return { format: STUDY_FORMAT, formatVersion: STUDY_FORMAT_VERSION, study };
};

/** A whole study, as it is at one moment. @throws Problem where there is no such study */
export async function readDocument(database: Database, studyId: string): Promise<StudyDocument> {
  const state = await database.snapshot();
  try {
    const parts: Record<string, unknown> = await headOf(state, studyId);
    for (const kind of PART_KIND_NAMES) parts[kind] = await state.select(kind, { studyId });
    return parts as unknown as StudyDocument;
  } finally {
    await state.close();
  }
}

/** The document of a study as JSON text, piece by piece; `most` readings where not all are wanted. */
export async function* documentText(
  database: Database,
  studyId: string,
  most = Infinity,
): AsyncGenerator<string> {
  const state = await database.snapshot();
  try {
    yield JSON.stringify(await headOf(state, studyId), null, 1).slice(0, -2);
    for (const kind of PART_KIND_NAMES) {
      yield `,\n "${kind}": [`;
      let before = '\n  ';
      const some = kind === 'readings' ? { most } : {};
      for await (const texts of state.jsonTexts(kind, studyId, some)) {
        yield `${before}${texts.join(',\n  ')}`;
        before = ',\n  ';
      }
      yield before === ',\n  ' ? '\n ]' : ']';
    }
    yield '\n}\n';
  } finally {
    await state.close();
  }
}

/** Readings of a study behind one of them, as a JSON list, so many at most. */
export async function* readingsText(
  { committed }: Database,
  studyId: string,
  behind: string,
  most: number,
): AsyncGenerator<string> {
  if ((await committed.count('readings', { id: behind, studyId })) === 0) throw notFound('reading');
  yield '[';
  let before = '';
  for await (const texts of committed.jsonTexts('readings', studyId, { behind, most })) {
    yield `${before}${texts.join(',\n')}`;
    before = ',\n';
  }
  yield ']';
}

/** Writes a whole study; the caller holds a transaction. */
export async function insertDocument(writer: Writes, whole: StudyDocument): Promise<void> {
  await writer.insert('studies', [{ ...whole.study }]);
  for (const kind of PART_KIND_NAMES) await writer.insert(kind, whole[kind]);
}

/**
 * Writes a whole study, a little at a time; it counts as deleted until all of it is there, and is gone when it is
 * stopped.
 */
export async function insertBitByBit(
  database: Database,
  whole: StudyDocument,
  { signal, say }: Way = {},
): Promise<void> {
  const { write, writer } = database;
  await write(() => writer.insert('studies', [{ ...whole.study, status: 'deleted' }]));
  const { id, status } = whole.study;
  const all = PART_KIND_NAMES.reduce((sum, kind) => sum + whole[kind].length, 0);
  let done = 0;
  try {
    for (const kind of PART_KIND_NAMES) {
      for (let from = 0; from < whole[kind].length; from += AT_A_TIME) {
        signal?.throwIfAborted();
        const some = whole[kind].slice(from, from + AT_A_TIME);
        await write(() => writer.insert(kind, some), { transaction: true });
        done += some.length;
        say?.({ doing: 'Writing it down', share: done / all });
      }
    }
  } catch (error) {
    await eraseStudy(database, id);
    throw error;
  }
  await write(() => writer.update('studies', id, { status }));
}

/** Erases a study for good, a little at a time. */
export async function eraseStudy({ committed, write, writer }: Database, id: string): Promise<void> {
  for (const kind of [...PART_KIND_NAMES].reverse()) {
    let left = await committed.count(kind, { studyId: id });
    for (; left > 0; left -= AT_A_TIME) await write(() => writer.deleteLast(kind, id, AT_A_TIME));
  }
  await write(() => writer.delete('studies', id));
}

/** Whether the database has an id of the document already, in whatever study. */
export async function hasTakenId(writer: Writes, whole: StudyDocument): Promise<boolean> {
  for (const kind of PART_KIND_NAMES) {
    const ids = whole[kind].map(({ id }) => id);
    if (await writer.hasAny(kind, ids)) return true;
  }
  return false;
}
