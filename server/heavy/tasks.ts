import { createWriteStream } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import isEqual from 'lodash/isEqual.js';
import pLimit from 'p-limit';
import { v7 } from 'uuid';
import { studyPreview } from '../../core/analysis/preview.ts';
import { decodeText } from '../../core/formats/csv-read.ts';
import { FileProblem } from '../../core/formats/file-problem.ts';
import { type PlainCsvOptions, plainCsv } from '../../core/formats/plain-csv.ts';
import { studyCsvPieces, studyFromCsv } from '../../core/formats/study-csv.ts';
import { copyStudy, documentProblems } from '../../core/formats/study-json.ts';
import { rankingOf } from '../../core/report/ranking.ts';
import type { Study } from '../../core/model/study.ts';
import { StudyDocument } from '../../core/model/study-document.ts';
import { upToDate } from '../../core/record/upgrade.ts';
import { parseJson } from '../body.ts';
import { Problem, invalid } from '../problems.ts';
import type { Store } from '../store/store.ts';
import { eraseStudy, hasTakenId, insertBitByBit, readDocument } from '../store/whole-study.ts';
import type { Kept } from '../kept.ts';
import { readPackage, writePackage } from '../package.ts';
import { schemaProblems } from '../validate.ts';
import type { Way } from './heavy.ts';
import { importReadings } from './import-readings.ts';

/** A file that arrived, to be read as a study. */
export interface ArrivedStudy {
  file: string;
  type: 'application/json' | 'text/csv' | 'application/zip';
  /** Title of a study from a table, which has none. */
  title: string;
  asCopy: boolean;
}

/** A study from a file, checked in all ways that need no database. */
async function readStudy({ file, type, title }: ArrivedStudy, now: string, { say }: Way) {
  say?.({ doing: 'Reading the file', share: null });
  const bytes = await readFile(file);
  let document: unknown;
  let missing = 0;
  if (type === 'application/json') document = upToDate(parseJson(bytes));
  else {
    try {
      ({ document, missing } = studyFromCsv(decodeText(bytes), { title, newId: () => v7(), now }));
      document = upToDate(document);
    } catch (error) {
      if (error instanceof FileProblem) throw new Problem(422, 'Not readable', error.message);
      throw error;
    }
  }
  const schema = schemaProblems(StudyDocument, document);
  if (schema.length > 0) throw invalid(schema);
  const whole = document as StudyDocument;
  const inner = documentProblems(whole);
  if (inner.length > 0) throw invalid(inner);
  return { whole, missing };
}

const alreadyHere = (what: string) =>
  new Problem(409, 'Already here', `${what} Import the file as a copy to keep both.`);

/** Kinds of what was recorded: none of it is ever given up for a file that does not have it. */
const RECORDED = ['readings', 'decisions', 'notes'] as const;

/** Whether the database holds something recorded for a study that a file of it does not. */
async function holdsMore(store: Store, whole: StudyDocument): Promise<boolean> {
  for (const kind of RECORDED) {
    const ids = new Set(whole[kind].map(({ id }) => id));
    const there = await store.list<{ id: string }>(kind, whole.study.id);
    if (there.some(({ id }) => !ids.has(id))) return true;
  }
  return false;
}

/**
 * Reads a study from a file and writes it, a little at a time, so that others write in between; it is seen when it is
 * complete.
 */
async function importStudy(store: Store, arrived: ArrivedStudy, kept: Kept, way: Way) {
  const now = new Date().toISOString();
  const read =
    arrived.type === 'application/zip'
      ? await readPackage(
          arrived.file,
          kept,
          (file) => readStudy({ ...arrived, file, type: 'application/json' }, now, way),
          way,
        )
      : await readStudy(arrived, now, way);
  way.signal?.throwIfAborted();
  let { whole } = read;
  const { missing } = read;
  if (arrived.asCopy) whole = copyStudy(whole, 'everything', v7(), () => v7(), whole.study.title, now);
  const answer = (already: boolean) => ({
    study: whole.study,
    already,
    readings: whole.readings.length,
    missing,
  });
  if (whole.study.status === 'deleted') whole = { ...whole, study: { ...whole.study, status: 'open' } };
  const existing = await store.find<Study>('studies', whole.study.id);
  if (existing && existing.status !== 'deleted') {
    if (isEqual(await readDocument(store.database, whole.study.id), whole)) return answer(true);
    throw alreadyHere('This study is here already, and not the same.');
  }
  if (existing) {
    if (await holdsMore(store, whole))
      throw alreadyHere('This study was deleted here, and holds readings that the file does not have.');
    await eraseStudy(store.database, whole.study.id);
  }
  if (await hasTakenId(store.database.writer, whole))
    throw alreadyHere('Parts of this study belong to another study here.');
  await insertBitByBit(store.database, whole, way);
  return answer(false);
}

/** A copy that is asked for. */
interface Duplicate {
  from: string;
  id: string;
  title: string;
  extent: 'plan' | 'everything';
}

/** Copies a study, once for each new id. */
async function duplicate(store: Store, { from, id, title, extent }: Duplicate, way: Way): Promise<Study> {
  const existing = await store.find<Study>('studies', id);
  if (existing) {
    if (existing.title === title && existing.status === 'open') return existing;
    throw new Problem(409, 'Id taken', 'There is another study with this id. Nothing was changed.');
  }
  const source = await readDocument(store.database, from);
  const copy = copyStudy(source, extent, id, () => v7(), title, new Date().toISOString());
  copy.study.status = 'open';
  await insertBitByBit(store.database, copy, way);
  return copy.study;
}

/** Writes a table of a study's readings into a file, as it is made. */
function writeTable(pieces: Iterable<string>, { readings }: StudyDocument, file: string, way: Way) {
  let lines = 0;
  const counted = function* () {
    for (const piece of pieces) {
      yield piece;
      lines += piece.split('\n').length;
      way.say?.({ doing: 'Writing the table', share: Math.min(1, lines / (readings.length + 1)) });
    }
  };
  return pipeline(Readable.from(counted()), createWriteStream(file, { mode: 0o600 }), {
    signal: way.signal,
  });
}

/** A study, of which a measurand is asked for. */
async function withMeasurand(
  { database }: Store,
  studyId: string,
  measurandId: string | undefined,
): Promise<StudyDocument> {
  const document = await readDocument(database, studyId);
  if (measurandId !== undefined && !document.measurands.some(({ id }) => id === measurandId)) {
    throw new Problem(404, 'Not found', 'The study has no measurand with this id.');
  }
  return document;
}

/** The preview of a study as JSON, `null` where it cannot be shown. */
async function previewText({ database }: Store, studyId: string): Promise<string> {
  try {
    return JSON.stringify(studyPreview(await readDocument(database, studyId)));
  } catch (error) {
    // One study that cannot be shown does not take the list of all with it.
    console.error(`The study ${studyId} has no preview:`, error);
    return 'null';
  }
}

/**
 * All that takes long, for plain arguments; the thread has a store of its own.
 * @param kept where photos and files are kept
 */
export function heavyTasks(store: Store, kept: Kept) {
  // One whole study in memory is enough; and what is written a little at a time is not met in the middle of it.
  const alone = pLimit(1);
  const inTurn =
    <Asked, Done>(work: (asked: Asked, way: Way) => Promise<Done>) =>
    (asked: Asked, way: Way = {}): Promise<Done> =>
      alone(() => {
        way.signal?.throwIfAborted();
        return work(asked, way);
      });
  return {
    importStudy: inTurn((arrived: ArrivedStudy, way) => importStudy(store, arrived, kept, way)),
    importReadings: inTurn((arrived: { file: string; studyId: string }, { signal }) =>
      importReadings(store, arrived, signal),
    ),
    duplicate: inTurn((asked: Duplicate, way) => duplicate(store, asked, way)),
    /** Writes a study's readings into a file, as CSV. */
    exportCsv: inTurn(async ({ studyId, file }: { studyId: string; file: string }, way): Promise<void> => {
      way.say?.({ doing: 'Reading the study', share: null });
      const document = await readDocument(store.database, studyId);
      await writeTable(studyCsvPieces(document), document, file, way);
    }),
    /** Writes a study's readings as a table that holds nothing else. */
    exportPlainCsv: inTurn(
      async (
        { studyId, file, options }: { studyId: string; file: string; options: PlainCsvOptions },
        way,
      ): Promise<void> => {
        way.say?.({ doing: 'Reading the study', share: null });
        const document = await withMeasurand(store, studyId, options.measurandId);
        await writeTable(plainCsv(document, options), document, file, way);
      },
    ),
    /** What the readings of a measurand support. */
    ranking: inTurn(async ({ studyId, measurandId }: { studyId: string; measurandId: string }) =>
      rankingOf(await withMeasurand(store, studyId, measurandId), measurandId),
    ),
    /** Writes a study as a zipped package of tables, with its photos and files. */
    exportPackage: inTurn(
      async ({ studyId, file }: { studyId: string; file: string }, way): Promise<void> => {
        way.say?.({ doing: 'Reading the study', share: null });
        await writePackage(await readDocument(store.database, studyId), kept, file, way);
      },
    ),
    renewPreview: inTurn((studyId: string) =>
      store.database.renewPreview(studyId, () => previewText(store, studyId)),
    ),
  };
}

export type HeavyTasks = ReturnType<typeof heavyTasks>;
