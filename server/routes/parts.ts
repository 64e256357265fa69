import { Hono } from 'hono';
import isEqual from 'lodash/isEqual.js';
import {
  checkFiles,
  checkLevelsOf,
  checkPart,
  checkPlanSize,
  checkReading,
} from '../../core/record/checks.ts';
import { EMPTY } from '../../core/model/new-study.ts';
import type { Claim, FilePart, Level, Measurand, Reading } from '../../core/model/parts.ts';
import { PART_KINDS, type PartKind } from '../../core/model/part-kinds.ts';
import { StudyDocument } from '../../core/model/study-document.ts';
import { type Plan, mended, planProblems } from '../../core/record/mend.ts';
import { jsonBody } from '../body.ts';
import { DELETABLE, changedPart, createdPart } from './part-bodies.ts';
import type { LiveHub } from '../live.ts';
import { Problem, invalid, notFound } from '../problems.ts';
import { counted, listed } from '../../core/quantity/format.ts';
import type { Store } from '../store.ts';

/** Collections whose parts are checked against the rest of the plan. */
const CHECKED: readonly PartKind[] = [
  'items',
  'measurands',
  'factors',
  'levels',
  'claims',
  'figures',
  'calibrations',
  'conditions',
  'sessions',
  'decisions',
];

/** Collections that others of a plan lean on. */
const LEANT_ON: readonly PartKind[] = ['items', 'measurands', 'factors', 'levels', 'claims', 'conditions'];

/** Collections that decide how large a plan is. */
const SIZING: readonly PartKind[] = ['items', 'measurands', 'levels'];

/** A part that was changed along with another. */
interface Told {
  kind: PartKind;
  part: unknown;
}

/** The routes of one collection of a study's parts: list, create once, change by version, delete. */
export function partRoutes(store: Store, hub: LiveHub, kind: PartKind): Hono {
  const { word, editable, refers, serverMade } = PART_KINDS[kind];
  const [created, changed] = [createdPart(kind), changedPart(kind)];
  const { write, writer, committed } = store.database;
  const routes = new Hono<Record<string, never>, Record<string, never>, '/'>();

  /** Fetches what a part refers to, in the same study; refuses what is not there. */
  const references = async (part: Record<string, unknown>, studyId: string) => {
    const found = await Promise.all(
      Object.entries(refers).map(async ([field, other]) => {
        const id = part[field];
        if (typeof id !== 'string') return undefined;
        const row = await store.part(other, studyId, id);
        if (!row) {
          throw invalid([
            { path: `/${field}`, message: `The study has no ${PART_KINDS[other].word} with this id.` },
          ]);
        }
        return [other, row] as const;
      }),
    );
    return new Map(found.filter((entry) => entry !== undefined));
  };

  /** Tells the pages at the study what was written into the log, and which other parts were changed along. */
  const tellAlong = (studyId: string, logged: readonly unknown[], followed: readonly Told[]) => {
    for (const told of followed) hub.publish(studyId, { event: 'part', ...told });
    for (const change of logged) hub.publish(studyId, { event: 'part', kind: 'changes', part: change });
  };
  const tell = (studyId: string, part: unknown, logged: readonly unknown[], followed: readonly Told[]) => {
    hub.publish(studyId, { event: 'part', kind, part });
    tellAlong(studyId, logged, followed);
  };

  const problemsOf = async (
    part: Record<string, unknown>,
    studyId: string,
    referred: Awaited<ReturnType<typeof references>>,
  ) => {
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
    if (!CHECKED.includes(kind)) return [];
    const leans = LEANT_ON.includes(kind) || kind === 'figures';
    return checkPart(kind, part, leans ? await store.planContext(studyId) : EMPTY);
  };

  const check = async (part: Record<string, unknown>, studyId: string) => {
    await store.refuseDeleted(studyId);
    const referred = await references(part, studyId);
    const problems = await problemsOf(part, studyId, referred);
    if (problems.length > 0) throw invalid(problems);
  };

  /** Refuses a change that makes the plan larger than any bench can take; the caller holds a transaction. */
  const checkSize = async (studyId: string) => {
    if (!SIZING.includes(kind)) return;
    const study = await store.study(studyId);
    const problems = checkPlanSize({ ...EMPTY, study, ...(await store.planContext(studyId)) });
    if (problems.length > 0) throw invalid(problems);
  };

  /** Refuses another unit or setting under which the texts of the readings would mean something else. */
  const checkReread = async (measurand: Measurand, before: Measurand) => {
    const sameMeaning =
      measurand.unit === before.unit &&
      measurand.form === before.form &&
      measurand.expression === before.expression &&
      isEqual(measurand.settings, before.settings);
    if (sameMeaning) return;
    const figures = await writer.count('figures', { measurandId: measurand.id });
    if (figures > 0 && (measurand.unit !== before.unit || measurand.form !== before.form)) {
      throw invalid([
        {
          path: measurand.form !== before.form ? '/form' : '/unit',
          message: `${counted(figures, 'figure')} from elsewhere would mean something else then. Take ${figures === 1 ? 'it' : 'them'} out first.`,
        },
      ]);
    }
    const readings = (await writer.select('readings', { measurandId: measurand.id })) as unknown as Reading[];
    const otherwise = readings.filter((reading) => checkReading(reading, measurand).length > 0).length;
    if (otherwise === 0) return;
    throw invalid([
      {
        path:
          measurand.form !== before.form ? '/form' : measurand.unit !== before.unit ? '/unit' : '/settings',
        message: `${counted(otherwise, 'reading')} would mean something else then, so this stays as it was when they were taken.`,
      },
    ]);
  };

  const wholePlan = async (studyId: string): Promise<Plan> => ({
    ...(await store.planContext(studyId)),
    claims: await store.list<Claim>('claims', studyId),
  });

  /**
   * Makes a change of the plan, and with it those of other parts that follow from it; refuses one that breaks something
   * else. The caller holds a transaction.
   * @returns what the change gave, and the other parts that were changed with it
   */
  const keepWhole = async <T>(
    studyId: string,
    change: () => Promise<T>,
  ): Promise<{ made: T; along: Told[] }> => {
    if (!LEANT_ON.includes(kind)) return { made: await change(), along: [] };
    const before = await wholePlan(studyId);
    const made = await change();
    const after = await wholePlan(studyId);
    const { measurands, claims } = mended(before, after);
    const along: Told[] = [];
    for (const [other, changes] of [['measurands', measurands] as const, ['claims', claims] as const]) {
      for (const [id, change] of changes) {
        along.push({
          kind: other,
          part: await store.update(other, await store.partThere(other, studyId, id), change),
        });
      }
    }
    const known = new Set(planProblems(before).map(({ key }) => key));
    const now = along.length > 0 ? await wholePlan(studyId) : after;
    const broken = planProblems(now).filter(({ key }) => !known.has(key));
    if (broken.length > 0) throw invalid(broken.map(({ message }) => ({ path: '', message })));
    return { made, along };
  };

  /** Refuses one more than a study may hold, since no file of it could be read. */
  const checkCount = async (studyId: string) => {
    const { maxItems } = StudyDocument.properties[kind] as unknown as { maxItems: number };
    if (await writer.hasMore(kind, studyId, maxItems))
      throw invalid([{ path: '', message: `A study holds at most ${counted(maxItems, word)}.` }]);
  };

  const claimLog = (part: Record<string, unknown> | undefined) => {
    if (!part) return {};
    const {
      id: _id,
      studyId: _study,
      version: _version,
      createdAt: _created,
      updatedAt: _updated,
      ...claim
    } = part;
    return { claim };
  };

  routes.get('/', async (context) => {
    const studyId = context.req.param('studyId') as string;
    await store.study(studyId);
    return context.json(await committed.select(kind, { studyId }));
  });

  routes.post('/', async (context) => {
    const studyId = context.req.param('studyId') as string;
    if (serverMade) throw new Problem(405, 'Made by the server', `A ${word} is written by the server alone.`);
    const body = await jsonBody(context, created);
    let logged: unknown[] = [];
    let followed: Told[] = [];
    const { part, created: fresh } = await write(
      async () => {
        const { made: outcome, along } = await keepWhole(studyId, () =>
          store.createOnce(kind, { ...body, studyId }, (ours) => check(ours, studyId)),
        );
        followed = along;
        if (outcome.created) {
          await checkCount(studyId);
          await checkSize(studyId);
          if (kind === 'claims') {
            const { measurandId } = outcome.part;
            const after = claimLog(outcome.part);
            logged = await store.logChanges(
              studyId,
              { measurandId: String(measurandId) },
              { claim: null },
              after,
            );
          }
        }
        return outcome;
      },
      { transaction: true },
    );
    if (fresh) tell(studyId, part, logged, followed);
    return context.json(part, fresh ? 201 : 200);
  });

  routes.get('/:id', async (context) => {
    const { studyId, id } = context.req.param() as unknown as { studyId: string; id: string };
    return context.json(await store.partThere(kind, studyId, id));
  });

  routes.patch('/:id', async (context) => {
    const { studyId, id } = context.req.param() as unknown as { studyId: string; id: string };
    if (editable.length === 0) {
      throw new Problem(405, 'Not editable', `A ${word} is never changed; record another one.`);
    }
    const { version, ...changes } = await jsonBody(context, changed);
    let logged: unknown[] = [];
    let followed: Told[] = [];
    const part = await write(
      async () => {
        const before = await store.partThere(kind, studyId, id);
        store.refuseStale(before, version, word);
        await check({ ...before, ...changes }, studyId);
        if (kind === 'measurands') {
          const after = { ...before, ...changes } as unknown as Measurand;
          await checkReread(after, before as unknown as Measurand);
          logged = await store.logChanges(studyId, { measurandId: id }, before, changes);
        }
        if (kind === 'items') logged = await store.logChanges(studyId, { itemId: id }, before, changes);
        const { made: updated, along } = await keepWhole(studyId, () => store.update(kind, before, changes));
        followed = along;
        if (kind === 'claims') {
          const [was, is] = [claimLog(before), claimLog(updated)];
          logged = await store.logChanges(studyId, { measurandId: String(updated.measurandId) }, was, is);
        }
        await checkSize(studyId);
        return updated;
      },
      { transaction: true },
    );
    tell(studyId, part, logged, followed);
    return context.json(part);
  });

  routes.delete('/:id', async (context) => {
    const { studyId, id } = context.req.param() as unknown as { studyId: string; id: string };
    if (!DELETABLE.includes(kind)) {
      throw new Problem(405, 'Never deleted', `A ${word} stays in the record; it can be left out instead.`);
    }
    let logged: unknown[] = [];
    let followed: Told[] = [];
    await write(
      async () => {
        const before = await store.partThere(kind, studyId, id);
        store.refuseStale(before, Number(context.req.query('version')), word);
        const pointing = await store.pointingTo(kind, studyId, id);
        if (pointing.length > 0) {
          throw new Problem(
            409,
            'In use',
            `This ${word} has ${listed(pointing)}, so it stays in the record.`,
          );
        }
        if (kind === 'claims') {
          const about = { measurandId: String(before.measurandId) };
          logged = await store.logChanges(studyId, about, claimLog(before), { claim: null });
        }
        followed = (await keepWhole(studyId, () => writer.delete(kind, id))).along;
      },
      { transaction: true },
    );
    hub.publish(studyId, { event: 'gone', kind, id });
    tellAlong(studyId, logged, followed);
    return context.body(null, 204);
  });

  routes.all('*', () => {
    throw notFound(word);
  });
  return routes;
}
