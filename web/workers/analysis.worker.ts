import { expose } from 'comlink';
import { checkClaims } from '../../core/claims/check.ts';
import { analyseStudy, compareSchools } from '../../core/analysis/analyse-study.ts';

const analysis = { analyseStudy, checkClaims, compareSchools };
export type AnalysisWorker = typeof analysis;

expose(analysis);
