import type { TSchema } from 'typebox';
import about from '../package.json' with { type: 'json' };
import { CSV_LAYOUTS, CSV_UNITS } from '../core/formats/plain-csv.ts';
import { PART_KINDS, PART_KIND_NAMES, type PartKind } from '../core/model/part-kinds.ts';
import { Study } from '../core/model/study.ts';
import { Ranking } from '../core/model/ranking.ts';
import { StudyDocument } from '../core/model/study-document.ts';
import { changedPart, createdPart } from './routes/part-bodies.ts';
import { LogStarted } from './routes/logs.ts';
import { RecordingStarted } from './routes/recordings.ts';
import { StudyChanged, StudyCopied, StudyCreated } from './routes/study-bodies.ts';

type Json = Record<string, unknown>;

const ref = (name: string): Json => ({ $ref: `#/components/schemas/${name}` });
const json = (schema: Json): Json => ({ content: { 'application/json': { schema } } });
const answer = (description: string, schema?: Json): Json => ({
  description,
  ...(schema ? json(schema) : {}),
});
const list = (schema: Json): Json => ({ type: 'array', items: schema });
const file = (description: string, type: string): Json => ({
  description,
  content: { [type]: { schema: { type: 'string', contentMediaType: type } } },
});
const problem = (description: string): Json => ({
  description,
  content: { 'application/problem+json': { schema: ref('Problem') } },
});

const inPath = (name: string, description: string): Json => ({
  ...{ name, in: 'path', required: true, description },
  schema: { type: 'string' },
});
const inQuery = (
  name: string,
  description: string,
  schema: Json = { type: 'string' },
  required = false,
): Json => ({
  ...{ name, in: 'query', description, schema },
  ...(required ? { required } : {}),
});

const NOT_FOUND: Json = { '404': problem('There is no such part, or no such study.') };
const REFUSALS: Json = {
  ...NOT_FOUND,
  '409': problem('It was changed elsewhere meanwhile, is taken already, or is in use.'),
  '422': problem('Something is wrong with what was sent: which field, and why.'),
};

/** One operation: what it is called, what it is about, what it takes and answers. */
function operation(
  operationId: string,
  tag: string,
  summary: string,
  { parameters, body, answers }: { parameters?: Json[]; body?: Json; answers: Json },
): Json {
  return {
    ...{ operationId, tags: [tag], summary },
    ...(parameters ? { parameters } : {}),
    ...(body ? { requestBody: { required: true, ...body } } : {}),
    responses: answers,
  };
}

const STUDY_ID = inPath('studyId', 'id of the study');
const WATCHED_AS = inQuery('under-way', 'a name of your own, by which you ask how far it has come');
const capital = (text: string) => text.slice(0, 1).toUpperCase() + text.slice(1);
const schemaOf = (kind: PartKind) => capital(PART_KINDS[kind].word);

function partPaths(kind: PartKind): Json {
  const { word, editable, deletable, serverMade } = PART_KINDS[kind];
  const name = schemaOf(kind);
  const onePart = [STUDY_ID, inPath('id', `id of the ${word}`)];
  return {
    [`/studies/{studyId}/${kind}`]: {
      get: operation(`list${capital(kind)}`, kind, `All ${kind} of a study`, {
        parameters: [STUDY_ID],
        answers: {
          '200': answer(`the ${kind}, in the order in which they were made`, list(ref(name))),
          ...NOT_FOUND,
        },
      }),
      ...(serverMade
        ? {}
        : {
            post: operation(`create${name}`, kind, `Makes a ${word}, once: the same request again finds it`, {
              parameters: [STUDY_ID],
              body: json(ref(`${name}New`)),
              answers: {
                '200': answer('it was made before', ref(name)),
                '201': answer('made', ref(name)),
                ...REFUSALS,
              },
            }),
          }),
    },
    [`/studies/{studyId}/${kind}/{id}`]: {
      get: operation(`get${name}`, kind, `One ${word}`, {
        parameters: onePart,
        answers: { '200': answer(`the ${word}`, ref(name)), ...NOT_FOUND },
      }),
      ...(editable.length > 0
        ? {
            patch: operation(`change${name}`, kind, `Changes a ${word} that is still at the version given`, {
              parameters: onePart,
              body: json(ref(`${name}Change`)),
              answers: { '200': answer('as it is now', ref(name)), ...REFUSALS },
            }),
          }
        : {}),
      ...(deletable
        ? {
            delete: operation(`delete${name}`, kind, `Removes a ${word} that nothing points to`, {
              parameters: [
                ...onePart,
                inQuery('version', 'the version that is removed', { type: 'integer' }, true),
              ],
              answers: { '204': { description: 'removed' }, ...REFUSALS },
            }),
          }
        : {}),
    },
  };
}

const ANY = (...types: string[]): Json => ({
  content: Object.fromEntries(
    types.map((type) => [type, { schema: { type: 'string', contentMediaType: type } }]),
  ),
});

const STUDY_PATHS: Json = {
  '/studies': {
    get: operation('listStudies', 'studies', 'All studies, the latest first, each with a summary', {
      answers: {
        '200': answer(
          'the studies',
          list({ type: 'object', properties: { study: ref('Study') }, required: ['study'] }),
        ),
      },
    }),
    post: operation('createStudy', 'studies', 'Makes an empty study, once', {
      body: json(ref('StudyNew')),
      answers: {
        '200': answer('it was made before', ref('Study')),
        '201': answer('made', ref('Study')),
        ...REFUSALS,
      },
    }),
  },
  '/studies/import': {
    post: operation(
      'importStudy',
      'studies',
      'Takes a whole study: a document, a table, or a package with photos',
      {
        parameters: [
          inQuery('title', 'of a study from a table, which has none'),
          inQuery('copy', 'under new ids, where it is here already', { type: 'string', enum: ['yes'] }),
          WATCHED_AS,
        ],
        body: {
          content: {
            'application/json': { schema: ref('StudyDocument') },
            ...(ANY('text/csv', 'application/zip').content as Json),
          },
        },
        answers: {
          '200': answer('this very study is here already', { type: 'object' }),
          '201': answer('taken', { type: 'object' }),
          '415': problem('It is neither JSON, nor CSV, nor a package.'),
          ...REFUSALS,
        },
      },
    ),
  },
  '/studies/{studyId}': {
    get: operation('getStudy', 'studies', 'A study without its parts', {
      parameters: [STUDY_ID],
      answers: { '200': answer('the study', ref('Study')), ...NOT_FOUND },
    }),
    patch: operation('changeStudy', 'studies', 'Changes a study that is still at the version given', {
      parameters: [STUDY_ID],
      body: json(ref('StudyChange')),
      answers: { '200': answer('as it is now', ref('Study')), ...REFUSALS },
    }),
    delete: operation('deleteStudy', 'studies', 'Deletes a study; its file can bring it back', {
      parameters: [STUDY_ID, inQuery('version', 'the version that is deleted', { type: 'integer' }, true)],
      answers: { '200': answer('as it is now', ref('Study')), ...REFUSALS },
    }),
  },
  '/studies/{studyId}/duplicate': {
    post: operation('copyStudy', 'studies', 'Copies a study, or its plan alone, under new ids', {
      parameters: [STUDY_ID],
      body: json(ref('StudyCopy')),
      answers: { '201': answer('the copy', ref('Study')), ...REFUSALS },
    }),
  },
  '/studies/{studyId}/document': {
    get: operation('getDocument', 'studies', 'A study with all its parts, as one document', {
      parameters: [STUDY_ID, inQuery('readings', 'so many readings at most', { type: 'integer' })],
      answers: { '200': answer('the document', ref('StudyDocument')), ...NOT_FOUND },
    }),
  },
  '/studies/{studyId}/ranking': {
    get: operation(
      'getRanking',
      'studies',
      'What the readings of a measurand support, as the ranking page says it',
      {
        parameters: [STUDY_ID, inQuery('measurand', 'id of the measurand', { type: 'string' }, true)],
        answers: { '200': answer('the ranking', ref('Ranking')), ...NOT_FOUND },
      },
    ),
  },
  '/under-way/{name}': {
    get: operation(
      'getProgress',
      'in-and-out',
      'How far a file or an import has come that was asked for by this name',
      {
        parameters: [inPath('name', 'as “under-way” gave it')],
        answers: {
          '200': answer(
            'what is being done, and how much of it is: 0 to 1, or null; null where nothing is under way',
            {
              type: ['object', 'null'],
              properties: { doing: { type: 'string' }, share: { type: ['number', 'null'] } },
            },
          ),
        },
      },
    ),
  },
  '/studies/{studyId}/export.json': {
    get: operation('exportJson', 'in-and-out', 'The document as a file', {
      parameters: [STUDY_ID],
      answers: { '200': answer('the document', ref('StudyDocument')), ...NOT_FOUND },
    }),
  },
  '/studies/{studyId}/export.csv': {
    get: operation(
      'exportCsv',
      'in-and-out',
      'Readings one a row, with the rest of the study in comment lines',
      {
        parameters: [STUDY_ID, WATCHED_AS],
        answers: { '200': file('the table', 'text/csv'), ...NOT_FOUND },
      },
    ),
  },
  '/studies/{studyId}/export.zip': {
    get: operation('exportPackage', 'in-and-out', 'A zipped Tabular Data Package with photos and files', {
      parameters: [STUDY_ID, WATCHED_AS],
      answers: { '200': file('the package', 'application/zip'), ...NOT_FOUND },
    }),
  },
  '/studies/{studyId}/readings.csv': {
    get: operation('readingsCsv', 'in-and-out', 'Readings as a plain table', {
      parameters: [
        STUDY_ID,
        WATCHED_AS,
        inQuery('layout', 'one reading a row, or a column for each item', {
          type: 'string',
          enum: [...CSV_LAYOUTS],
        }),
        inQuery('measurand', 'of a wide table; the first one when left out'),
        inQuery('units', 'behind the names, or in a line of their own', {
          type: 'string',
          enum: [...CSV_UNITS],
        }),
        inQuery('decimal', 'the decimal sign', { type: 'string', enum: ['point', 'comma'] }),
        inQuery('left-out', 'with readings that do not count', { type: 'string', enum: ['no', 'yes'] }),
      ],
      answers: {
        '200': file('the table', 'text/csv'),
        '400': problem('An option is not known.'),
        ...NOT_FOUND,
      },
    }),
  },
};

const plain = (schema: TSchema): Json => {
  const { $id: _id, ...rest } = schema as Json;
  return rest;
};

const LOG = {
  type: 'object',
  properties: {
    id: { type: 'string' },
    column: { type: 'string' },
    rows: { type: 'integer' },
    last: { type: ['string', 'null'] },
  },
  required: ['id', 'column', 'rows', 'last'],
};

const RECORDING = {
  type: 'object',
  properties: {
    id: { type: 'string' },
    instrumentId: { type: 'string' },
    seconds: { type: 'number' },
    level: { type: ['number', 'null'], description: 'of the last half second, dB re full scale' },
    clipped: { type: 'integer' },
    problem: { type: ['string', 'null'] },
  },
  required: ['id', 'instrumentId', 'seconds', 'level', 'clipped', 'problem'],
};

const OTHER_PATHS: Json = {
  '/studies/{studyId}/recordings': {
    get: operation('listRecordings', 'files', 'What instruments hear and is being recorded', {
      parameters: [STUDY_ID],
      answers: { '200': answer('the recordings that are running', list(RECORDING)), ...NOT_FOUND },
    }),
    post: operation('startRecording', 'files', 'Begins to record what an instrument hears', {
      parameters: [STUDY_ID],
      body: json(plain(RecordingStarted)),
      answers: {
        '201': answer('it is running', RECORDING),
        '409': problem('It sends no sound, or is recorded already.'),
        ...NOT_FOUND,
      },
    }),
  },
  '/studies/{studyId}/recordings/{id}/stop': {
    post: operation('stopRecording', 'files', 'Ends a recording, which is then a WAV file of the study', {
      parameters: [STUDY_ID, inPath('id', 'id of the recording')],
      answers: {
        '201': answer('the file', ref('File')),
        '409': problem('Nothing was heard.'),
        ...NOT_FOUND,
      },
    }),
  },
  '/studies/{studyId}/logs': {
    get: operation('listLogs', 'files', 'What instruments show and is being written down', {
      parameters: [STUDY_ID],
      answers: { '200': answer('the logs that are running', list(LOG)), ...NOT_FOUND },
    }),
    post: operation('startLog', 'files', 'Begins to write down what an instrument shows', {
      parameters: [STUDY_ID],
      body: json(plain(LogStarted)),
      answers: { '201': answer('it is running', LOG), '409': problem('It is logged already.'), ...NOT_FOUND },
    }),
  },
  '/studies/{studyId}/logs/{id}/stop': {
    post: operation('stopLog', 'files', 'Ends a log, which is then a file of the study', {
      parameters: [STUDY_ID, inPath('id', 'id of the log')],
      answers: {
        '201': answer('the file', ref('File')),
        '409': problem('There were not two rows.'),
        ...NOT_FOUND,
      },
    }),
  },
  '/photos': {
    post: operation('keepPhoto', 'photos', 'Keeps a photo; notes name it', {
      body: ANY('image/jpeg', 'image/png', 'image/webp'),
      answers: {
        '201': answer('its name', {
          type: 'object',
          properties: { name: { type: 'string' } },
          required: ['name'],
        }),
        '415': problem('It is no photo, or cannot be drawn.'),
      },
    }),
  },
  '/photos/{name}': {
    get: operation('getPhoto', 'photos', 'A photo, smaller for show or as it was', {
      parameters: [
        inPath('name', 'as a note has it'),
        inQuery('original', 'as it was', { type: 'string', enum: ['yes'] }),
      ],
      answers: { '200': file('the picture', 'image/webp'), '404': problem('There is no such photo.') },
    }),
  },
  '/files': {
    post: operation(
      'keepBytes',
      'files',
      'Keeps a logger’s table or a recording; a file of a study names it',
      {
        body: ANY('text/csv', 'audio/wav'),
        answers: {
          '201': answer('its name and size', {
            type: 'object',
            properties: { name: { type: 'string' }, bytes: { type: 'integer' } },
            required: ['name', 'bytes'],
          }),
          '413': problem('It is too large.'),
          '415': problem('It is neither text nor, as audio, a WAV file.'),
        },
      },
    ),
  },
  '/files/{name}': {
    get: operation('getBytes', 'files', 'What was kept, as it came', {
      parameters: [
        inPath('name', 'as a file of a study has it'),
        {
          ...{ name: 'Range', in: 'header', description: 'one stretch of the file, as bytes=from-to' },
          schema: { type: 'string' },
        },
      ],
      answers: {
        '200': file('the table or the recording', 'text/csv'),
        '206': file('the bytes that were asked for by Range', 'audio/wav'),
        '404': problem('There is no such file.'),
        '416': problem('The file ends before that.'),
      },
    }),
  },
  '/backup': {
    get: operation('backUp', 'in-and-out', 'Everything as one file: all studies, photos and files', {
      answers: { '200': file('the backup', 'application/zip') },
    }),
  },
  '/schema/study.json': {
    get: operation('getSchema', 'in-and-out', 'JSON Schema of a study document', {
      answers: { '200': answer('the schema', { type: 'object' }) },
    }),
  },
  '/health': {
    get: operation('getHealth', 'server', 'Whether the server is there', {
      answers: { '200': answer('it is', { type: 'object' }) },
    }),
  },
};

const PROBLEM: Json = {
  type: 'object',
  description: 'Why something was refused, by RFC 9457',
  properties: {
    type: { type: 'string' },
    title: { type: 'string' },
    status: { type: 'integer' },
    detail: { type: 'string', description: 'one sentence for people' },
    errors: list({
      type: 'object',
      properties: { path: { type: 'string', description: 'JSON pointer' }, message: { type: 'string' } },
      required: ['path', 'message'],
    }),
    current: { description: 'the part as it is on the server, where an edit was stale' },
  },
  required: ['title', 'status', 'detail'],
};

/**
 * The description of the API, made from the schemas by which it checks what is sent.
 * @source OpenAPI Specification 3.1.0
 */
export function openApi(): Json {
  const parts = Object.fromEntries(
    PART_KIND_NAMES.flatMap((kind) => {
      const { schema, editable, serverMade } = PART_KINDS[kind];
      const name = schemaOf(kind);
      return [
        [name, plain(schema)],
        ...(serverMade ? [] : [[`${name}New`, plain(createdPart(kind))]]),
        ...(editable.length > 0 ? [[`${name}Change`, plain(changedPart(kind))]] : []),
      ] as [string, Json][];
    }),
  );
  return {
    openapi: '3.1.0',
    info: {
      title: 'Brackenridge',
      version: about.version,
      description:
        'Studies, their plans and readings. Everything has an id that the client makes (a UUID), so that what is sent twice is made once; every edit names the version that it changes. Readings, decisions and notes are only ever added.',
    },
    servers: [{ url: '/api/v1' }],
    tags: ['studies', ...PART_KIND_NAMES, 'in-and-out', 'photos', 'server'].map((name) => ({ name })),
    paths: Object.assign({}, STUDY_PATHS, ...PART_KIND_NAMES.map(partPaths), OTHER_PATHS) as Json,
    components: {
      schemas: {
        Study: plain(Study),
        StudyNew: plain(StudyCreated),
        StudyChange: plain(StudyChanged),
        StudyCopy: plain(StudyCopied),
        StudyDocument: plain(StudyDocument),
        Ranking: plain(Ranking),
        Problem: PROBLEM,
        ...parts,
      },
    },
  };
}
