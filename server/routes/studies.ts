import { Readable } from 'node:stream';
import { setTimeout } from 'node:timers/promises';
import { type Context, Hono } from 'hono';
import type { StudyPreview } from '../../core/analysis/preview.ts';
import { NAME_LIMIT } from '../../core/model/limits.ts';
import { EMPTY, NEW_STUDY } from '../../core/model/new-study.ts';
import type { Study } from '../../core/model/study.ts';
import { STUDY_FILES, type StudyFile } from '../../core/formats/study-files.ts';
import { CSV_LAYOUTS, CSV_UNITS, type PlainCsvOptions } from '../../core/formats/plain-csv.ts';
import { listed } from '../../core/quantity/format.ts';
import { checkPlanSize, checkStudy } from '../../core/record/checks.ts';
import { IMPORT_LIMIT, PACKAGE_LIMIT, arrivedFile, jsonBody, mediaType } from '../body.ts';
import type { Heavy } from '../heavy/heavy.ts';
import type { LiveHub } from '../live.ts';
import { Problem, invalid } from '../problems.ts';
import type { Store } from '../store.ts';
import type { UnderWay } from '../under-way.ts';
import { madeFile } from './made-file.ts';
import { StudyChanged, StudyCopied, StudyCreated } from './study-bodies.ts';

/** A name for a file, from a study's title. */
const fileName = (title: string) =>
  title
    .normalize('NFKD')
    .replace(/[^\w\s-]/g, '')
    .trim()
    .replace(/\s+/g, '-')
    .toLowerCase()
    .slice(0, 60) || 'study';

/** What the thread for long work makes; the document itself is sent as it is read. */
const MADE_BY: Readonly<Record<StudyFile['ending'], 'exportCsv' | 'exportPackage' | undefined>> = {
  csv: 'exportCsv',
  json: undefined,
  zip: 'exportPackage',
};

/** Says in which state a study was when it was read; those who listen to it hear of the state that it is in then. */
const STUDY_STATE = 'Study-State';

/** The list waits so long for previews that are being made, in ms; it comes without them otherwise. */
const PREVIEW_WAIT_MS = 400;

export function studyRoutes(store: Store, hub: LiveHub, heavy: Heavy, underWay: UnderWay): Hono {
  const { write } = store.database;
  const routes = new Hono();

  /** Previews that are being made, by study. */
  const making = new Map<string, Promise<unknown>>();
  const renewed = (id: string) => {
    const made =
      making.get(id) ??
      heavy
        .run('renewPreview', id)
        .catch((error: unknown) => {
          console.error(`No preview of the study ${id}:`, error);
        })
        .finally(() => making.delete(id));
    making.set(id, made);
    return made;
  };

  routes.get('/', async (context) => {
    const studies = await store.studies();
    const old = [...(await store.database.previews()).values()].filter(({ fresh }) => !fresh);
    const listed = new Set(studies.map(({ id }) => id));
    const renewing = old.filter(({ studyId }) => listed.has(studyId)).map(({ studyId }) => renewed(studyId));
    if (renewing.length > 0) {
      const waiting = new AbortController();
      await Promise.race([
        Promise.all(renewing),
        setTimeout(PREVIEW_WAIT_MS, undefined, { signal: waiting.signal }).catch(() => undefined),
      ]);
      waiting.abort();
    }
    const kept = await store.database.previews();
    return context.json(
      studies.map((study) => {
        const { preview = null, fresh = false } = kept.get(study.id) ?? {};
        return {
          study,
          preview: preview === null ? null : (JSON.parse(preview) as StudyPreview),
          ...(fresh ? {} : { renewing: making.has(study.id) }),
        };
      }),
    );
  });

  routes.post('/', async (context) => {
    const body = await jsonBody(context, StudyCreated);
    const strange = checkStudy({ ...NEW_STUDY, ...(body as Pick<Study, 'id'>) });
    if (strange.length > 0) throw invalid(strange);
    const { part, created } = await write(() => store.createOnce('studies', { ...NEW_STUDY, ...body }));
    return context.json(part, created ? 201 : 200);
  });

  routes.post('/import', async (context) => {
    const asCopy = context.req.query('copy') === 'yes';
    const type = mediaType(context);
    const title = (context.req.query('title') ?? '').trim().slice(0, NAME_LIMIT) || 'Imported readings';
    if (type !== 'application/json' && type !== 'text/csv' && type !== 'application/zip') {
      throw new Problem(415, 'Wrong media type', 'A study comes as JSON, as CSV, or as a zipped package.');
    }
    const imported = await arrivedFile(
      context,
      (file) =>
        underWay.watch(context, (way) => heavy.run('importStudy', { file, type, title, asCopy }, way)),
      type === 'application/zip' ? PACKAGE_LIMIT : IMPORT_LIMIT,
    );
    return context.json(imported, imported.already ? 200 : 201);
  });

  routes.get('/:studyId', async (context) => context.json(await store.study(context.req.param('studyId'))));

  routes.patch('/:studyId', async (context) => {
    const { version, ...changes } = await jsonBody(context, StudyChanged);
    const study = await write(
      async () => {
        const studyId = context.req.param('studyId');
        const before = await store.study(studyId);
        store.refuseStale(before, version, 'study');
        const after = { ...before, ...changes };
        const strange = checkStudy(after);
        if (strange.length > 0) throw invalid(strange);
        if ('rounds' in changes || 'struck' in changes) {
          const problems = checkPlanSize({ ...EMPTY, ...(await store.planContext(studyId)), study: after });
          if (problems.length > 0) {
            throw invalid(problems.map(({ message }) => ({ path: '/rounds', message })));
          }
        }
        if (before.blind === 'opened' && after.blind !== 'opened') {
          throw invalid([
            { path: '/blind', message: 'The codes are opened; what has been seen stays seen.' },
          ]);
        }
        await store.logChanges(studyId, {}, { ...before }, changes);
        return store.update('studies', before, changes);
      },
      { transaction: true },
    );
    hub.publish(study.id, { event: 'study', study });
    return context.json(study);
  });

  routes.delete('/:studyId', async (context) => {
    const study = await write(async () => {
      const before = await store.study(context.req.param('studyId'));
      store.refuseStale(before, Number(context.req.query('version')), 'study');
      return store.update('studies', before, { status: 'deleted' });
    });
    hub.publish(study.id, { event: 'study', study });
    return context.json(study);
  });

  const streamed = async (context: Context, pieces: AsyncGenerator<string>) => {
    // What is wrong is found at the first piece, before anything is sent.
    const first = await pieces.next();
    // Who asks for the head alone reads nothing, and what is read from must be let go.
    if (context.req.method === 'HEAD') await pieces.return(undefined);
    const bytes = async function* () {
      const encoder = new TextEncoder();
      if (!first.done) yield encoder.encode(first.value);
      for await (const piece of pieces) yield encoder.encode(piece);
    };
    context.header('Content-Type', 'application/json; charset=utf-8');
    return context.body(Readable.toWeb(Readable.from(bytes())) as unknown as ReadableStream);
  };

  /** How many readings are wanted, by the query. */
  const most = (context: Context, name: string): number => {
    const asked = context.req.query(name);
    if (asked === undefined) return Infinity;
    if (!/^\d{1,6}$/.test(asked)) {
      throw new Problem(400, 'Not a number', `“${name}” is a whole number, not “${asked.slice(0, 40)}”.`);
    }
    return Number(asked);
  };

  routes.get('/:studyId/document', (context) => {
    const studyId = context.req.param('studyId');
    context.header(STUDY_STATE, hub.state(studyId));
    return streamed(context, store.documentText(studyId, most(context, 'readings')));
  });

  routes.get('/:studyId/readings-behind/:readingId', (context) => {
    const { studyId, readingId } = context.req.param();
    return streamed(context, store.readingsText(studyId, readingId, most(context, 'most')));
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

  for (const { ending, media } of STUDY_FILES) {
    const task = MADE_BY[ending];
    routes.get(`/:studyId/export.${ending}`, async (context) => {
      const studyId = context.req.param('studyId');
      const name = `${fileName((await store.study(studyId)).title)}.${ending}`;
      if (task)
        return madeFile(context, { name, type: media }, (file) =>
          underWay.watch(context, (way) => heavy.run(task, { studyId, file }, way)),
        );
      context.header('Content-Disposition', `attachment; filename="${name}"`);
      return streamed(context, store.documentText(studyId));
    });
  }

  routes.get('/:studyId/ranking', async (context) => {
    const studyId = context.req.param('studyId');
    await store.study(studyId);
    const measurandId = context.req.query('measurand');
    if (measurandId === undefined) {
      throw new Problem(400, 'Not said', 'Say which measurand: “measurand” is its id.');
    }
    return context.json(await heavy.run('ranking', { studyId, measurandId }));
  });

  routes.get('/:studyId/readings.csv', async (context) => {
    const studyId = context.req.param('studyId');
    const { title } = await store.study(studyId);
    const asked = (name: string, allowed: readonly string[]) => {
      const said = context.req.query(name) ?? allowed[0] ?? '';
      if (allowed.includes(said)) return said;
      const known = listed(
        allowed.map((word) => `“${word}”`),
        'or',
      );
      throw new Problem(400, 'Not known', `“${name}” is ${known}, not “${said.slice(0, 40)}”.`);
    };
    const options = {
      layout: asked('layout', CSV_LAYOUTS),
      units: asked('units', CSV_UNITS),
      decimal: asked('decimal', ['point', 'comma']) === 'comma' ? ',' : '.',
      leftOut: asked('left-out', ['no', 'yes']) === 'yes',
      measurandId: context.req.query('measurand'),
    } as PlainCsvOptions;
    return madeFile(
      context,
      { name: `${fileName(title)}-readings.csv`, type: 'text/csv; charset=utf-8' },
      (file) =>
        underWay.watch(context, (way) => heavy.run('exportPlainCsv', { studyId, file, options }, way)),
    );
  });

  return routes;
}
