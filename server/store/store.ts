import isEqual from 'lodash/isEqual.js';
import { byText } from '../../core/model/in-order.ts';
import { PART_KINDS, PART_KIND_NAMES, type PartKind } from '../../core/model/part-kinds.ts';
import type { Study } from '../../core/model/study.ts';
import { counted } from '../../core/quantity/format.ts';
import type { PlanContext } from '../../core/record/plan-context.ts';
import type { Database, Row, TableName } from '../database.ts';
import { Problem, notFound } from '../problems.ts';

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

/** @throws Problem where what is to be changed was changed since */
export function refuseStale(current: Stored, version: unknown, word: string): void {
  if (current.version === version) return;
  throw new Problem(
    409,
    'Changed elsewhere',
    `This ${word} was changed somewhere else in the meantime; your change is not lost, look at both.`,
    { current },
  );
}

/** Reads and writes of studies and their parts; every rule about ids and versions is here. */
export class Store {
  constructor(readonly database: Database) {}

  /** A study or a part as the writer sees it, undefined where there is none. */
  async find<T extends Row>(table: TableName, id: string): Promise<T | undefined> {
    return (await this.database.writer.select(table, { id }))[0] as T | undefined;
  }

  /** @throws Problem where there is no such study */
  async study(id: string): Promise<Study> {
    const found = await this.find<Study & Row>('studies', id);
    if (!found) throw notFound('study');
    return found;
  }

  /** Refuses what is recorded for a study that was deleted. */
  async refuseDeleted(id: string): Promise<void> {
    if ((await this.study(id)).status === 'deleted')
      throw new Problem(409, 'Deleted', 'This study was deleted. Take it back first, then record.');
  }

  /** One part of a study, undefined where there is none. */
  async part(kind: PartKind, studyId: string, id: string): Promise<Stored | undefined> {
    return (await this.database.writer.select(kind, { id, studyId }))[0] as Stored | undefined;
  }

  /** @throws Problem where there is no such part */
  async partThere(kind: PartKind, studyId: string, id: string): Promise<Stored> {
    const found = await this.part(kind, studyId, id);
    if (!found) throw notFound(PART_KINDS[kind].word);
    return found;
  }

  /** The parts as the writer sees them, in the middle of its work too. */
  async list<T>(kind: PartKind, studyId: string): Promise<T[]> {
    return (await this.database.writer.select(kind, { studyId })) as T[];
  }

  /**
   * Creates once: the same request again finds what it made; the same id with other contents is refused.
   * `ours` is compared, the server's own stamps are not; `check` may refuse what is new.
   */
  async createOnce(
    table: TableName,
    ours: Row,
    check: (ours: Row) => Promise<void> = () => Promise.resolve(),
  ): Promise<{ part: Row; created: boolean }> {
    const current = await this.find(table, String(ours.id));
    if (current) {
      const repeated =
        current.version === 1 && Object.entries(ours).every(([key, value]) => isEqual(value, current[key]));
      if (repeated) return { part: current, created: false };
      throw new Problem(409, 'Id taken', `There is another ${wordFor(table)} with this id.`, { current });
    }
    await check(ours);
    const now = new Date().toISOString();
    const made = { ...ours, version: 1, createdAt: now, updatedAt: now };
    await this.database.writer.insert(table, [made]);
    return { part: made, created: true };
  }

  /** Changes fields of a study or a part, whose version counts up. @returns as it is then */
  async update<T extends Stored>(table: TableName, before: T, changes: Row): Promise<T> {
    const fields = { ...changes, version: before.version + 1, updatedAt: new Date().toISOString() };
    await this.database.writer.update(table, before.id, fields);
    return { ...before, ...fields };
  }

  /** The parts of a plan that others are checked against. */
  async planContext(studyId: string): Promise<PlanContext> {
    return {
      items: await this.list('items', studyId),
      measurands: await this.list('measurands', studyId),
      factors: await this.list('factors', studyId),
      levels: await this.list('levels', studyId),
      conditions: await this.list('conditions', studyId),
    };
  }

  /** What still points to a part: “3 readings”, “1 claim”. */
  async pointingTo(kind: PartKind, studyId: string, id: string): Promise<string[]> {
    const { writer } = this.database;
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
  }

  /** All studies that are not deleted, the one that was changed last first. */
  async studies(): Promise<Study[]> {
    return ((await this.database.committed.select('studies', {})) as unknown as Study[])
      .filter(({ status }) => status !== 'deleted')
      .sort((a, b) => byText(b.updatedAt, a.updatedAt));
  }
}
