import { expose } from 'comlink';
import { checkClaims } from '../../core/claims/check.ts';
import { analyseStudy, compareSchools } from '../../core/analysis/analyse-study.ts';
import {
  type Delimiter,
  type Matching,
  type ReadingsTable,
  guessMatching,
  packReadings,
  parseReadingsTable,
  readReadingsTable,
} from '../../core/formats/readings-table.ts';
import type { StudyDocument } from '../../core/model/study-document.ts';

/** Rows of a table that the page shows. */
const SHOWN_ROWS = 6;

/** The table that was taken apart last; it stays here, since to send a hundred thousand rows to and fro takes long. */
let table: ReadingsTable | undefined;

/** The head of a table, with how many rows it has and a first guess at what its columns hold. */
export type TableHead = Exclude<ReturnType<typeof parseTable>, { problem: string }>;

function parseTable(document: StudyDocument, text: string, delimiter?: Delimiter) {
  const found = parseReadingsTable(text, delimiter);
  if ('problem' in found) return found;
  table = found;
  const { rows, lines } = found;
  const guess = guessMatching(document, found);
  return {
    ...{ ...found, rows: rows.slice(0, SHOWN_ROWS), lines: lines.slice(0, SHOWN_ROWS) },
    ...{ rowCount: rows.length, guess },
  };
}

/** What a table was read as. The readings are JSON without its opening brace, so that a hundred thousand are no load. */
export type TableRead = ReturnType<typeof readTable>;

function readTable(document: StudyDocument, matching: Matching, onProgress: (share: number) => void) {
  if (!table) throw new Error('There is no table.');
  const { readings, ...outcome } = readReadingsTable(document, table, matching, onProgress);
  return {
    ...outcome,
    count: readings.length,
    packed: new Blob([JSON.stringify(packReadings(readings)).slice(1)]),
  };
}

const analysis = { analyseStudy, checkClaims, compareSchools, parseTable, readTable };
export type AnalysisWorker = typeof analysis;

expose(analysis);
