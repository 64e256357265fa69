import { useQueries, useQuery } from '@tanstack/react-query';
import type { Occasion } from '../../../core/analysis/occasion.ts';
import type { SinceOptions } from '../../../core/analysis/since.ts';
import type { EarlierTest } from '../../../core/model/study.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { blindStudy } from '../../../core/plan/blind.ts';
import { ask, numberOf, settings } from './analysis.ts';
import { documentOptions } from './studies.ts';

/** What studies found that are held against another one; those that are not there, or not yet, are left out. */
export function useOccasions(studyIds: readonly string[]): {
  occasions: Occasion[];
  settled: boolean;
  gone: string[];
} {
  const documents = useQueries({
    queries: studyIds.map((id) => ({ ...documentOptions(id), retry: false, throwOnError: false })),
  });
  const there = documents.map(({ data }) => data && blindStudy(data));
  const found = useQueries({
    queries: there.map((document, i) => ({
      queryKey: ['occasion', studyIds[i], documents[i]?.dataUpdatedAt],
      queryFn: ({ signal }: { signal: AbortSignal }) =>
        ask(document as StudyDocument, signal, (remote, ticket, number) => remote.occasionOf(ticket, number)),
      enabled: document !== undefined,
      ...settings,
      placeholderData: undefined,
    })),
  });
  return {
    occasions: found.flatMap(({ data }) => data ?? []),
    // What cannot be read or worked out is not waited for.
    settled: documents.every(({ isError }, i) => isError || (found[i]?.isFetched ?? false)),
    gone: studyIds.filter((_, i) => documents[i]?.isError),
  };
}

/** What a study found: its sessions, each by itself, or all of it where undefined stands in the place of one. */
export function useOccasionsOf(
  document: StudyDocument,
  sessionIds: readonly (string | undefined)[],
): Occasion[] {
  const found = useQueries({
    queries: sessionIds.map((sessionId) => ({
      queryKey: ['occasion', document.study.id, numberOf(document), sessionId],
      queryFn: ({ signal }: { signal: AbortSignal }) =>
        ask(document, signal, (remote, ticket, number) => remote.occasionOf(ticket, number, sessionId)),
      ...settings,
      placeholderData: undefined,
    })),
  });
  return found.flatMap(({ data }) => data ?? []);
}

/** A measurand held against earlier tests; null where it was not read now. */
export function useSinceEarlier(
  document: StudyDocument,
  measurandId: string,
  now: Occasion | undefined,
  earlier: readonly { occasion: Occasion; matches: EarlierTest['matches'] }[],
  options: SinceOptions,
) {
  return useQuery({
    queryKey: ['since', document.study.id, numberOf(document), measurandId, now, earlier, options],
    queryFn: ({ signal }) =>
      ask(document, signal, (remote, ticket, number) =>
        remote.sinceEarlier(ticket, number, measurandId, now as Occasion, earlier, options),
      ),
    enabled: now !== undefined && earlier.length > 0,
    ...settings,
  });
}
