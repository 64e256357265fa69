import { randomBytes } from 'node:crypto';
import { Hono } from 'hono';
import Type from 'typebox';
import { v7 } from 'uuid';
import { readingForm } from '../../core/forms/index.ts';
import { Id, Instant, closed, nullable } from '../../core/model/common.ts';
import { checkLevelsOf } from '../../core/record/checks.ts';
import type { Level, Measurand, Reading, Session } from '../../core/model/parts.ts';
import { SessionFields } from '../../core/model/parts.ts';
import { formatNumber } from '../../core/quantity/format.ts';
import { IMPORT_LIMIT, limitedBody, mediaType, parseJson } from '../body.ts';
import type { LiveHub } from '../live.ts';
import { Problem, invalid } from '../problems.ts';
import type { Store } from '../store.ts';
import { prepareSchema, schemaProblems } from '../validate.ts';

/** More readings than this are no study any more; the document's schema says the same. */
const MOST_READINGS = 200000;
const Text = Type.String({ maxLength: 60 });

/** Readings in a form that is short: each row points to its item, measurand and setting by number. */
const ImportedReadings = Type.Object(
  {
    session: Type.Object({ id: Id, ...SessionFields }, closed),
    items: Type.Array(Id, { maxItems: 2000 }),
    measurands: Type.Array(Id, { maxItems: 200 }),
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

/**
 * Readings of a table, all of them or none. They make a session of their own, so that one decision takes them all
 * back; the session's id makes a repeated request do nothing.
 */
export function importRoutes(store: Store, hub: LiveHub): Hono {
  const routes = new Hono<Record<string, never>, Record<string, never>, '/'>();
  prepareSchema(ImportedReadings);

  routes.post('/', async (context) => {
    const studyId = context.req.param('studyId') as string;
    if (mediaType(context) !== 'application/json') {
      throw new Problem(415, 'Wrong media type', 'Send JSON, with the content type application/json.');
    }
    const sent = parseJson(await limitedBody(context, IMPORT_LIMIT));
    const problems = schemaProblems(ImportedReadings, sent);
    if (problems.length > 0) throw invalid(problems);
    const body = sent as ImportBody;
    const outcome = await store.database.write(
      async () => {
        await store.studyRow(studyId);
        if (await store.find('sessions', body.session.id)) return { created: false };
        const measurands = new Map(
          (await store.list<Measurand>('measurands', studyId)).map((one) => [one.id, one]),
        );
        const items = new Set((await store.list<{ id: string }>('items', studyId)).map(({ id }) => id));
        const levels = await store.list<Level>('levels', studyId);
        const before = await store.tables.readings.count({ where: { studyId } });
        if (before + body.rows.length > MOST_READINGS) {
          throw invalid([
            {
              path: '/rows',
              message: `A study holds ${formatNumber(MOST_READINGS, 0)} readings at most; it has ${formatNumber(before, 0)} already.`,
            },
          ]);
        }
        const now = new Date().toISOString();
        const stamp = { studyId, version: 1, createdAt: now, updatedAt: now };
        for (const setting of body.settings) {
          const wrong = checkLevelsOf({ levels: setting } as Reading, levels);
          if (wrong.length > 0) throw invalid(wrong.map((one) => ({ ...one, path: '/settings' })));
        }
        // Random bits for all ids at once: asked for one by one they take longer than the rest of the row.
        const random = randomBytes(16 * body.rows.length);
        const msecs = Date.now();
        const readingOf = (row: ImportBody['rows'][number], i: number): Record<string, unknown> => {
          const path = `/rows/${String(i)}`;
          const itemId = body.items[row.item];
          const measurand = measurands.get(body.measurands[row.measurand] ?? '');
          const setting = body.settings[row.setting];
          if (itemId === undefined || !items.has(itemId)) {
            throw invalid([{ path: `${path}/item`, message: 'The study has no such item.' }]);
          }
          const form = measurand && readingForm(measurand.form);
          if (!form || measurand.expression !== null) {
            throw invalid([
              { path: `${path}/measurand`, message: 'The study has no such measurand to read.' },
            ]);
          }
          if (!setting) throw invalid([{ path: `${path}/setting`, message: 'There is no such setting.' }]);
          const read = form.read(row.texts, measurand);
          if ('problem' in read) throw invalid([{ path: `${path}/texts`, message: read.problem }]);
          return {
            id: v7({ msecs, seq: i, random: random.subarray(16 * i, 16 * (i + 1)) }),
            ...stamp,
            itemId,
            measurandId: measurand.id,
            sessionId: body.session.id,
            round: row.round,
            place: before + i,
            levels: setting,
            parts: read.parts,
            source: 'import',
            takenAt: row.takenAt ?? now,
          };
        };
        const readings = function* () {
          for (const [i, row] of body.rows.entries()) yield readingOf(row, i);
        };
        await store.tables.sessions.create({ ...body.session, ...stamp });
        // A page that went away, or was told to stop, wants none of them.
        await store.insertMany('readings', readings(), context.req.raw.signal);
        return { created: true };
      },
      { transaction: true },
    );
    if (outcome.created) hub.publish(studyId, { event: 'refetch' });
    return context.json({ readings: body.rows.length }, outcome.created ? 201 : 200);
  });

  // Asked by a page that stopped an import; answered behind the import, so that it holds.
  routes.get('/:sessionId', async (context) => {
    const { studyId, sessionId } = context.req.param() as unknown as { studyId: string; sessionId: string };
    const written = await store.database.write(async () => {
      await store.studyRow(studyId);
      return (await store.part('sessions', studyId, sessionId)) !== undefined;
    });
    return context.json({ written });
  });

  return routes;
}
