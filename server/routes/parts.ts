import { Hono } from 'hono';
import Type, { type TSchema } from 'typebox';
import { closed, Id } from '../../core/model/common.ts';
import { checkPart } from '../../core/model/checks.ts';
import type { Item, Measurand } from '../../core/model/parts.ts';
import { PART_KINDS, type PartKind } from '../../core/model/part-kinds.ts';
import { jsonBody } from '../body.ts';
import { prepareSchema } from '../validate.ts';
import { Problem, invalid, notFound } from '../problems.ts';
import type { Store } from '../store.ts';

/** Collections whose parts may be deleted while nothing refers to them. */
const DELETABLE: readonly PartKind[] = ['items', 'measurands', 'factors', 'levels', 'conditions'];

/** The routes of one collection of a study's parts: list, create once, change by version, delete. */
export function partRoutes(store: Store, kind: PartKind): Hono {
  const { word, fields, editable, refers, serverMade } = PART_KINDS[kind];
  const created = Type.Object({ id: Id, ...fields }, closed);
  const changed = Type.Object(
    {
      version: Type.Integer({ minimum: 1 }),
      ...Object.fromEntries(editable.map((name) => [name, Type.Optional(fields[name] as TSchema)])),
    },
    closed,
  );
  const { write } = store.database;
  prepareSchema(created);
  prepareSchema(changed);
  const routes = new Hono<Record<string, never>, Record<string, never>, '/'>();

  /** Fetches what a part refers to, in the same study; refuses what is not there. */
  const references = async (part: Record<string, unknown>, studyId: string) => {
    const found = await Promise.all(
      Object.entries(refers).map(async ([field, other]) => {
        const id = part[field];
        if (typeof id !== 'string') return undefined;
        const row = await store.tables[other].findOne({ where: { id, studyId } });
        if (!row) {
          throw invalid([
            { path: `/${field}`, message: `The study has no ${PART_KINDS[other].word} with this id.` },
          ]);
        }
        return [other, store.plain(row)] as const;
      }),
    );
    return new Map(found.filter((entry) => entry !== undefined));
  };

  const check = async (part: Record<string, unknown>, studyId: string) => {
    const referred = await references(part, studyId);
    if (referred.size === 0) await store.studyRow(studyId);
    const measurand = referred.get('measurands') as Measurand | undefined;
    const problems = checkPart(kind, part, {
      items: kind === 'items' ? await store.list<Item>('items', studyId) : [],
      measurands:
        kind === 'measurands'
          ? await store.list<Measurand>('measurands', studyId)
          : measurand
            ? [measurand]
            : [],
    });
    if (problems.length > 0) throw invalid(problems);
  };

  routes.get('/', async (context) => {
    const studyId = context.req.param('studyId') as string;
    await store.studyRow(studyId);
    return context.json(await store.list(kind, studyId));
  });

  routes.post('/', async (context) => {
    const studyId = context.req.param('studyId') as string;
    if (serverMade) throw new Problem(405, 'Made by the server', `A ${word} is written by the server alone.`);
    const body = await jsonBody(context, created);
    const { part, created: fresh } = await write(() =>
      store.createOnce(kind, { ...body, studyId }, (ours) => check(ours, studyId)),
    );
    return context.json(part, fresh ? 201 : 200);
  });

  routes.get('/:id', async (context) => {
    const { studyId, id } = context.req.param() as unknown as { studyId: string; id: string };
    return context.json(store.plain(await store.partRow(kind, studyId, id)));
  });

  routes.patch('/:id', async (context) => {
    const { studyId, id } = context.req.param() as unknown as { studyId: string; id: string };
    if (editable.length === 0) {
      throw new Problem(405, 'Not editable', `A ${word} is never changed; record another one.`);
    }
    const { version, ...changes } = await jsonBody(context, changed);
    const part = await write(
      async () => {
        const row = await store.partRow(kind, studyId, id);
        store.refuseStale(row, version, word);
        const before = store.plain<Record<string, unknown>>(row);
        await check({ ...before, ...changes }, studyId);
        if (kind === 'measurands') await store.logChanges(studyId, id, before, changes);
        return store.update(row, changes);
      },
      { transaction: true },
    );
    return context.json(part);
  });

  routes.delete('/:id', async (context) => {
    const { studyId, id } = context.req.param() as unknown as { studyId: string; id: string };
    if (!DELETABLE.includes(kind)) {
      throw new Problem(405, 'Never deleted', `A ${word} stays in the record; it can be left out instead.`);
    }
    await write(async () => {
      const row = await store.partRow(kind, studyId, id);
      store.refuseStale(row, Number(context.req.query('version')), word);
      const reference = { items: 'itemId', measurands: 'measurandId' }[kind as string];
      const readings = reference ? await store.tables.readings.count({ where: { [reference]: id } }) : 0;
      if (readings > 0) {
        throw new Problem(
          409,
          'Has readings',
          `This ${word} has ${String(readings)} readings, so it stays in the record.`,
        );
      }
      await row.destroy();
    });
    return context.body(null, 204);
  });

  routes.all('*', () => {
    throw notFound(word);
  });
  return routes;
}
