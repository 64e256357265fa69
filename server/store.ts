import isEqual from 'lodash/isEqual.js';
import { v7 } from 'uuid';
import type { PlanContext } from '../core/record/plan-context.ts';
import { counted } from '../core/quantity/format.ts';
import { WATCHED_FIELDS } from '../core/model/words.ts';
import type { Study } from '../core/model/study.ts';
import { PART_KINDS, PART_KIND_NAMES, type PartKind } from '../core/model/part-kinds.ts';
import { STUDY_FORMAT, STUDY_FORMAT_VERSION } from '../core/model/study-format.ts';
import type { StudyDocument } from '../core/model/study-document.ts';
import type { Database, Row, TableName } from './database.ts';
import type { Way } from './heavy/heavy.ts';
import { Problem, notFound } from './problems.ts';

/** A study or a part as it is stored. */
export type Stored = Row & { id: string; version: number };

/** Fields that hold ids within a list or an object, beside those that hold nothing else. */
const NAMED_WITHIN: Partial<Record<PartKind, readonly (readonly [PartKind, string])[]>> = {
  levels: [
    ['readings', 'levels'],
    ['figures', 'levels'],
  ],
  files: [['readings', 'parts']],
  calibrations: [['readings', 'parts']],
  conditions: [['sessions', 'conditions']],
};

const wordFor = (table: TableName) => (table === 'studies' ? 'study' : PART_KINDS[table].word);

/** Reads and writes of studies and their parts; every rule about ids and versions is here. */
export function createStore(database: Database) {
  const { committed, writer } = database;

  /** A study or a part as the writer sees it, undefined where there is none. */
  const find = async <T extends Row>(table: TableName, id: string): Promise<T | undefined> =>
    (await writer.select(table, { id }))[0] as T | undefined;

  /** @throws Problem where there is no such study */
  const study = async (id: string): Promise<Study> => {
    const found = await find<Study & Row>('studies', id);
    if (!found) throw notFound('study');
    return found;
  };

  /** Refuses what is recorded for a study that was deleted. */
  const refuseDeleted = async (id: string): Promise<void> => {
    if ((await study(id)).status === 'deleted')
      throw new Problem(409, 'Deleted', 'This study was deleted. Take it back first, then record.');
  };

  /** One part of a study, undefined where there is none. */
  const part = async (kind: PartKind, studyId: string, id: string) =>
    (await writer.select(kind, { id, studyId }))[0] as Stored | undefined;

  /** @throws Problem where there is no such part */
  const partThere = async (kind: PartKind, studyId: string, id: string): Promise<Stored> => {
    const found = await part(kind, studyId, id);
    if (!found) throw notFound(PART_KINDS[kind].word);
    return found;
  };

  /** The parts as the writer sees them, in the middle of its work too. */
  const list = async <T>(kind: PartKind, studyId: string): Promise<T[]> =>
    (await writer.select(kind, { studyId })) as T[];

  /**
   * Creates once: the same request again finds what it made; the same id with other contents is refused.
   * `ours` is compared, the server's own stamps are not; `check` may refuse what is new.
   */
  const createOnce = async (
    table: TableName,
    ours: Row,
    check: (ours: Row) => Promise<void> = () => Promise.resolve(),
  ) => {
    const current = await find(table, String(ours.id));
    if (current) {
      const repeated =
        current.version === 1 && Object.entries(ours).every(([key, value]) => isEqual(value, current[key]));
      if (repeated) return { part: current, created: false };
      throw new Problem(409, 'Id taken', `There is another ${wordFor(table)} with this id.`, { current });
    }
    await check(ours);
    const now = new Date().toISOString();
    const made = { ...ours, version: 1, createdAt: now, updatedAt: now };
    await writer.insert(table, [made]);
    return { part: made as Row, created: true };
  };

  /** @throws Problem where what is to be changed was changed since */
  const refuseStale = (current: Stored, version: unknown, word: string) => {
    if (current.version === version) return;
    throw new Problem(
      409,
      'Changed elsewhere',
      `This ${word} was changed somewhere else in the meantime; your change is not lost, look at both.`,
      { current },
    );
  };

  /** Changes fields of a study or a part, whose version counts up. @returns as it is then */
  const update = async <T extends Stored>(table: TableName, before: T, changes: Row): Promise<T> => {
    const fields = { ...changes, version: before.version + 1, updatedAt: new Date().toISOString() };
    await writer.update(table, before.id, fields);
    return { ...before, ...fields };
  };

  /**
   * Writes down what changes of what the plan promised, with how many readings there were that it bears on; the
   * caller holds a transaction. A whole claim counts as one field.
   * @returns what was written down
   */
  const logChanges = async (
    studyId: string,
    { measurandId = null, itemId = null }: Partial<Record<'measurandId' | 'itemId', string | null>>,
    before: Row,
    after: Row,
  ): Promise<Row[]> => {
    const fields = WATCHED_FIELDS.filter((field) => field in after && !isEqual(before[field], after[field]));
    if (fields.length === 0) return [];
    const about = itemId !== null ? { itemId } : measurandId !== null ? { measurandId } : { studyId };
    const readingsThen = await writer.count('readings', about);
    // An item that was not read may change as it likes, and go.
    if (itemId !== null && readingsThen === 0) return [];
    const now = new Date().toISOString();
    const changes = fields.map((field) => ({
      id: v7(),
      studyId,
      version: 1,
      createdAt: now,
      updatedAt: now,
      measurandId,
      itemId,
      field,
      before: JSON.stringify(before[field] ?? null),
      after: JSON.stringify(after[field] ?? null),
      readingsThen,
      reason: '',
      changedAt: now,
    }));
    await writer.insert('changes', changes);
    return changes;
  };

  /** A whole study, as it is at one moment. */
  const document = async (studyId: string): Promise<StudyDocument> => {
    const state = await database.snapshot();
    try {
      const [study] = await state.select('studies', { id: studyId });
      if (!study) throw notFound('study');
      const parts: [PartKind, unknown][] = [];
      for (const kind of PART_KIND_NAMES) parts.push([kind, await state.select(kind, { studyId })]);
      return {
        format: STUDY_FORMAT,
        formatVersion: STUDY_FORMAT_VERSION,
        study,
        ...Object.fromEntries(parts),
      } as StudyDocument;
    } finally {
      await state.close();
    }
  };

  /** The document of a study as JSON text, piece by piece; `most` readings where not all are wanted. */
  async function* documentText(studyId: string, most = Infinity): AsyncGenerator<string> {
    const state = await database.snapshot();
    try {
      const [study] = await state.select('studies', { id: studyId });
      if (!study) throw notFound('study');
      const head = { format: STUDY_FORMAT, formatVersion: STUDY_FORMAT_VERSION, study };
      yield JSON.stringify(head, null, 1).slice(0, -2);
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
  async function* readingsText(studyId: string, behind: string, most: number): AsyncGenerator<string> {
    if ((await committed.count('readings', { id: behind, studyId })) === 0) throw notFound('reading');
    yield '[';
    let before = '';
    for await (const texts of committed.jsonTexts('readings', studyId, { behind, most })) {
      yield `${before}${texts.join(',\n')}`;
      before = ',\n';
    }
    yield ']';
  }

  /** Parts that are written or erased at a time, so that others have their turn in between. */
  const AT_A_TIME = 2000;

  /** Writes a whole study, a little at a time; it counts as deleted until all of it is there, and is gone when it is stopped. */
  const insertBitByBit = async (whole: StudyDocument, { signal, say }: Way = {}) => {
    await database.write(() => writer.insert('studies', [{ ...whole.study, status: 'deleted' }]));
    const { id, status } = whole.study;
    const all = PART_KIND_NAMES.reduce((sum, kind) => sum + whole[kind].length, 0);
    let done = 0;
    try {
      for (const kind of PART_KIND_NAMES) {
        for (let from = 0; from < whole[kind].length; from += AT_A_TIME) {
          signal?.throwIfAborted();
          const some = whole[kind].slice(from, from + AT_A_TIME);
          await database.write(() => writer.insert(kind, some), { transaction: true });
          done += some.length;
          say?.({ doing: 'Writing it down', share: done / all });
        }
      }
    } catch (error) {
      await eraseStudy(id);
      throw error;
    }
    await database.write(() => writer.update('studies', id, { status }));
  };

  /** Erases a study for good, a little at a time. */
  const eraseStudy = async (id: string) => {
    for (const kind of [...PART_KIND_NAMES].reverse()) {
      let left = await committed.count(kind, { studyId: id });
      for (; left > 0; left -= AT_A_TIME) await database.write(() => writer.deleteLast(kind, id, AT_A_TIME));
    }
    await database.write(() => writer.delete('studies', id));
  };

  /** Writes a whole study; the caller holds a transaction. */
  const insertDocument = async (whole: StudyDocument) => {
    await writer.insert('studies', [{ ...whole.study }]);
    for (const kind of PART_KIND_NAMES) await writer.insert(kind, whole[kind]);
  };

  /** Any id of the document that the database has already, in whatever study. */
  const takenId = async (whole: StudyDocument): Promise<boolean> => {
    for (const kind of PART_KIND_NAMES) {
      if (
        await writer.hasAny(
          kind,
          whole[kind].map(({ id }) => id),
        )
      )
        return true;
    }
    return false;
  };

  /** The parts of a plan that others are checked against. */
  const planContext = async (studyId: string): Promise<PlanContext> => ({
    items: await list('items', studyId),
    measurands: await list('measurands', studyId),
    factors: await list('factors', studyId),
    levels: await list('levels', studyId),
    conditions: await list('conditions', studyId),
  });

  /** What still points to a part: “3 readings”, “1 claim”. */
  const pointingTo = async (kind: PartKind, studyId: string, id: string): Promise<string[]> => {
    const found: string[] = [];
    for (const other of PART_KIND_NAMES) {
      const { refers, word, serverMade } = PART_KINDS[other];
      // What the server wrote about a part goes with it.
      if (serverMade) continue;
      for (const [field, referred] of Object.entries(refers)) {
        if (referred !== kind) continue;
        const count = await writer.count(other, { [field]: id });
        if (count > 0) found.push(counted(count, word));
      }
    }
    for (const [other, field] of NAMED_WITHIN[kind] ?? []) {
      const count = await writer.countNaming(other, studyId, field, id);
      if (count > 0) found.push(counted(count, PART_KINDS[other].word));
    }
    return found;
  };

  /** All studies that are not deleted, the one that was changed last first. */
  const studies = async (): Promise<Study[]> =>
    ((await committed.select('studies', {})) as unknown as Study[])
      .filter(({ status }) => status !== 'deleted')
      .sort((a, b) => (a.updatedAt < b.updatedAt ? 1 : a.updatedAt > b.updatedAt ? -1 : 0));

  return {
    database,
    find,
    study,
    refuseDeleted,
    list,
    part,
    partThere,
    createOnce,
    refuseStale,
    update,
    logChanges,
    planContext,
    pointingTo,
    document,
    insertDocument,
    takenId,
    studies,
    documentText,
    readingsText,
    insertBitByBit,
    eraseStudy,
  };
}

export type Store = ReturnType<typeof createStore>;
