import { expose } from 'comlink';
import { analyseStudy, compareSchools } from '../../core/analysis/analyse-study.ts';

const analysis = { analyseStudy, compareSchools };
export type AnalysisWorker = typeof analysis;

expose(analysis);
