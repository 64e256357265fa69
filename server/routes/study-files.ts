import { type Context, Hono } from 'hono';
import { CSV_LAYOUTS, CSV_UNITS, type PlainCsvOptions } from '../../core/formats/plain-csv.ts';
import { STUDY_FILES, type StudyFile } from '../../core/formats/study-files.ts';
import { NAME_LIMIT } from '../../core/model/limits.ts';
import { listed, quoted } from '../../core/quantity/format.ts';
import { IMPORT_LIMIT, PACKAGE_LIMIT, arrivedFile, mediaType } from '../body.ts';
import type { Heavy } from '../heavy/heavy.ts';
import type { LiveHub } from '../live.ts';
import { Problem } from '../problems.ts';
import type { Store } from '../store/store.ts';
import { documentText, readingsText } from '../store/whole-study.ts';
import type { UnderWay } from '../under-way.ts';
import { madeFile } from './made-file.ts';
import { streamedJson, wantedCount } from './streamed.ts';

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

/** How a plain table is wanted, by the query. */
function plainCsvOptions(context: Context): PlainCsvOptions {
  const asked = (name: string, allowed: readonly string[]) => {
    const said = context.req.query(name) ?? allowed[0] ?? '';
    if (allowed.includes(said)) return said;
    const known = listed(
      allowed.map((word) => `“${word}”`),
      'or',
    );
    throw new Problem(400, 'Not known', `“${name}” is ${known}, not ${quoted(said)}.`);
  };
  return {
    layout: asked('layout', CSV_LAYOUTS),
    units: asked('units', CSV_UNITS),
    decimal: asked('decimal', ['point', 'comma']) === 'comma' ? ',' : '.',
    leftOut: asked('left-out', ['no', 'yes']) === 'yes',
    measurandId: context.req.query('measurand'),
  } as PlainCsvOptions;
}

/** The routes by which whole studies come and go: as files, and as the documents that pages read. */
export function studyFileRoutes(store: Store, hub: LiveHub, heavy: Heavy, underWay: UnderWay): Hono {
  const { database } = store;
  const routes = new Hono();

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

  routes.get('/:studyId/document', (context) => {
    const studyId = context.req.param('studyId');
    context.header(STUDY_STATE, hub.state(studyId));
    return streamedJson(context, documentText(database, studyId, wantedCount(context, 'readings')));
  });

  routes.get('/:studyId/readings-behind/:readingId', (context) => {
    const { studyId, readingId } = context.req.param();
    const most = wantedCount(context, 'most');
    return streamedJson(context, readingsText(database, studyId, readingId, most));
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
      return streamedJson(context, documentText(database, studyId));
    });
  }

  routes.get('/:studyId/readings.csv', async (context) => {
    const studyId = context.req.param('studyId');
    const { title } = await store.study(studyId);
    const options = plainCsvOptions(context);
    const made = { name: `${fileName(title)}-readings.csv`, type: 'text/csv; charset=utf-8' };
    return madeFile(context, made, (file) =>
      underWay.watch(context, (way) => heavy.run('exportPlainCsv', { studyId, file, options }, way)),
    );
  });

  return routes;
}
