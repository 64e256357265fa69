import Papa from 'papaparse';
import { screenedOf } from '../analysis/observed.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { STUDY_FORMAT_VERSION } from '../model/study-format.ts';
import type { Use } from '../observations/observation.ts';
import { measurandsRead } from '../plan/grid.ts';
import { recordOf } from '../record/record.ts';
import { harmlessCell } from './cells.ts';

/** A field of a table, as Table Schema has it. */
interface Field {
  name: string;
  type: 'string' | 'number' | 'integer' | 'boolean' | 'datetime';
  format?: 'any';
  description?: string;
  constraints?: { required?: true; unique?: true; enum?: string[]; minimum?: number };
}

interface TableSchema {
  fields: Field[];
  primaryKey?: string[];
  foreignKeys?: { fields: string; reference: { resource: string; fields: string } }[];
  missingValues: string[];
}

export type Cell = string | number | boolean | null;

/** A table of a package: what is in it, and its rows as they are made. */
export interface PackageTable {
  name: string;
  description: string;
  schema: TableSchema;
  rows: () => Iterable<Cell[]>;
}

const text = (name: string, description?: string): Field => ({
  ...{ name, type: 'string' },
  ...(description === undefined ? {} : { description }),
});
const number = (name: string, description?: string): Field => ({
  ...text(name, description),
  type: 'number',
});
const whole = (name: string, description?: string): Field => ({
  ...text(name, description),
  type: 'integer',
});
/** An instant in UTC with milliseconds, which the usual form of the schema lacks. */
const moment = (name: string): Field => ({ ...text(name), type: 'datetime', format: 'any' });
const ID: Field = { name: 'id', type: 'string', constraints: { required: true, unique: true } };
const needed = (field: Field): Field => ({ ...field, constraints: { ...field.constraints, required: true } });

/** What a field points to. */
const points = (fields: string, resource: string) => ({ fields, reference: { resource, fields: 'id' } });

function table(
  name: string,
  description: string,
  fields: Field[],
  rows: () => Iterable<Cell[]>,
  foreignKeys: TableSchema['foreignKeys'] = [],
): PackageTable {
  const keyed = fields[0] === ID;
  return {
    ...{ name, description, rows },
    schema: {
      fields,
      ...(keyed ? { primaryKey: ['id'] } : {}),
      ...(foreignKeys.length > 0 ? { foreignKeys } : {}),
      missingValues: [''],
    },
  };
}

/** What is compared. */
const itemTables = ({ items }: StudyDocument): PackageTable[] => [
  table(
    'items',
    'What is compared',
    [ID, needed(text('name')), needed(text('code')), needed(text('role')), text('class'), number('position')],
    () =>
      items.map(({ id, name, code, role, class: group, position }) => [
        id,
        name,
        code,
        role,
        group,
        position,
      ]),
  ),
  table(
    'attributes',
    'Figures of the items, such as mass and price',
    [needed(text('item_id')), needed(text('name')), number('value'), text('unit')],
    () =>
      items.flatMap(({ id, attributes }) =>
        attributes.map(({ name, value, unit }) => [id, name, value, unit]),
      ),
    [points('item_id', 'items')],
  ),
];

/** What is read of it. */
const measurandTables = ({ measurands }: StudyDocument): PackageTable[] => [
  table(
    'measurands',
    'What is read of the items, in which unit, and by which rule readings are left out',
    [
      ...[ID, needed(text('name')), text('unit', 'unit of the values'), text('form'), text('expression')],
      ...[text('direction', 'which way is better'), number('target'), number('margin')],
      ...[
        text('margin_in', 'the unit, or per cent of the best'),
        number('plausible_from'),
        number('plausible_to'),
      ],
      ...[text('instrument'), number('resolution'), text('rule')],
    ],
    () =>
      measurands.map((measurand) => [
        ...[measurand.id, measurand.name, measurand.unit, measurand.form, measurand.expression ?? ''],
        ...[measurand.direction.kind, measurand.direction.target, measurand.margin.value],
        ...[measurand.margin.kind, measurand.limits.low, measurand.limits.high],
        ...[measurand.instrument.name, measurand.instrument.resolution, measurand.rule.name],
      ]),
  ),
];

/** What is varied besides. */
const factorTables = ({ factors, levels }: StudyDocument): PackageTable[] => [
  table(
    'factors',
    'What is varied besides the item',
    [ID, needed(text('name')), text('kind'), text('unit')],
    () => factors.map(({ id, name, kind, unit }) => [id, name, kind, unit]),
  ),
  table(
    'levels',
    'Settings of the factors',
    [
      ID,
      needed(text('factor_id')),
      needed(text('name')),
      number('value'),
      { name: 'baseline', type: 'boolean' },
    ],
    () => levels.map(({ id, factorId, name, value, baseline }) => [id, factorId, name, value, baseline]),
    [points('factor_id', 'factors')],
  ),
];

/** What is known from elsewhere. */
const figureTables = ({ figures }: StudyDocument): PackageTable[] => [
  table(
    'figures',
    'What is known of items from elsewhere, in place of readings',
    [
      ...[ID, needed(text('item_id')), needed(text('measurand_id')), needed(text('kind'))],
      ...[whole('n', 'readings of a summary'), number('mean'), number('sd')],
      ...[number('low', 'lower end of a range, or the smallest reading'), number('high'), text('source')],
    ],
    () =>
      figures.map(({ id, itemId, measurandId, kind, n, mean, sd, low, high, source }) => [
        ...[id, itemId, measurandId, kind, n, mean, sd, low, high, source],
      ]),
    [points('item_id', 'items'), points('measurand_id', 'measurands')],
  ),
  table(
    'figure-levels',
    'At which levels these hold',
    [needed(text('figure_id')), needed(text('factor_id')), needed(text('level_id'))],
    () =>
      figures.flatMap(({ id, levels: found }) =>
        found.map(({ factorId, levelId }) => [id, factorId, levelId]),
      ),
    [points('figure_id', 'figures'), points('factor_id', 'factors'), points('level_id', 'levels')],
  ),
];

/** What readings are worked out from. */
const fileTables = ({ files, calibrations }: StudyDocument): PackageTable[] => [
  table(
    'files',
    'Files that readings were worked out from',
    [
      ...[ID, needed(text('name')), needed(text('file', 'name under which it is in this package'))],
      ...[whole('bytes'), text('note'), moment('added_at')],
    ],
    () => files.map(({ id, name, file, bytes, note, addedAt }) => [id, name, file, bytes, note, addedAt]),
  ),
  table(
    'calibrations',
    'What full scale of a recorder is, by a calibrator or typed in',
    [
      ...[ID, text('instrument'), moment('calibrated_at'), number('full_scale', 'what a sample of 1 is, dB')],
      ...[text('file_id'), whole('channel'), number('tone_from', 's'), number('tone_to', 's')],
      ...[number('tone_level', 'of the calibrator, dB'), text('note')],
    ],
    () =>
      calibrations.map(
        ({ id, instrument, calibratedAt, fullScale, fileId, channel, toneFrom, toneTo, toneLevel, note }) => [
          ...[id, instrument, calibratedAt, fullScale, fileId, channel, toneFrom, toneTo, toneLevel, note],
        ],
      ),
    [points('file_id', 'files')],
  ),
];

/** Around what they are read. */
const conditionTables = ({ conditions }: StudyDocument): PackageTable[] => [
  table(
    'conditions',
    'Ambient quantities that are read',
    [
      ...[ID, needed(text('quantity')), needed(text('kind')), text('unit')],
      { name: 'required', type: 'boolean' },
    ],
    () => conditions.map(({ id, quantity, kind, unit, required }) => [id, quantity, kind, unit, required]),
  ),
];

/** The tables that say what is compared, and how. */
const planTables = (document: StudyDocument): PackageTable[] => [
  ...itemTables(document),
  ...measurandTables(document),
  ...factorTables(document),
  ...figureTables(document),
  ...fileTables(document),
  ...conditionTables(document),
];

/** The tables of what was done at the bench, session by session. */
function sessionTables({ sessions }: StudyDocument): PackageTable[] {
  return [
    table(
      'sessions',
      'Sittings at the bench',
      [
        ID,
        moment('started_at'),
        moment('ended_at'),
        text('operator'),
        text('instrument'),
        text('kind'),
        text('note'),
      ],
      () =>
        sessions.map(({ id, startedAt, endedAt, operator, instrument, kind, note }) => [
          ...[id, startedAt, endedAt, operator, instrument, kind, note],
        ]),
    ),
    table(
      'condition-readings',
      'What the conditions were',
      [
        needed(text('session_id')),
        needed(text('condition_id')),
        text('at'),
        moment('taken_at'),
        text('text'),
        number('value'),
      ],
      () =>
        sessions.flatMap(({ id, conditions }) =>
          conditions.map(({ conditionId, at, takenAt, text: typed, number: value }) => [
            ...[id, conditionId, at, takenAt],
            ...[typed, value],
          ]),
        ),
      [points('session_id', 'sessions'), points('condition_id', 'conditions')],
    ),
  ];
}

/** The tables of readings, and of what each was made of. */
function readingTables(document: StudyDocument): PackageTable[] {
  const { readings } = document;
  return [
    table(
      'readings',
      'One reading a row: its value in the unit of its measurand, and whether it counts',
      [
        ...[ID, needed(text('item_id')), needed(text('measurand_id')), text('session_id')],
        ...[
          { ...whole('round'), constraints: { minimum: 1 } },
          whole('run_order', 'place in the order of the runs'),
        ],
        ...[
          number('value'),
          { name: 'left_out', type: 'boolean' as const },
          text('left_out_by'),
          text('reason'),
        ],
        ...[moment('taken_at'), text('source')],
      ],
      () => readingRows(document),
      [points('item_id', 'items'), points('measurand_id', 'measurands'), points('session_id', 'sessions')],
    ),
    table(
      'reading-levels',
      'At which levels readings were taken',
      [needed(text('reading_id')), needed(text('factor_id')), needed(text('level_id'))],
      function* levelRows() {
        for (const { id, levels } of readings)
          for (const { factorId, levelId } of levels) yield [id, factorId, levelId];
      },
      [points('reading_id', 'readings'), points('factor_id', 'factors'), points('level_id', 'levels')],
    ),
    table(
      'reading-parts',
      'What was typed or sent of each reading, and the number it was understood to be',
      [needed(text('reading_id')), needed(text('name')), text('text'), number('number')],
      function* partRows() {
        for (const { id, parts } of readings)
          for (const part of parts) yield [id, part.name, part.text, part.number];
      },
      [points('reading_id', 'readings')],
    ),
  ];
}

/** The tables of what was decided and noted. */
function decisionTables({ decisions, notes }: StudyDocument): PackageTable[] {
  return [
    table(
      'decisions',
      'What was decided about readings, sessions and runs, in the order in which it was',
      [
        ID,
        needed(text('action')),
        text('reading_id'),
        text('session_id'),
        text('reason'),
        moment('decided_at'),
      ],
      () =>
        decisions.map(({ id, action, readingId, sessionId, reason, decidedAt }) => [
          ...[id, action, readingId, sessionId, reason, decidedAt],
        ]),
      [points('reading_id', 'readings'), points('session_id', 'sessions')],
    ),
    table(
      'notes',
      'Notes and photos',
      [
        ...[ID, text('reading_id'), text('item_id'), text('session_id'), text('text')],
        ...[
          text('photo', 'name of its file'),
          moment('noted_at'),
          { name: 'removed', type: 'boolean' as const },
        ],
      ],
      () =>
        notes.map(({ id, readingId, itemId, sessionId, text: said, photo, notedAt, removed }) => [
          ...[id, readingId, itemId, sessionId, said, photo, notedAt, removed],
        ]),
      [points('reading_id', 'readings'), points('item_id', 'items'), points('session_id', 'sessions')],
    ),
  ];
}

function* readingRows(document: StudyDocument): Generator<Cell[]> {
  const uses = new Map<string, Use>();
  for (const measurand of measurandsRead(document)) {
    for (const { id, use } of screenedOf(document, measurand).observations) uses.set(id, use);
  }
  for (const { reading, value, standing } of recordOf(document).readings) {
    const use = uses.get(reading.id);
    const out = use?.is === 'left out' ? use : undefined;
    const withdrawn = standing.is === 'withdrawn';
    yield [
      ...[
        reading.id,
        reading.itemId,
        reading.measurandId,
        reading.sessionId,
        reading.round,
        reading.place + 1,
      ],
      ...[value, out !== undefined || withdrawn, withdrawn ? 'undone' : (out?.by ?? '')],
      ...[withdrawn ? standing.decision.reason : (out?.reason ?? ''), reading.takenAt, reading.source],
    ];
  }
}

/** The tables of a study, in the order in which they point to one another. */
export const packageTables = (document: StudyDocument): PackageTable[] => [
  ...planTables(document),
  ...sessionTables(document),
  ...readingTables(document),
  ...decisionTables(document),
];

/** Rows that are made into text at a time. */
const ROWS_AT_A_TIME = 2000;

/** A table as CSV by RFC 4180, piece by piece; texts that a spreadsheet would run are made harmless. */
export function* tableCsv({ schema, rows }: PackageTable): Generator<string> {
  const write = (lines: (Cell[] | string[])[]) =>
    `${Papa.unparse(lines, { newline: '\r\n', header: false })}\r\n`;
  yield write([schema.fields.map(({ name }) => name)]);
  let lines: Cell[][] = [];
  for (const row of rows()) {
    lines.push(row.map((cell) => (typeof cell === 'string' ? harmlessCell(cell) : cell)));
    if (lines.length < ROWS_AT_A_TIME) continue;
    yield write(lines);
    lines = [];
  }
  if (lines.length > 0) yield write(lines);
}

/** Counts up with each change of what the tables hold. */
export const TABLES_VERSION = 4;
export const DATA_PACKAGE = 'datapackage.json';
export const STUDY_IN_PACKAGE = 'study.json';
export const tablePath = (name: string): string => `data/${name}.csv`;

/** A file of a package, as it was written. */
export interface WrittenFile {
  bytes: number;
  /** SHA-256, in hexadecimal figures. */
  hash: string;
}

/**
 * The description of a package: each table with its schema, the study itself, the photos.
 * @param written what was written under each path
 * @source Data Package and Table Schema, version 1: specs.frictionlessdata.io
 */
export function dataPackage(
  document: StudyDocument,
  written: ReadonlyMap<string, WrittenFile>,
): Record<string, unknown> {
  const { study } = document;
  const file = (path: string) => {
    const { bytes, hash } = written.get(path) as WrittenFile;
    return { path, bytes, hash: `sha256:${hash}` };
  };
  return {
    profile: 'data-package',
    name: `study-${study.id}`,
    id: study.id,
    title: study.title,
    description: study.question,
    created: study.createdAt,
    brackenridge: { tables: TABLES_VERSION, formatVersion: STUDY_FORMAT_VERSION },
    resources: [
      ...packageTables(document).map(({ name, description, schema }) => ({
        profile: 'tabular-data-resource',
        ...{ name, description, ...file(tablePath(name)) },
        ...{ format: 'csv', mediatype: 'text/csv', encoding: 'utf-8' },
        dialect: { delimiter: ',', lineTerminator: '\r\n', header: true },
        schema,
      })),
      {
        ...{ name: 'study', description: 'The whole study as one document', ...file(STUDY_IN_PACKAGE) },
        ...{ format: 'json', mediatype: 'application/json', encoding: 'utf-8' },
      },
      ...[...written.keys()]
        .filter((path) => /^(?:photos|files)\//.test(path))
        .map((path) => ({
          name: `${path.startsWith('photos') ? 'photo' : 'file'}-${path.slice(path.indexOf('/') + 1).slice(0, 64)}`,
          ...file(path),
          format: path.slice(path.lastIndexOf('.') + 1),
        })),
    ],
  };
}
