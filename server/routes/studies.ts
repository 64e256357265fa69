import { Hono } from 'hono';
import Type from 'typebox';
import { v7 } from 'uuid';
import { type StudyPreview, studyPreview } from '../../core/analysis/preview.ts';
import { FileProblem, decodeText } from '../../core/formats/csv-read.ts';
import { studyFromCsv, studyToCsv } from '../../core/formats/study-csv.ts';
import { copyStudy, documentProblems } from '../../core/formats/study-json.ts';
import { upToDate } from '../../core/record/upgrade.ts';
import { Id, Name, closed, oneOf } from '../../core/model/common.ts';
import { NAME_LIMIT } from '../../core/model/limits.ts';
import { checkPlanSize } from '../../core/record/checks.ts';
import { EMPTY, NEW_STUDY } from '../../core/model/new-study.ts';
import { type Study, StudyFields } from '../../core/model/parts.ts';
import { PART_KIND_NAMES } from '../../core/model/part-kinds.ts';
import { StudyDocument } from '../../core/model/study-document.ts';
import { IMPORT_LIMIT, jsonBody, limitedBody, mediaType, parseJson } from '../body.ts';
import type { LiveHub } from '../live.ts';
import { Problem, invalid } from '../problems.ts';
import { type Store, sameJson } from '../store.ts';
import { schemaProblems } from '../validate.ts';

/** What may be left out when a study is made; NEW_STUDY says what holds then. */
const NEEDED = ['title', 'question', 'rounds', 'seed'];
const Created = Type.Object(
  {
    id: Id,
    ...Object.fromEntries(
      Object.entries(StudyFields)
        .filter(([name]) => name !== 'status')
        .map(([name, schema]) => [name, NEEDED.includes(name) ? schema : Type.Optional(schema)]),
    ),
  },
  closed,
);
const Changed = Type.Object(
  {
    version: Type.Integer({ minimum: 1 }),
    ...Object.fromEntries(Object.entries(StudyFields).map(([name, schema]) => [name, Type.Optional(schema)])),
  },
  closed,
);
const Duplicated = Type.Object(
  { id: Id, title: Name, extent: oneOf(['plan', 'everything'] as const) },
  closed,
);

/** A name for a file, from a study's title. */
const fileName = (title: string) =>
  title
    .normalize('NFKD')
    .replace(/[^\w\s-]/g, '')
    .trim()
    .replace(/\s+/g, '-')
    .toLowerCase()
    .slice(0, 60) || 'study';

export function studyRoutes(store: Store, hub: LiveHub): Hono {
  const { write } = store.database;
  const routes = new Hono();

  // A preview takes a whole analysis: it is made anew only when something was written about its study.
  let previews = new Map<string, { stamp: string; preview: StudyPreview }>();

  routes.get('/', async (context) => {
    const studies = await store.studies();
    const stamps = await store.stamps();
    const made: typeof previews = new Map();
    // One after the other: all documents at once would fill the memory.
    for (const study of studies) {
      const stamp = `${String(study.version)}${stamps.get(study.id) ?? ''}`;
      const known = previews.get(study.id);
      const preview = known?.stamp === stamp ? known.preview : studyPreview(await store.document(study.id));
      made.set(study.id, { stamp, preview });
    }
    previews = made;
    return context.json(studies.map((study) => ({ study, preview: made.get(study.id)?.preview })));
  });

  routes.post('/', async (context) => {
    const body = await jsonBody(context, Created);
    const { part, created } = await write(() => store.createOnce('studies', { ...NEW_STUDY, ...body }));
    return context.json(part, created ? 201 : 200);
  });

  routes.post('/import', async (context) => {
    const asCopy = context.req.query('copy') === 'yes';
    const type = mediaType(context);
    const title = (context.req.query('title') ?? '').trim().slice(0, NAME_LIMIT) || 'Imported readings';
    const bytes = await limitedBody(context, IMPORT_LIMIT);
    const now = new Date().toISOString();
    let document: unknown;
    let missing = 0;
    if (type === 'application/json') {
      document = upToDate(parseJson(bytes));
    } else if (type === 'text/csv') {
      try {
        ({ document, missing } = studyFromCsv(decodeText(bytes), { title, newId: () => v7(), now }));
        document = upToDate(document);
      } catch (error) {
        if (error instanceof FileProblem) throw new Problem(422, 'Not readable', error.message);
        throw error;
      }
    } else {
      throw new Problem(415, 'Wrong media type', 'A study comes as JSON or as CSV.');
    }
    const schema = schemaProblems(StudyDocument, document);
    if (schema.length > 0) throw invalid(schema);
    let whole = document as StudyDocument;
    const inner = documentProblems(whole);
    if (inner.length > 0) throw invalid(inner);
    if (asCopy) whole = copyStudy(whole, 'everything', v7(), () => v7(), whole.study.title, now);
    if (whole.study.status === 'deleted') whole = { ...whole, study: { ...whole.study, status: 'open' } };
    const outcome = await write(
      async () => {
        const existing = await store.find('studies', whole.study.id);
        if (existing && store.plain<Study>(existing).status !== 'deleted') {
          if (sameJson(await store.document(whole.study.id), whole)) return 'same';
          throw new Problem(
            409,
            'Already here',
            'This study is here already, and not the same. Import the file as a copy to keep both.',
          );
        }
        if (existing) {
          for (const kind of [...PART_KIND_NAMES].reverse()) {
            await store.tables[kind].destroy({ where: { studyId: whole.study.id } });
          }
          await existing.destroy();
        }
        if (await store.takenId(whole)) {
          throw new Problem(
            409,
            'Already here',
            'Parts of this study belong to another study here. Import the file as a copy to keep both.',
          );
        }
        await store.insertDocument(whole);
        return 'created';
      },
      { transaction: true },
    );
    return context.json(
      { study: whole.study, already: outcome === 'same', readings: whole.readings.length, missing },
      outcome === 'same' ? 200 : 201,
    );
  });

  routes.get('/:studyId', async (context) =>
    context.json(store.plain<Study>(await store.studyRow(context.req.param('studyId')))),
  );

  routes.patch('/:studyId', async (context) => {
    const { version, ...changes } = await jsonBody(context, Changed);
    const study = await write(
      async () => {
        const studyId = context.req.param('studyId');
        const row = await store.studyRow(studyId);
        store.refuseStale(row, version, 'study');
        const before = store.plain<Study>(row);
        const after = { ...before, ...changes };
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
        await store.logChanges(studyId, null, { ...before }, changes);
        return store.update(row, changes);
      },
      { transaction: true },
    );
    hub.publish(study.id, { event: 'study', study });
    return context.json(study);
  });

  routes.delete('/:studyId', async (context) => {
    const study = await write(async () => {
      const row = await store.studyRow(context.req.param('studyId'));
      store.refuseStale(row, Number(context.req.query('version')), 'study');
      return store.update(row, { status: 'deleted' });
    });
    return context.json(study);
  });

  routes.get('/:studyId/document', async (context) =>
    context.json(await store.document(context.req.param('studyId'))),
  );

  routes.post('/:studyId/duplicate', async (context) => {
    const { id, title, extent } = (await jsonBody(context, Duplicated)) as {
      id: string;
      title: string;
      extent: 'plan' | 'everything';
    };
    const study = await write(
      async () => {
        const existing = await store.find('studies', id);
        if (existing) return store.plain<Study>(existing);
        const source = await store.document(context.req.param('studyId'));
        const copy = copyStudy(source, extent, id, () => v7(), title, new Date().toISOString());
        copy.study.status = 'open';
        await store.insertDocument(copy);
        return copy.study;
      },
      { transaction: true },
    );
    return context.json(study, 201);
  });

  const attachment = (title: string, ending: string) => ({
    'Content-Disposition': `attachment; filename="${fileName(title)}.${ending}"`,
  });

  routes.get('/:studyId/export.json', async (context) => {
    const document = await store.document(context.req.param('studyId'));
    return context.body(JSON.stringify(document, null, 1), 200, {
      'Content-Type': 'application/json; charset=utf-8',
      ...attachment(document.study.title, 'json'),
    });
  });

  routes.get('/:studyId/export.csv', async (context) => {
    const document = await store.document(context.req.param('studyId'));
    return context.body(studyToCsv(document), 200, {
      'Content-Type': 'text/csv; charset=utf-8',
      ...attachment(document.study.title, 'csv'),
    });
  });

  return routes;
}
