import { keepPreviousData, queryOptions, useQuery, useQueryClient } from '@tanstack/react-query';
import { type Remote, proxy } from 'comlink';
import { useCallback } from 'react';
import type { MeasurandAnalysis, StudyAnalysisOptions } from '../../../core/analysis/analyse-study.ts';
import type { BaselineFamily } from '../../../core/analysis/baseline-families.ts';
import { atSetting } from '../../../core/analysis/at-setting.ts';
import type { Analysis } from '../../../core/analysis/compare-screened.ts';
import type { ClassBasis, ScoreBasis, ScoreBasisOptions } from '../../../core/analysis/score-basis.ts';
import type { FlipOptions } from '../../../core/analysis/score-flips.ts';
import type { PriceDesign } from '../../../core/analysis/school-price.ts';
import type { StudyMatching } from '../../../core/formats/study-columns.ts';
import type { Matching } from '../../../core/formats/readings-table.ts';
import type { Item, RuleInForce } from '../../../core/model/parts.ts';
import type { Scoring } from '../../../core/model/study.ts';
import type { ComposeOptions } from '../../../core/report/reported.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import type { AnalysisWorker, StudyTableRead, TableRead } from '../../workers/analysis.worker.ts';
import { studyChange } from '../../workers/held.ts';
import { Unpacker } from '../../workers/unpacker.ts';
import { called } from './worker.ts';

const newWorker = () =>
  called<AnalysisWorker>(
    new Worker(new URL('../../workers/analysis.worker.ts', import.meta.url), { type: 'module' }),
  );

let worker: Remote<AnalysisWorker> | undefined;
const analyst = (): Remote<AnalysisWorker> => (worker ??= newWorker());

const unpacker = new Unpacker();

let simulating: Remote<AnalysisWorker> | undefined;
/** Simulates for seconds; who asks about the readings does not wait for it. */
const simulator = (): Remote<AnalysisWorker> => (simulating ??= newWorker());

/** Takes a table of readings apart, beside the page. */
export const parseTable = (...given: Parameters<AnalysisWorker['parseTable']>) =>
  analyst().parseTable(...given);

/** Makes readings of the table that was taken apart last, beside the page. */
export const readTable = (
  document: StudyDocument,
  matching: Matching,
  onProgress: (share: number) => void,
): Promise<TableRead> => analyst().readTable(document, matching, proxy(onProgress));

/** Takes a table apart that becomes a study, beside the page. */
export const parseStudyTable = (...given: Parameters<AnalysisWorker['parseStudyTable']>) =>
  analyst().parseStudyTable(...given);

/** Makes a study of the table that was taken apart last, beside the page. */
export const readStudyTable = (
  matching: StudyMatching,
  about: { title: string; seed: number },
  onProgress: (share: number) => void,
): Promise<StudyTableRead> => analyst().readStudyTable(matching, about, proxy(onProgress));

/** The spread of the readings of another study, worked out beside the page. */
export const pooledSpreadOf = (...given: Parameters<AnalysisWorker['pooledSpreadOf']>) =>
  analyst().pooledSpreadOf(...given);

const numbers = new WeakMap<object, number>();
let last = 0;
/** The same object has the same number; a document, or what was worked out of one, is another object after any change. */
export function numberOf(counted: object): number {
  let number = numbers.get(counted);
  if (number === undefined) {
    last += 1;
    number = last;
    numbers.set(counted, number);
  }
  return number;
}

/** The state of each study that the worker was sent last, by the study's id. */
const sent = new Map<string, { number: number; document: StudyDocument }>();
let tickets = 0;

/** Asks the worker something, and lets it know when nobody waits for the answer any more. */
async function waited<Answer>(
  signal: AbortSignal,
  question: (remote: Remote<AnalysisWorker>, ticket: number) => Promise<Answer | undefined>,
  remote = analyst(),
): Promise<Answer> {
  tickets += 1;
  const ticket = tickets;
  const cancel = () => {
    void remote.cancel(ticket);
  };
  signal.addEventListener('abort', cancel);
  try {
    const answered = await question(remote, ticket);
    if (answered === undefined) throw new Error('Nobody waited for this answer.');
    return answered;
  } finally {
    signal.removeEventListener('abort', cancel);
  }
}

/** Asks the worker about a state of a study; it is sent what has changed since the state that it holds. */
export function ask<Answer>(
  document: StudyDocument,
  signal: AbortSignal,
  question: (remote: Remote<AnalysisWorker>, ticket: number, number: number) => Promise<Answer | undefined>,
): Promise<Answer> {
  const number = numberOf(document);
  const { id } = document.study;
  const before = sent.get(id);
  if (before?.number !== number) {
    sent.set(id, { number, document });
    void simulating?.rest();
    analyst()
      .hold(number, studyChange(document, before))
      .catch(() => {
        sent.delete(id);
      });
  }
  return waited(signal, (remote, ticket) => question(remote, ticket, number));
}

export const settings = {
  staleTime: Number.POSITIVE_INFINITY,
  // A result of an older state of the readings is not asked for again.
  gcTime: 2000,
  placeholderData: keepPreviousData,
  // What is worked out is new as a whole: to look for what stayed the same takes longer than to draw it.
  structuralSharing: false,
  // A state that the worker has let go of meanwhile is sent again.
  retry: (failures: number, error: Error) => failures < 2 && error.message.includes('not held'),
  retryDelay: 0,
};

/**
 * The analysis of one measurand at one setting, computed in a worker; the one before is shown while the next is made.
 * @param settingKey the first setting that was read when left out
 * @returns analysed: the state of the study that the analysis is of
 */
export function useAnalysis(
  document: StudyDocument,
  measurandId: string | undefined,
  settingKey?: string,
  options: StudyAnalysisOptions = {},
) {
  const asked = queryOptions({
    queryKey: ['analysis', document.study.id, measurandId, numberOf(document), options],
    queryFn: async ({ signal }) => {
      const answer = await ask(document, signal, (remote, ticket, number) =>
        remote.analyseStudy(
          ticket,
          number,
          measurandId as string,
          options,
          unpacker.known(document.study.id, measurandId as string),
        ),
      );
      return { analysis: unpacker.unpack(document, answer), analysed: document };
    },
    ...settings,
  });
  const client = useQueryClient();
  // Asked for before what has changed is drawn, so that it is worked out meanwhile.
  if (measurandId !== undefined && !client.getQueryState(asked.queryKey)) void client.prefetchQuery(asked);
  const { data, error, isPlaceholderData } = useQuery({
    ...asked,
    enabled: measurandId !== undefined,
    select: useCallback(
      ({ analysis, analysed }: { analysis: MeasurandAnalysis; analysed: StudyDocument }) => ({
        analysis: atSetting(analysis, settingKey),
        analysed,
      }),
      [settingKey],
    ),
  });
  return { data: data?.analysis, analysed: data?.analysed, error, isPlaceholderData };
}

/** One measurand over the levels of a factor; null where it was not read at two of them. */
export function useOverLevels(
  document: StudyDocument,
  measurandId: string | undefined,
  series: { factorId: string; key: string } | undefined,
  options: StudyAnalysisOptions = {},
) {
  return useQuery({
    queryKey: ['over', document.study.id, measurandId, series, numberOf(document), options],
    queryFn: ({ signal }) =>
      ask(document, signal, (remote, ticket, number) =>
        remote.overLevels(
          ticket,
          number,
          measurandId as string,
          series?.factorId ?? '',
          series?.key,
          options,
        ),
      ),
    enabled: measurandId !== undefined && series !== undefined,
    ...settings,
  });
}

/** One measurand over the levels of a factor, once for each combination of the others' levels. */
export function useOverSettings(
  document: StudyDocument,
  measurandId: string,
  factorId: string,
  options: StudyAnalysisOptions = {},
) {
  return useQuery({
    queryKey: ['over settings', document.study.id, measurandId, factorId, numberOf(document), options],
    queryFn: ({ signal }) =>
      ask(document, signal, (remote, ticket, number) =>
        remote.overSettings(ticket, number, measurandId, factorId, options),
      ),
    ...settings,
  });
}

/** What scores of several measurands are made of. */
export function useScoreBasis(document: StudyDocument, options: Omit<ScoreBasisOptions, 'ruleOf'>) {
  return useQuery({
    queryKey: ['scores', document.study.id, numberOf(document), options],
    queryFn: ({ signal }) =>
      ask(document, signal, (remote, ticket, number) => remote.scoreBasis(ticket, number, options)),
    ...settings,
  });
}

/** What the readings support of the scores of a class: drawn behind the hand that moves a weight. */
export function useScoreVerdicts(
  basis: ClassBasis,
  scoring: Scoring,
  level: Pick<ScoreBasis, 'alpha' | 'seed'>,
) {
  return useQuery({
    queryKey: ['score draws', basis, scoring, level],
    queryFn: ({ signal }) =>
      waited(signal, (remote, ticket) => remote.drawScores(ticket, basis, scoring, level)),
    ...settings,
  });
}

/** What would change who is first; null where nobody is. */
export function useScoreFlips(document: StudyDocument, options: FlipOptions, scoring: Scoring) {
  return useQuery({
    queryKey: ['flips', document.study.id, numberOf(document), options, scoring],
    queryFn: ({ signal }) =>
      ask(document, signal, (remote, ticket, number) => remote.scoreFlips(ticket, number, options, scoring)),
    ...settings,
  });
}

/** The pairs of a class with intervals that hold for those with its baseline alone. */
export function usePairsAgainst(analysis: Analysis, baseline: number, family: BaselineFamily) {
  const { items, pairs, pairAlpha, ranksOnly, exact } = analysis;
  return useQuery({
    queryKey: ['against baseline', numberOf(analysis), baseline, family],
    queryFn: () => analyst().pairsAgainst({ items, pairs, pairAlpha, ranksOnly, exact }, baseline, family),
    enabled: baseline !== -1 && family !== 'all-pairs',
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 2000,
  });
}

/** What results go with among the attributes of the items. */
export function useAssociations(items: readonly Item[], results: readonly (number | null)[]) {
  return useQuery({
    queryKey: ['associations', items.map(({ attributes }) => attributes), results],
    queryFn: () => analyst().associations(items, results),
    ...settings,
  });
}

/** The report of a study, sentence by sentence and table by table; none while there is no study yet. */
export function useReport(document: StudyDocument | undefined, options: Omit<ComposeOptions, 'when'>) {
  return useQuery({
    queryKey: ['report', document?.study.id, document && numberOf(document), options],
    queryFn: ({ signal }) =>
      ask(document as StudyDocument, signal, (remote, ticket, number) =>
        remote.composeReport(ticket, number, options),
      ),
    enabled: document !== undefined,
    ...settings,
  });
}

/** What every school of screening would do to one class of items. */
export function useSchools(
  document: StudyDocument,
  measurandId: string,
  className: string,
  settingKey: string,
) {
  return useQuery({
    queryKey: ['schools', document.study.id, measurandId, className, settingKey, numberOf(document)],
    queryFn: ({ signal }) =>
      ask(document, signal, (remote, ticket, number) =>
        remote.compareSchools(ticket, number, measurandId, className, settingKey),
      ),
    ...settings,
  });
}

/** What a school of screening costs studies of a design in which there is nothing to find, simulated once. */
export const priceQuery = (design: PriceDesign, rule: RuleInForce) =>
  queryOptions({
    queryKey: ['price', design, rule],
    queryFn: ({ signal }) =>
      waited(signal, (remote, ticket) => remote.priceSchool(ticket, design, rule), simulator()),
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });

export const usePrice = (design: PriceDesign | undefined, rule: RuleInForce) =>
  useQuery({ ...priceQuery(design as PriceDesign, rule), enabled: design !== undefined });

/** The claims about a measurand, checked against the readings. */
export function useClaims(document: StudyDocument, measurandId: string, settingKey: string | undefined) {
  return useQuery({
    queryKey: ['claims', document.study.id, measurandId, settingKey, numberOf(document)],
    queryFn: ({ signal }) =>
      ask(document, signal, (remote, ticket, number) =>
        remote.checkClaims(ticket, number, measurandId, settingKey),
      ),
    ...settings,
  });
}

/** How a measurand agrees with its reference; null where it has none. */
export function useAgreement(
  document: StudyDocument,
  measurandId: string | undefined,
  slowest = Number.POSITIVE_INFINITY,
) {
  return useQuery({
    queryKey: ['agreement', document.study.id, measurandId, String(slowest), numberOf(document)],
    queryFn: ({ signal }) =>
      ask(document, signal, (remote, ticket, number) =>
        remote.agreementOf(ticket, number, measurandId as string, slowest),
      ),
    enabled: measurandId !== undefined,
    ...settings,
  });
}

/** What of a measurand's spread comes from whom and what; null where one hand read it in one session. */
export function usePrecision(document: StudyDocument, measurandId: string | undefined) {
  return useQuery({
    queryKey: ['precision', document.study.id, measurandId, numberOf(document)],
    queryFn: ({ signal }) =>
      ask(document, signal, (remote, ticket, number) =>
        remote.precisionOf(ticket, number, measurandId as string),
      ),
    enabled: measurandId !== undefined,
    ...settings,
  });
}

/** Figures of each item that take longer, once they are asked for. */
export function useMoreFigures(
  document: StudyDocument,
  measurandId: string,
  settingKey: string,
  enabled: boolean,
) {
  return useQuery({
    queryKey: ['more', document.study.id, measurandId, settingKey, numberOf(document)],
    queryFn: ({ signal }) =>
      ask(document, signal, (remote, ticket, number) =>
        remote.moreFigures(ticket, number, measurandId, settingKey),
      ),
    enabled,
    ...settings,
  });
}

/** What is noticed in the readings of a study. */
export function useFindings(document: StudyDocument) {
  return useQuery({
    queryKey: ['findings', document.study.id, numberOf(document)],
    queryFn: ({ signal }) =>
      ask(document, signal, (remote, ticket, number) => remote.noticedIn(ticket, number)),
    ...settings,
  });
}

/** The pooled spread of the readings that a measurand has so far, in its unit. */
export function usePooledSpread(document: StudyDocument, measurandId: string | undefined) {
  return useQuery({
    queryKey: ['spread', document.study.id, measurandId, numberOf(document)],
    queryFn: ({ signal }) =>
      ask(document, signal, (remote, ticket, number) =>
        remote.pooledSpread(ticket, number, measurandId as string),
      ),
    enabled: measurandId !== undefined && document.readings.length + document.figures.length > 0,
    ...settings,
  });
}
