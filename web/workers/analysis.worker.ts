import { expose } from 'comlink';
import { checkClaims } from '../../core/claims/check.ts';
import { analyseStudy, compareSchools } from '../../core/analysis/analyse-study.ts';
import { parseReadingsTable, readReadingsTable } from '../../core/formats/readings-table.ts';

const analysis = { analyseStudy, checkClaims, compareSchools, parseReadingsTable, readReadingsTable };
export type AnalysisWorker = typeof analysis;

expose(analysis);
