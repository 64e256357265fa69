import { type Context, Hono } from 'hono';
import { PART_KINDS, type PartKind } from '../../core/model/part-kinds.ts';
import type { Measurand } from '../../core/model/parts.ts';
import { listed } from '../../core/quantity/format.ts';
import { jsonBody } from '../body.ts';
import type { Row } from '../database.ts';
import type { LiveHub } from '../live.ts';
import { Problem, notFound } from '../problems.ts';
import { logPartChange } from '../store/change-log.ts';
import { type ChangedAlong, keepWhole } from '../store/keep-whole.ts';
import { checkCount, checkFits, checkMeaning, checkSize } from '../store/part-checks.ts';
import { type Store, refuseStale } from '../store/store.ts';
import { changedPart, createdPart } from './part-bodies.ts';

/** One collection of the parts of studies, and who listens to what happens in it. */
interface Collection {
  store: Store;
  hub: LiveHub;
  kind: PartKind;
}

/** What else a change of a part brought about. */
interface Consequences {
  along: readonly ChangedAlong[];
  logged: readonly Row[];
}

/** Says to the pages at the study which other parts were changed along, and what was written into the log. */
function publishConsequences(hub: LiveHub, studyId: string, { along, logged }: Consequences): void {
  for (const changed of along) hub.publish(studyId, { event: 'part', ...changed });
  for (const change of logged) hub.publish(studyId, { event: 'part', kind: 'changes', part: change });
}

async function createPart({ store, hub, kind }: Collection, studyId: string, body: Row) {
  const { write, writer } = store.database;
  const { part, created, ...consequences } = await write(
    async () => {
      const { made, along } = await keepWhole(store, kind, studyId, () =>
        store.createOnce(kind, { ...body, studyId }, (ours) => checkFits(store, kind, studyId, ours)),
      );
      if (!made.created) return { ...made, along, logged: [] };
      await checkCount(writer, kind, studyId);
      await checkSize(store, kind, studyId);
      return { ...made, along, logged: await logPartChange(writer, kind, studyId, { after: made.part }) };
    },
    { transaction: true },
  );
  if (created) {
    hub.publish(studyId, { event: 'part', kind, part });
    publishConsequences(hub, studyId, consequences);
  }
  return { part, created };
}

async function changePart(
  { store, hub, kind }: Collection,
  { studyId, id }: PartAddress,
  { version, ...changes }: Row,
) {
  const { write, writer } = store.database;
  const { part, ...consequences } = await write(
    async () => {
      const before = await store.partThere(kind, studyId, id);
      refuseStale(before, version, PART_KINDS[kind].word);
      const wanted = { ...before, ...changes };
      await checkFits(store, kind, studyId, wanted);
      if (kind === 'measurands')
        await checkMeaning(writer, before as unknown as Measurand, wanted as unknown as Measurand);
      const { made, along } = await keepWhole(store, kind, studyId, () =>
        store.update(kind, before, changes),
      );
      await checkSize(store, kind, studyId);
      const logged = await logPartChange(writer, kind, studyId, { before, after: made });
      return { part: made, along, logged };
    },
    { transaction: true },
  );
  hub.publish(studyId, { event: 'part', kind, part });
  publishConsequences(hub, studyId, consequences);
  return part;
}

async function deletePart(
  { store, hub, kind }: Collection,
  { studyId, id }: PartAddress,
  version: number,
): Promise<void> {
  const { write, writer } = store.database;
  const { word } = PART_KINDS[kind];
  const consequences = await write(
    async () => {
      const before = await store.partThere(kind, studyId, id);
      refuseStale(before, version, word);
      const pointing = await store.pointingTo(kind, studyId, id);
      if (pointing.length > 0) {
        const detail = `This ${word} has ${listed(pointing)}, so it stays in the record.`;
        throw new Problem(409, 'In use', detail);
      }
      const logged = await logPartChange(writer, kind, studyId, { before });
      const { along } = await keepWhole(store, kind, studyId, () => writer.delete(kind, id));
      return { along, logged };
    },
    { transaction: true },
  );
  hub.publish(studyId, { event: 'gone', kind, id });
  publishConsequences(hub, studyId, consequences);
}

interface PartAddress {
  studyId: string;
  id: string;
}

const studyOf = (context: Context) => context.req.param('studyId') as string;
const addressOf = (context: Context) => context.req.param() as unknown as PartAddress;

/** The routes of one collection of a study's parts: list, create once, change by version, delete. */
export function partRoutes(store: Store, hub: LiveHub, kind: PartKind): Hono {
  const { word, editable, deletable, serverMade } = PART_KINDS[kind];
  const [created, changed] = [createdPart(kind), changedPart(kind)];
  const collection = { store, hub, kind };
  const routes = new Hono<Record<string, never>, Record<string, never>>();

  routes.get('/', async (context) => {
    const studyId = studyOf(context);
    await store.study(studyId);
    return context.json(await store.database.committed.select(kind, { studyId }));
  });

  routes.post('/', async (context) => {
    if (serverMade) throw new Problem(405, 'Made by the server', `A ${word} is written by the server alone.`);
    const body = await jsonBody(context, created);
    const made = await createPart(collection, studyOf(context), body);
    return context.json(made.part, made.created ? 201 : 200);
  });

  routes.get('/:id', async (context) => {
    const { studyId, id } = addressOf(context);
    return context.json(await store.partThere(kind, studyId, id));
  });

  routes.patch('/:id', async (context) => {
    if (editable.length === 0)
      throw new Problem(405, 'Not editable', `A ${word} is never changed; record another one.`);
    const body = await jsonBody(context, changed);
    return context.json(await changePart(collection, addressOf(context), body));
  });

  routes.delete('/:id', async (context) => {
    if (!deletable)
      throw new Problem(405, 'Never deleted', `A ${word} stays in the record; it can be left out instead.`);
    await deletePart(collection, addressOf(context), Number(context.req.query('version')));
    return context.body(null, 204);
  });

  routes.all('*', () => {
    throw notFound(word);
  });
  return routes;
}
