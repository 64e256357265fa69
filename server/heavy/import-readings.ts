import { randomBytes } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import Type from 'typebox';
import { v7 } from 'uuid';
import { readingForm } from '../../core/forms/index.ts';
import { Id, Instant, closed, nullable } from '../../core/model/common.ts';
import { MOST_ITEMS, MOST_MEASURANDS, MOST_READINGS } from '../../core/model/limits.ts';
import { type Measurand, type Reading, type Session, SessionFields } from '../../core/model/parts.ts';
import { formatNumber } from '../../core/quantity/format.ts';
import { checkLevelsOf } from '../../core/record/checks.ts';
import { parseJson } from '../body.ts';
import { Problem, invalid } from '../problems.ts';
import type { Store } from '../store/store.ts';
import { schemaProblems } from '../validate.ts';

const Text = Type.String({ maxLength: 60 });

/** Readings in a form that is short: each row points to its item, measurand and setting by number. */
const ImportedReadings = Type.Object(
  {
    session: Type.Object({ id: Id, ...SessionFields }, closed),
    items: Type.Array(Id, { maxItems: MOST_ITEMS }),
    measurands: Type.Array(Id, { maxItems: MOST_MEASURANDS }),
    settings: Type.Array(Type.Array(Type.Object({ factorId: Id, levelId: Id }, closed), { maxItems: 12 }), {
      maxItems: 20000,
    }),
    rows: Type.Array(
      Type.Object(
        {
          item: Type.Integer({ minimum: 0 }),
          measurand: Type.Integer({ minimum: 0 }),
          setting: Type.Integer({ minimum: 0 }),
          round: Type.Integer({ minimum: 1, maximum: 10000 }),
          texts: Type.Record(Type.String({ maxLength: 40 }), Text),
          takenAt: nullable(Instant),
        },
        closed,
      ),
      { minItems: 1, maxItems: MOST_READINGS },
    ),
  },
  closed,
);

interface ImportBody {
  session: Session;
  items: string[];
  measurands: string[];
  settings: Reading['levels'][];
  rows: {
    item: number;
    measurand: number;
    setting: number;
    round: number;
    texts: Record<string, string>;
    takenAt: string | null;
  }[];
}

interface Plan {
  items: Set<string>;
  measurands: Map<string, Measurand>;
  /** Readings that the study has so far. */
  before: number;
}

/** The readings of the rows, made as they are asked for. @throws Problem for the first row that is none */
function* readingsOf(body: ImportBody, { items, measurands, before }: Plan, stamp: Record<string, unknown>) {
  // Random bits for all ids at once: asked for one by one they take longer than the rest of the row.
  const random = randomBytes(16 * body.rows.length);
  const msecs = Date.now();
  for (const [i, row] of body.rows.entries()) {
    const wrong = (field: string, message: string) =>
      invalid([{ path: `/rows/${String(i)}/${field}`, message }]);
    const itemId = body.items[row.item];
    if (itemId === undefined || !items.has(itemId)) throw wrong('item', 'The study has no such item.');
    const measurand = measurands.get(body.measurands[row.measurand] ?? '');
    const form = measurand && readingForm(measurand.form);
    if (!form || measurand.expression !== null) {
      throw wrong('measurand', 'The study has no such measurand to read.');
    }
    const levels = body.settings[row.setting];
    if (!levels) throw wrong('setting', 'There is no such setting.');
    const read = form.read(row.texts, measurand);
    if ('problem' in read) throw wrong('texts', read.problem);
    yield {
      id: v7({ msecs, seq: i, random: random.subarray(16 * i, 16 * (i + 1)) }),
      ...stamp,
      itemId,
      measurandId: measurand.id,
      sessionId: body.session.id,
      round: row.round,
      place: before + i,
      levels,
      parts: read.parts,
      source: 'import',
      takenAt: row.takenAt ?? stamp.createdAt,
    };
  }
}

/** Whether the import was written before. @throws Problem where its session is something else */
async function writtenBefore(store: Store, studyId: string, body: ImportBody): Promise<boolean> {
  const session = await store.find<Session>('sessions', body.session.id);
  if (!session) return false;
  const readings = await store.database.writer.count('readings', { sessionId: session.id });
  if (session.studyId === studyId && session.kind === body.session.kind && readings === body.rows.length)
    return true;
  throw new Problem(409, 'Id taken', 'There is another session with this id. Nothing was changed.');
}

/**
 * Readings of a table, all of them or none. They make a session of their own, so that one decision takes them all
 * back; the session's id makes a repeated request do nothing.
 * @param arrived the file that holds them, and the study that they belong to
 * @param signal stops between two statements, and leaves nothing
 */
export async function importReadings(
  store: Store,
  { file, studyId }: { file: string; studyId: string },
  signal?: AbortSignal,
): Promise<{ created: boolean; readings: number }> {
  const sent = parseJson(await readFile(file));
  const problems = schemaProblems(ImportedReadings, sent);
  if (problems.length > 0) throw invalid(problems);
  const body = sent as ImportBody;
  const readings = body.rows.length;
  const { writer } = store.database;
  const write = async () => {
    await store.refuseDeleted(studyId);
    if (await writtenBefore(store, studyId, body)) return { created: false, readings };
    const { items, measurands, levels } = await store.planContext(studyId);
    const before = await writer.count('readings', { studyId });
    if (before + readings > MOST_READINGS) {
      const [most, there] = [MOST_READINGS, before].map((count) => formatNumber(count, 0)) as [
        string,
        string,
      ];
      throw invalid([
        { path: '/rows', message: `A study holds ${most} readings at most; it has ${there} already.` },
      ]);
    }
    for (const setting of body.settings) {
      const wrong = checkLevelsOf({ levels: setting }, levels);
      if (wrong.length > 0) throw invalid(wrong.map((problem) => ({ ...problem, path: '/settings' })));
    }
    const now = new Date().toISOString();
    const stamp = { studyId, version: 1, createdAt: now, updatedAt: now };
    await writer.insert('sessions', [{ ...body.session, ...stamp }]);
    const plan = {
      items: new Set(items.map(({ id }) => id)),
      measurands: new Map(measurands.map((measurand) => [measurand.id, measurand])),
      before,
    };
    // A page that went away, or was told to stop, wants none of them.
    await writer.insert('readings', readingsOf(body, plan, stamp), signal);
    signal?.throwIfAborted();
    return { created: true, readings };
  };
  return store.database.write(write, { transaction: true });
}
