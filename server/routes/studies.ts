import { Hono } from 'hono';
import { EMPTY, NEW_STUDY } from '../../core/model/new-study.ts';
import type { Study } from '../../core/model/study.ts';
import { checkPlanSize, checkStudy } from '../../core/record/checks.ts';
import { jsonBody } from '../body.ts';
import type { Row } from '../database.ts';
import type { Heavy } from '../heavy/heavy.ts';
import type { LiveHub } from '../live.ts';
import { Previews } from '../previews.ts';
import { Problem, invalid } from '../problems.ts';
import { logChanges } from '../store/change-log.ts';
import { type Store, refuseStale } from '../store/store.ts';
import { StudyChanged, StudyCopied, StudyCreated } from './study-bodies.ts';

/** Changes fields of a study that has this version; the caller holds a transaction. */
async function changeStudy(store: Store, studyId: string, { version, ...changes }: Row): Promise<Study> {
  const before = await store.study(studyId);
  refuseStale(before, version, 'study');
  const after = { ...before, ...changes };
  const strange = checkStudy(after);
  if (strange.length > 0) throw invalid(strange);
  if ('rounds' in changes || 'struck' in changes) {
    const problems = checkPlanSize({ ...EMPTY, ...(await store.planContext(studyId)), study: after });
    if (problems.length > 0) throw invalid(problems.map(({ message }) => ({ path: '/rounds', message })));
  }
  if (before.blind === 'opened' && after.blind !== 'opened')
    throw invalid([{ path: '/blind', message: 'The codes are opened; what has been seen stays seen.' }]);
  await logChanges(store.database.writer, studyId, {}, { ...before }, changes);
  return store.update('studies', before, changes);
}

/** The routes of studies as such; what comes and goes as a file is in `study-files.ts`. */
export function studyRoutes(store: Store, hub: LiveHub, heavy: Heavy): Hono {
  const { write } = store.database;
  const previews = new Previews(store, heavy);
  const routes = new Hono();

  routes.get('/', async (context) => context.json(await previews.list()));

  routes.post('/', async (context) => {
    const body = await jsonBody(context, StudyCreated);
    const strange = checkStudy({ ...NEW_STUDY, ...(body as Pick<Study, 'id'>) });
    if (strange.length > 0) throw invalid(strange);
    const { part, created } = await write(() => store.createOnce('studies', { ...NEW_STUDY, ...body }));
    return context.json(part, created ? 201 : 200);
  });

  routes.get('/:studyId', async (context) => context.json(await store.study(context.req.param('studyId'))));

  routes.patch('/:studyId', async (context) => {
    const body = await jsonBody(context, StudyChanged);
    const study = await write(() => changeStudy(store, context.req.param('studyId'), body), {
      transaction: true,
    });
    hub.publish(study.id, { event: 'study', study });
    return context.json(study);
  });

  routes.delete('/:studyId', async (context) => {
    const study = await write(async () => {
      const before = await store.study(context.req.param('studyId'));
      refuseStale(before, Number(context.req.query('version')), 'study');
      return store.update('studies', before, { status: 'deleted' });
    });
    hub.publish(study.id, { event: 'study', study });
    return context.json(study);
  });

  routes.post('/:studyId/duplicate', async (context) => {
    const asked = (await jsonBody(context, StudyCopied)) as {
      id: string;
      title: string;
      extent: 'plan' | 'everything';
    };
    const copy = await heavy.run('duplicate', { ...asked, from: context.req.param('studyId') });
    return context.json(copy, 201);
  });

  routes.get('/:studyId/ranking', async (context) => {
    const studyId = context.req.param('studyId');
    await store.study(studyId);
    const measurandId = context.req.query('measurand');
    if (measurandId === undefined) {
      throw new Problem(400, 'Not said', 'Say which measurand: “measurand” is its id.');
    }
    return context.json(await heavy.run('ranking', { studyId, measurandId }));
  });

  return routes;
}
