import { expose } from 'comlink';
import { checkClaims } from '../../core/claims/check.ts';
import { analyseStudy, compareSchools } from '../../core/analysis/analyse-study.ts';
import { packReadings, parseReadingsTable, readReadingsTable } from '../../core/formats/readings-table.ts';

/** What a table was read as. The readings are JSON without its opening brace, so that a hundred thousand are no load. */
export type TableRead = ReturnType<typeof readTable>;

function readTable(...given: Parameters<typeof readReadingsTable>) {
  const { readings, ...outcome } = readReadingsTable(...given);
  return {
    ...outcome,
    count: readings.length,
    packed: new Blob([JSON.stringify(packReadings(readings)).slice(1)]),
  };
}

const analysis = { analyseStudy, checkClaims, compareSchools, parseReadingsTable, readTable };
export type AnalysisWorker = typeof analysis;

expose(analysis);
