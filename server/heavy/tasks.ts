import { createWriteStream } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import pLimit from 'p-limit';
import { v7 } from 'uuid';
import { studyPreview } from '../../core/analysis/preview.ts';
import { FileProblem, decodeText } from '../../core/formats/csv-read.ts';
import { type PlainCsvOptions, plainCsv } from '../../core/formats/plain-csv.ts';
import { studyCsvPieces, studyFromCsv } from '../../core/formats/study-csv.ts';
import { copyStudy, documentProblems } from '../../core/formats/study-json.ts';
import { rankingOf } from '../../core/report/ranking.ts';
import type { Study } from '../../core/model/study.ts';
import { StudyDocument } from '../../core/model/study-document.ts';
import { upToDate } from '../../core/record/upgrade.ts';
import { parseJson } from '../body.ts';
import { renewPreview } from '../db/previews.ts';
import { Problem, invalid } from '../problems.ts';
import { type Store, sameJson } from '../store.ts';
import { readPackage, writePackage } from '../package.ts';
import { schemaProblems } from '../validate.ts';
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
async function readStudy({ file, type, title }: ArrivedStudy, now: string) {
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
async function importStudy(store: Store, arrived: ArrivedStudy, photos: string) {
  const now = new Date().toISOString();
  const read =
    arrived.type === 'application/zip'
      ? await readPackage(arrived.file, photos, (file) =>
          readStudy({ ...arrived, file, type: 'application/json' }, now),
        )
      : await readStudy(arrived, now);
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
  const existing = await store.find('studies', whole.study.id);
  if (existing && store.plain<Study>(existing).status !== 'deleted') {
    if (sameJson(await store.document(whole.study.id), whole)) return answer(true);
    throw alreadyHere('This study is here already, and not the same.');
  }
  if (existing) {
    if (await holdsMore(store, whole))
      throw alreadyHere('This study was deleted here, and holds readings that the file does not have.');
    await store.eraseStudy(whole.study.id);
  }
  if (await store.takenId(whole)) throw alreadyHere('Parts of this study belong to another study here.');
  await store.insertBitByBit(whole);
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
async function duplicate(store: Store, { from, id, title, extent }: Duplicate): Promise<Study> {
  const existing = await store.find('studies', id);
  if (existing) {
    const study = store.plain<Study>(existing);
    if (study.title === title && study.status === 'open') return study;
    throw new Problem(409, 'Id taken', 'There is another study with this id. Nothing was changed.');
  }
  const source = await store.document(from);
  const copy = copyStudy(source, extent, id, () => v7(), title, new Date().toISOString());
  copy.study.status = 'open';
  await store.insertBitByBit(copy);
  return copy.study;
}

/**
 * All that takes long, for plain arguments; the thread has a store of its own.
 * @param photos folder in which photos are kept
 */
export function heavyTasks(store: Store, photos: string) {
  // What is written a little at a time is not met by another such work in the middle of it.
  const alone = pLimit(1);
  return {
    importStudy: (arrived: ArrivedStudy) => alone(() => importStudy(store, arrived, photos)),
    importReadings: (arrived: { file: string; studyId: string }, signal?: AbortSignal) =>
      alone(() => importReadings(store, arrived, signal)),
    duplicate: (asked: Duplicate) => alone(() => duplicate(store, asked)),
    /** Writes a study's readings into a file, as CSV. */
    exportCsv: async ({ studyId, file }: { studyId: string; file: string }): Promise<void> => {
      const document = await store.document(studyId);
      await pipeline(Readable.from(studyCsvPieces(document)), createWriteStream(file, { mode: 0o600 }));
    },
    /** Writes a study's readings as a table that holds nothing else. */
    exportPlainCsv: async ({
      studyId,
      file,
      options,
    }: {
      studyId: string;
      file: string;
      options: PlainCsvOptions;
    }): Promise<void> => {
      const document = await store.document(studyId);
      const { measurandId } = options;
      if (measurandId !== undefined && !document.measurands.some(({ id }) => id === measurandId)) {
        throw new Problem(404, 'Not found', 'The study has no measurand with this id.');
      }
      await pipeline(Readable.from(plainCsv(document, options)), createWriteStream(file, { mode: 0o600 }));
    },
    /** What the readings of a measurand support. */
    ranking: async ({ studyId, measurandId }: { studyId: string; measurandId: string }) => {
      const document = await store.document(studyId);
      if (!document.measurands.some(({ id }) => id === measurandId)) {
        throw new Problem(404, 'Not found', 'The study has no measurand with this id.');
      }
      return rankingOf(document, measurandId);
    },
    /** Writes a study as a zipped package of tables, with its photos. */
    exportPackage: async ({ studyId, file }: { studyId: string; file: string }): Promise<void> => {
      await writePackage(await store.document(studyId), photos, file);
    },
    renewPreview: (studyId: string) =>
      renewPreview(store.database, studyId, async () => {
        try {
          return JSON.stringify(studyPreview(await store.document(studyId)));
        } catch (error) {
          // One study that cannot be shown does not take the list of all with it.
          console.error(`The study ${studyId} has no preview:`, error);
          return 'null';
        }
      }),
  };
}

export type HeavyTasks = ReturnType<typeof heavyTasks>;
