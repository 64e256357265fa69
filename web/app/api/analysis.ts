import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { type Remote, proxy, wrap } from 'comlink';
import type { StudyAnalysisOptions } from '../../../core/analysis/analyse-study.ts';
import type { Matching } from '../../../core/formats/readings-table.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import type { AnalysisWorker, TableRead } from '../../workers/analysis.worker.ts';

let worker: Remote<AnalysisWorker> | undefined;
function analyst(): Remote<AnalysisWorker> {
  worker ??= wrap<AnalysisWorker>(
    new Worker(new URL('../../workers/analysis.worker.ts', import.meta.url), { type: 'module' }),
  );
  return worker;
}

/** Takes a table of readings apart, beside the page. */
export const parseTable = (...given: Parameters<AnalysisWorker['parseTable']>) =>
  analyst().parseTable(...given);

/** Makes readings of the table that was taken apart last, beside the page. */
export const readTable = (
  document: StudyDocument,
  matching: Matching,
  onProgress: (share: number) => void,
): Promise<TableRead> => analyst().readTable(document, matching, proxy(onProgress));

const numbers = new WeakMap<StudyDocument, number>();
let last = 0;
/** The same document object has the same number; any change makes another object. */
function numberOf(document: StudyDocument): number {
  let number = numbers.get(document);
  if (number === undefined) {
    last += 1;
    number = last;
    numbers.set(document, number);
  }
  return number;
}

const settings = {
  staleTime: Number.POSITIVE_INFINITY,
  // A result of an older state of the readings is not asked for again.
  gcTime: 2000,
  placeholderData: keepPreviousData,
  retry: false,
};

/** The analysis of one measurand, computed in a worker; the one before is shown while the next is made. */
export function useAnalysis(
  document: StudyDocument,
  measurandId: string | undefined,
  options: StudyAnalysisOptions = {},
) {
  return useQuery({
    queryKey: ['analysis', document.study.id, measurandId, numberOf(document), options],
    queryFn: () => analyst().analyseStudy(document, measurandId as string, options),
    enabled: measurandId !== undefined,
    ...settings,
  });
}

/** What every school of screening would do to one class of items. */
export function useSchools(document: StudyDocument, measurandId: string, className: string) {
  return useQuery({
    queryKey: ['schools', document.study.id, measurandId, className, numberOf(document)],
    queryFn: () => analyst().compareSchools(document, measurandId, className),
    ...settings,
  });
}

/** The claims about a measurand, checked against the readings. */
export function useClaims(document: StudyDocument, view: StudyDocument, measurandId: string) {
  return useQuery({
    queryKey: ['claims', document.study.id, measurandId, numberOf(document), numberOf(view)],
    queryFn: () => analyst().checkClaims(document, view, measurandId),
    ...settings,
  });
}
