import { Op, cast, col, where } from 'sequelize';
import { v7 } from 'uuid';
import type { PlanContext } from '../core/record/plan-context.ts';
import { counted } from '../core/quantity/format.ts';
import { WATCHED_FIELDS } from '../core/model/words.ts';
import type { Study } from '../core/model/study.ts';
import { PART_KINDS, PART_KIND_NAMES, type PartKind } from '../core/model/part-kinds.ts';
import { STUDY_FORMAT, STUDY_FORMAT_VERSION } from '../core/model/study-format.ts';
import type { StudyDocument } from '../core/model/study-document.ts';
import type { Row, TableName } from './db/models.ts';
import { connectionOf, insertRows, jsonRows, runSql, selectRows } from './db/rows.ts';
import type { Database } from './db/open.ts';
import type { Way } from './heavy/heavy.ts';
import { Problem, notFound } from './problems.ts';

export interface StoredPart {
  id: string;
  studyId: string;
  version: number;
  [field: string]: unknown;
}

const wordFor = (table: TableName) => (table === 'studies' ? 'study' : PART_KINDS[table].word);

function plain<T>(row: Row): T {
  const { seq: _seq, ...part } = row.get({ plain: true });
  return part as T;
}

/** Whether two JSON values hold the same, whatever the order of their keys. */
export function sameJson(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (Array.isArray(a) !== Array.isArray(b)) return false;
  const [left, right] = [Object.entries(a), Object.keys(b)];
  return (
    left.length === right.length &&
    left.every(([key, value]) => sameJson(value, (b as Record<string, unknown>)[key]))
  );
}

/** Reads and writes of studies and their parts; every rule about ids and versions is here. */
export function createStore(database: Database) {
  const { tables } = database;

  const find = async (table: TableName, id: string) => tables[table].findOne({ where: { id } });

  const studyRow = async (id: string): Promise<Row> => {
    const row = await find('studies', id);
    if (!row) throw notFound('study');
    return row;
  };

  /** Refuses what is recorded for a study that was deleted. */
  const refuseDeleted = async (id: string): Promise<void> => {
    const [study] = await selectRows(await connectionOf(database.sequelize), tables.studies, { id });
    if (!study) throw notFound('study');
    if (study.status === 'deleted')
      throw new Problem(409, 'Deleted', 'This study was deleted. Take it back first, then record.');
  };

  const partRow = async (kind: PartKind, studyId: string, id: string): Promise<Row> => {
    const row = await tables[kind].findOne({ where: { id, studyId } });
    if (!row) throw notFound(PART_KINDS[kind].word);
    return row;
  };

  /** The parts as the writer sees them, in the middle of its work too. */
  const list = async <T>(kind: PartKind, studyId: string): Promise<T[]> =>
    (await selectRows(await connectionOf(database.sequelize), tables[kind], { studyId })) as T[];

  /** What is committed; a table that is just being read in, and may yet be taken back, is not. */
  const committed = async <T>(table: TableName, where: Record<string, string>): Promise<T[]> =>
    (await selectRows(database.reader, tables[table], where)) as T[];

  /** One part of a study, undefined where there is none. */
  const part = async (kind: PartKind, studyId: string, id: string) =>
    (await selectRows(await connectionOf(database.sequelize), tables[kind], { id, studyId }))[0];

  /**
   * Creates once: the same request again finds what it made; the same id with other contents is refused.
   * `ours` is compared, the server's own stamps are not; `check` may refuse what is new.
   */
  const createOnce = async (
    table: TableName,
    ours: Record<string, unknown>,
    check: (ours: Record<string, unknown>) => Promise<void> = () => Promise.resolve(),
  ) => {
    const writer = await connectionOf(database.sequelize);
    const [current] = await selectRows(writer, tables[table], { id: String(ours.id) });
    if (current) {
      const repeated =
        current.version === 1 && Object.entries(ours).every(([key, value]) => sameJson(value, current[key]));
      if (repeated) return { part: current, created: false };
      throw new Problem(409, 'Id taken', `There is another ${wordFor(table)} with this id.`, { current });
    }
    await check(ours);
    const now = new Date().toISOString();
    const made = { ...ours, version: 1, createdAt: now, updatedAt: now };
    await insertRows(database.sequelize, tables[table], [made]);
    return { part: made as Record<string, unknown>, created: true };
  };

  const refuseStale = (row: Row, version: unknown, word: string) => {
    const current = plain<StoredPart>(row);
    if (current.version !== version) {
      throw new Problem(
        409,
        'Changed elsewhere',
        `This ${word} was changed somewhere else in the meantime; your change is not lost, look at both.`,
        { current },
      );
    }
  };

  const update = async (row: Row, changes: Record<string, unknown>) => {
    const current = plain<StoredPart>(row);
    await row.update({ ...changes, version: current.version + 1, updatedAt: new Date().toISOString() });
    return plain<StoredPart>(row);
  };

  /**
   * Writes down what changes of what the plan promised, with how many readings there were that it bears on; the
   * caller holds a transaction. A whole claim counts as one field.
   * @returns what was written down
   */
  const logChanges = async (
    studyId: string,
    { measurandId = null, itemId = null }: Partial<Record<'measurandId' | 'itemId', string | null>>,
    before: Record<string, unknown>,
    after: Record<string, unknown>,
  ): Promise<Record<string, unknown>[]> => {
    const fields = WATCHED_FIELDS.filter((field) => field in after && !sameJson(before[field], after[field]));
    if (fields.length === 0) return [];
    const about = itemId !== null ? { itemId } : measurandId !== null ? { measurandId } : { studyId };
    const readingsThen = await tables.readings.count({ where: about });
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
    await insertRows(database.sequelize, tables.changes, changes);
    return changes;
  };

  /** A whole study, as it is at one moment. */
  const document = async (studyId: string): Promise<StudyDocument> => {
    const { connection, close } = await database.snapshot();
    try {
      const [study] = await selectRows(connection, tables.studies, { id: studyId });
      if (!study) throw notFound('study');
      const parts: [PartKind, unknown][] = [];
      for (const kind of PART_KIND_NAMES)
        parts.push([kind, await selectRows(connection, tables[kind], { studyId })]);
      return {
        format: STUDY_FORMAT,
        formatVersion: STUDY_FORMAT_VERSION,
        study,
        ...Object.fromEntries(parts),
      } as StudyDocument;
    } finally {
      await close();
    }
  };

  /** Writes many parts, made as they are asked for; the caller holds a transaction and has checked them. */
  const insertMany = async (
    kind: PartKind,
    parts: Iterable<Record<string, unknown>>,
    signal?: AbortSignal,
  ) => {
    await insertRows(database.sequelize, tables[kind], parts, signal);
  };

  /** The document of a study as JSON text, piece by piece; `most` readings where not all are wanted. */
  async function* documentText(studyId: string, most = Infinity): AsyncGenerator<string> {
    const { connection, close } = await database.snapshot();
    try {
      const [study] = await selectRows(connection, tables.studies, { id: studyId });
      if (!study) throw notFound('study');
      const head = { format: STUDY_FORMAT, formatVersion: STUDY_FORMAT_VERSION, study };
      yield JSON.stringify(head, null, 1).slice(0, -2);
      for (const kind of PART_KIND_NAMES) {
        yield `,\n "${kind}": [`;
        let before = '\n  ';
        const some = kind === 'readings' ? { most } : {};
        for await (const texts of jsonRows(connection, tables[kind], studyId, some)) {
          yield `${before}${texts.join(',\n  ')}`;
          before = ',\n  ';
        }
        yield before === ',\n  ' ? '\n ]' : ']';
      }
      yield '\n}\n';
    } finally {
      await close();
    }
  }

  /** Readings of a study behind one of them, as a JSON list, so many at most. */
  async function* readingsText(studyId: string, behind: string, most: number): AsyncGenerator<string> {
    if (!(await tables.readings.count({ where: { id: behind, studyId } }))) throw notFound('reading');
    yield '[';
    let before = '';
    for await (const texts of jsonRows(database.reader, tables.readings, studyId, { behind, most })) {
      yield `${before}${texts.join(',\n')}`;
      before = ',\n';
    }
    yield ']';
  }

  /** Parts that are written or erased at a time, so that others have their turn in between. */
  const AT_A_TIME = 2000;

  /** Writes a whole study, a little at a time; it counts as deleted until all of it is there, and is gone when it is stopped. */
  const insertBitByBit = async (whole: StudyDocument, { signal, say }: Way = {}) => {
    await database.write(() => tables.studies.create({ ...whole.study, status: 'deleted' }));
    const { id, status } = whole.study;
    const all = PART_KIND_NAMES.reduce((sum, kind) => sum + whole[kind].length, 0);
    let done = 0;
    try {
      for (const kind of PART_KIND_NAMES) {
        for (let from = 0; from < whole[kind].length; from += AT_A_TIME) {
          signal?.throwIfAborted();
          const some = whole[kind].slice(from, from + AT_A_TIME);
          await database.write(() => insertMany(kind, some), { transaction: true });
          done += some.length;
          say?.({ doing: 'Writing it down', share: done / all });
        }
      }
    } catch (error) {
      await eraseStudy(id);
      throw error;
    }
    await database.write(() => tables.studies.update({ status }, { where: { id } }));
  };

  /** Erases a study for good, a little at a time. */
  const eraseStudy = async (id: string) => {
    for (const kind of [...PART_KIND_NAMES].reverse()) {
      const { tableName } = tables[kind];
      let left = await tables[kind].count({ where: { studyId: id } });
      for (; left > 0; left -= AT_A_TIME) {
        await database.write(() =>
          runSql(
            database.sequelize,
            `DELETE FROM "${tableName}" WHERE seq IN (SELECT seq FROM "${tableName}" WHERE studyId = ? ORDER BY seq DESC LIMIT ${String(AT_A_TIME)})`,
            [id],
          ),
        );
      }
    }
    await database.write(() => tables.studies.destroy({ where: { id } }));
  };

  /** Writes a whole study; the caller holds a transaction. */
  const insertDocument = async (whole: StudyDocument) => {
    await tables.studies.create({ ...whole.study });
    for (const kind of PART_KIND_NAMES) {
      await insertMany(kind, whole[kind]);
    }
  };

  /** Any id of the document that the database has already, in whatever study. */
  const takenId = async (whole: StudyDocument): Promise<boolean> => {
    for (const kind of PART_KIND_NAMES) {
      const ids = whole[kind].map(({ id }) => id);
      for (let at = 0; at < ids.length; at += 500) {
        const found = await tables[kind].findOne({ where: { id: { [Op.in]: ids.slice(at, at + 500) } } });
        if (found) return true;
      }
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
  const pointingTo = async (kind: PartKind, id: string): Promise<string[]> => {
    const found: string[] = [];
    for (const other of PART_KIND_NAMES) {
      const { refers, word, serverMade } = PART_KINDS[other];
      // What the server wrote about a part goes with it.
      if (serverMade) continue;
      for (const [field, referred] of Object.entries(refers)) {
        if (referred !== kind) continue;
        const count = await tables[other].count({ where: { [field]: id } });
        if (count > 0) found.push(counted(count, word));
      }
    }
    if (kind === 'levels') {
      const count = await tables.readings.count({
        where: where(cast(col('levels'), 'TEXT'), { [Op.like]: `%${id}%` }),
      });
      if (count > 0) found.push(counted(count, 'reading'));
    }
    if (kind === 'levels') {
      const count = await tables.figures.count({
        where: where(cast(col('levels'), 'TEXT'), { [Op.like]: `%${id}%` }),
      });
      if (count > 0) found.push(counted(count, 'figure'));
    }
    if (kind === 'files' || kind === 'calibrations') {
      const count = await tables.readings.count({
        where: where(cast(col('parts'), 'TEXT'), { [Op.like]: `%${id}%` }),
      });
      if (count > 0) found.push(counted(count, 'reading'));
    }
    if (kind === 'conditions') {
      const count = await tables.sessions.count({
        where: where(cast(col('conditions'), 'TEXT'), { [Op.like]: `%${id}%` }),
      });
      if (count > 0) found.push(counted(count, 'session'));
    }
    return found;
  };

  /** All studies that are not deleted, the one that was changed last first. */
  const studies = async (): Promise<Study[]> =>
    (await committed<Study>('studies', {}))
      .filter(({ status }) => status !== 'deleted')
      .sort((a, b) => (a.updatedAt < b.updatedAt ? 1 : a.updatedAt > b.updatedAt ? -1 : 0));

  return {
    database,
    tables,
    plain,
    find,
    studyRow,
    refuseDeleted,
    partRow,
    list,
    committed,
    part,
    createOnce,
    refuseStale,
    update,
    logChanges,
    planContext,
    pointingTo,
    document,
    insertMany,
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
