import {
  QueryClient,
  queryOptions,
  replaceEqualDeep,
  useQuery,
  useSuspenseQuery,
} from '@tanstack/react-query';
import { useMemo, useSyncExternalStore } from 'react';
import { v7 } from 'uuid';
import type { StudyPreview } from '../../../core/analysis/preview.ts';
import type { PartKind } from '../../../core/model/part-kinds.ts';
import { idTime } from '../../../core/model/id-time.ts';
import type { Item, Reading, Session } from '../../../core/model/parts.ts';
import type { Study } from '../../../core/model/study.ts';
import { studyInReport } from '../../../core/formats/report-file.ts';
import type { StudyDocument } from '../../../core/model/study-document.ts';
import { NEW_ROUNDS } from '../../../core/model/words.ts';
import { lastStep } from '../../../core/model/last-step.ts';
import { copiedStudies, copyDocument, copyOf, copyPart, copyWithout } from './copies.ts';
import { Refusal, ServerAway, answerWithHeaders, request } from './client.ts';
import { watched } from './watched.ts';
import type { Way } from '../../ui/under-way.tsx';
import { idBehind } from './ids.ts';
import { steadyDocument, withOutgoing } from './merge.ts';
import { stepKeeper } from './in-step.ts';
import { newestOf, newestParts } from './newest.ts';
import { placeOf, withPart } from './places.ts';
import { type Outgoing, type OutboxState, type OutgoingKind, outbox } from './outbox.ts';

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      retry: (count, error) => error instanceof ServerAway && count < 3,
      retryDelay: 700,
      networkMode: 'always',
    },
    mutations: { networkMode: 'always' },
  },
});

export interface ListedStudy {
  study: Study;
  /** null where it could not be made, or is being made for the first time. */
  preview: StudyPreview | null;
  /** There where the study has changed since: whether another one is being made. */
  renewing?: boolean;
}

const studiesKey = ['studies'] as const;
export const documentKey = (id: string) => ['study', id] as const;

export const documentOptions = (id: string) =>
  queryOptions({
    queryKey: documentKey(id),
    structuralSharing: (before, after) =>
      changedHere.has(after as object) ? after : replaceEqualDeep(before, newestOf(before, after)),
    queryFn: async () => {
      try {
        return await fetchDocument(id);
      } catch (error) {
        if (!(error instanceof ServerAway) || queryClient.getQueryData(documentKey(id)) !== undefined)
          throw error;
        // Without the server the page goes on with what it had; the server is listened for all the while.
        const copy = await copyOf(id);
        if (!copy) throw error;
        return copy;
      }
    },
  });

/**
 * Of a study that the page follows: it is fetched again where the server says that something was missed, and not because
 * some time went by, which it takes to draw a large one.
 */
export const followedOptions = (id: string) =>
  queryOptions({ ...documentOptions(id), staleTime: Number.POSITIVE_INFINITY });

/** States that this page made of the one before: they share with it all that has not changed. */
const changedHere = new WeakSet<object>();

/** Readings that are fetched at a time: more would hold the page while they are read. */
const READINGS_AT_A_TIME = 4000;

/** A study as it stands on the server; readings come a few thousand at a time. */
export async function fetchDocument(id: string): Promise<StudyDocument> {
  const since = Date.now();
  const address = `/studies/${id}`;
  const most = String(READINGS_AT_A_TIME);
  const { answer: document, headers } = await answerWithHeaders<StudyDocument>(
    'GET',
    `${address}/document?readings=${most}`,
  );
  const { readings } = document;
  for (let fetched = readings.length; fetched === READINGS_AT_A_TIME;) {
    const last = (readings.at(-1) as Reading).id;
    const more = await request<Reading[]>('GET', `${address}/readings-behind/${last}?most=${most}`);
    readings.push(...more);
    fetched = more.length;
  }
  keepInStep.has(id, headers.get('Study-State') ?? '');
  copyDocument(document, since);
  return document;
}

/** The list is asked for again while previews are being made, in ms. */
const RENEWED_MS = 1000;

/** The list of studies; without the server, those that this browser holds copies of. */
async function fetchStudies(): Promise<ListedStudy[]> {
  try {
    return await request<ListedStudy[]>('GET', '/studies');
  } catch (error) {
    if (!(error instanceof ServerAway) || queryClient.getQueryData(studiesKey) !== undefined) throw error;
    const copied = await copiedStudies();
    if (copied.length === 0) throw error;
    return copied.map((study) => ({ study, preview: null, renewing: true }));
  }
}

export const useStudies = () =>
  useQuery({
    queryKey: studiesKey,
    queryFn: fetchStudies,
    refetchInterval: ({ state }) => (state.data?.some(({ renewing }) => renewing) ? RENEWED_MS : false),
  });

export const useOutbox = (): OutboxState => useSyncExternalStore(outbox.subscribe, outbox.snapshot);

let held: { keys: string; entries: readonly Outgoing[] } = { keys: '', entries: [] };

/** What is on its way: the same list until something of it has changed, however often the outbox looks. */
function heldEntries(): readonly Outgoing[] {
  const { entries } = outbox.snapshot();
  const keys = entries.map(({ key, refused }) => key + (refused ?? '')).join();
  if (keys !== held.keys) held = { keys, entries };
  return held.entries;
}

/** The state of a study that was shown last. */
let shown: StudyDocument | undefined;

function steady(document: StudyDocument): StudyDocument {
  shown = shown?.study.id === document.study.id ? steadyDocument(shown, document) : document;
  return shown;
}

/** A study with everything recorded for it, what is still on its way included. */
export function useStudyDocument(id: string): StudyDocument {
  const { data } = useSuspenseQuery(followedOptions(id));
  const entries = useSyncExternalStore(outbox.subscribe, heldEntries);
  return useMemo(() => steady(withOutgoing(data, entries)), [data, entries]);
}

/** The items of a study as the page has them this very moment, which may be more than what is drawn. */
export const itemsNow = ({ study, items }: StudyDocument): Item[] => [
  ...(queryClient.getQueryData<StudyDocument>(documentKey(study.id))?.items ?? items),
];

interface AnyPart {
  id: string;
}

function changeDocument(id: string, change: (document: StudyDocument) => StudyDocument): void {
  queryClient.setQueryData<StudyDocument>(documentKey(id), (document) => {
    const changed = document && change(document);
    if (changed) changedHere.add(changed);
    return changed;
  });
}

/** A state with the study itself as it is now, unless a newer one is known. */
const withStudy = (document: StudyDocument, study: Study): StudyDocument =>
  document.study.version >= study.version ? document : { ...document, study };

/** Kinds whose changes the server writes down, so that its log is fetched again. */
const LOGGED: ReadonlySet<PartKind> = new Set(['measurands', 'claims'] as const);

/** Puts a part as the server has it into the cached study, and into its copy. */
function keepPart(studyId: string, kind: PartKind, part: LivePart): void {
  copyPart(studyId, kind, part);
  changeDocument(studyId, (document) => {
    const parts = document[kind] as LivePart[];
    const known = parts[placeOf(parts, part.id)];
    return known && known.version > part.version ? document : { ...document, [kind]: withPart(parts, part) };
  });
}

export interface LivePart {
  id: string;
  version: number;
}

/** Puts in what another page has recorded or changed, unless this one knows it better. */
export function keepLivePart(studyId: string, kind: PartKind, part: LivePart): void {
  const document = queryClient.getQueryData<StudyDocument>(documentKey(studyId));
  if (!document) return;
  const parts = document[kind] as LivePart[];
  const known = parts[placeOf(parts, part.id)];
  if (known && known.version >= part.version) return;
  keepPart(studyId, kind, part);
}

export function keepLiveStudy(studyId: string, study: LivePart): void {
  copyPart(studyId, 'study', study);
  changeDocument(studyId, (document) => withStudy(document, study as unknown as Study));
}

export function forgetPart(studyId: string, kind: PartKind, gone: string): void {
  copyWithout(studyId, kind, gone);
  changeDocument(studyId, (document) => ({
    ...document,
    [kind]: (document[kind] as AnyPart[]).filter(({ id }) => id !== gone),
  }));
}

/** Fetches the server's log of changes again. */
async function refetchChanges(studyId: string): Promise<void> {
  const changes = await request<StudyDocument['changes']>('GET', `/studies/${studyId}/changes`);
  changeDocument(studyId, (document) => ({
    ...document,
    changes: newestParts(document.changes, changes),
  }));
}

/** Fetches a study again, since more has changed than can be told. */
export function refetchStudy(studyId: string): void {
  void queryClient.invalidateQueries({ queryKey: documentKey(studyId) });
}

const keepInStep = stepKeeper(async (studyId) => {
  const query = queryClient.getQueryCache().find({ queryKey: documentKey(studyId) });
  if (query?.state.fetchStatus === 'fetching') await query.promise;
  else await queryClient.refetchQueries({ queryKey: documentKey(studyId) }, { throwOnError: true });
});
export const hearState = keepInStep.hears;

outbox.onRecorded = (kind, part) => {
  const { studyId } = part;
  const query = queryClient.getQueryCache().find({ queryKey: documentKey(studyId) });
  if (!query) return;
  if (query.state.data !== undefined) keepPart(studyId, kind, part);
  if (query.state.fetchStatus !== 'fetching') return;
  // The study is being fetched, perhaps from before this part was recorded.
  query.promise?.then(
    () => {
      keepLivePart(studyId, kind, part);
    },
    () => undefined,
  );
};

/** Another tab changed the same field in the meantime. */
export class Conflict extends Error {
  constructor(readonly theirs: Record<string, unknown>) {
    super('This was changed somewhere else in the meantime.');
    this.name = 'Conflict';
  }
}

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

/**
 * Sends a change by version. Where another tab changed other fields of the same part, it is sent once more on top of
 * that; where it changed the same ones, nobody's text is lost: the caller gets a Conflict.
 */
async function patchByVersion<T extends { version: number }>(
  path: string,
  part: T,
  changes: Partial<T>,
  keep: (current: T) => void,
): Promise<T> {
  try {
    const saved = await request<T>('PATCH', path, { version: part.version, ...changes });
    keep(saved);
    return saved;
  } catch (error) {
    if (!(error instanceof Refusal) || error.status !== 409 || !error.current) throw error;
    const current = error.current as T;
    keep(current);
    const fields = Object.keys(changes) as (keyof T)[];
    if (fields.every((field) => same(current[field], part[field]))) {
      return patchByVersion(path, current, changes, keep);
    }
    throw new Conflict(current);
  }
}

export const patchStudy = (study: Study, changes: Partial<Study>) =>
  patchByVersion(`/studies/${study.id}`, study, changes, (current) => {
    copyPart(study.id, 'study', current);
    changeDocument(study.id, (document) => withStudy(document, current));
    void queryClient.invalidateQueries({ queryKey: studiesKey });
    if ('blind' in changes) refetchStudy(study.id);
  });

export const patchPart = <K extends PartKind>(
  kind: K,
  part: StudyDocument[K][number],
  changes: Partial<StudyDocument[K][number]>,
) =>
  patchByVersion(`/studies/${part.studyId}/${kind}/${part.id}`, part, changes as never, (current) => {
    keepPart(part.studyId, kind, current);
    if (LOGGED.has(kind)) void refetchChanges(part.studyId).catch(() => undefined);
  });

/** Edits of parts that are on their way, by the part. */
const turns = new Map<string, Promise<unknown>>();

/**
 * Changes a part by what it is once this page’s own edits before it are saved: where one field holds several things, quick
 * hands meet no conflict with themselves.
 */
export function patchInTurn<K extends PartKind>(
  kind: K,
  part: StudyDocument[K][number],
  change: (now: StudyDocument[K][number]) => Partial<StudyDocument[K][number]>,
): Promise<StudyDocument[K][number]> {
  const before = turns.get(part.id) ?? Promise.resolve();
  const turn = before
    .catch(() => undefined)
    .then(() => {
      const document = queryClient.getQueryData<StudyDocument>(documentKey(part.studyId));
      const parts = (document?.[kind] ?? []) as StudyDocument[K][number][];
      const now = parts.find(({ id }) => id === part.id) ?? part;
      return patchPart(kind, now, change(now));
    });
  const done = () => {
    if (turns.get(part.id) === turn) turns.delete(part.id);
  };
  turns.set(part.id, turn);
  turn.then(done, done);
  return turn;
}

/** What a new part holds besides its id and stamps. */
export type NewPart<K extends PartKind> = Omit<
  StudyDocument[K][number],
  'id' | 'studyId' | 'version' | 'createdAt' | 'updatedAt'
> & { id?: string };

export async function createPart<K extends PartKind>(studyId: string, kind: K, fields: NewPart<K>) {
  const part = await request<StudyDocument[K][number]>('POST', `/studies/${studyId}/${kind}`, {
    id: v7(),
    ...fields,
  });
  keepPart(studyId, kind, part);
  if (LOGGED.has(kind)) void refetchChanges(studyId).catch(() => undefined);
  return part;
}

export async function deletePart(kind: PartKind, part: { id: string; studyId: string; version: number }) {
  await request('DELETE', `/studies/${part.studyId}/${kind}/${part.id}?version=${String(part.version)}`);
  forgetPart(part.studyId, kind, part.id);
  if (LOGGED.has(kind)) void refetchChanges(part.studyId).catch(() => undefined);
}

/** A seed for an order of runs; five figures are enough and can be read out. */
export const newSeed = (): number => (crypto.getRandomValues(new Uint32Array(1))[0] as number) % 100000;

export async function createStudy(title: string, question: string): Promise<Study> {
  const study = await request<Study>('POST', '/studies', {
    id: v7(),
    title,
    question,
    rounds: NEW_ROUNDS,
    seed: newSeed(),
  });
  void queryClient.invalidateQueries({ queryKey: studiesKey });
  return study;
}

/** A whole study as it was made in the page, such as one from a pattern. */
export async function createWholeStudy(document: StudyDocument | Blob): Promise<void> {
  await request('POST', '/studies/import', document);
  void queryClient.invalidateQueries({ queryKey: studiesKey });
}

export async function duplicateStudy(
  study: Study,
  extent: 'plan' | 'everything',
  title = `${study.title.slice(0, 110)} (copy)`,
): Promise<Study> {
  const copy = await request<Study>('POST', `/studies/${study.id}/duplicate`, {
    id: v7(),
    title,
    extent,
  });
  void queryClient.invalidateQueries({ queryKey: studiesKey });
  return copy;
}

export interface Imported {
  study: Study;
  already: boolean;
  readings: number;
  missing: number;
}

/** The study inside a report that was handed on. */
async function insideReport(file: File): Promise<Blob> {
  const json = studyInReport(await file.text());
  if (json === undefined) {
    throw new Error('There is no study in this page. Only a report that was saved as one file holds one.');
  }
  return new Blob([json]);
}

/** Sends a file as it is; the server reads and checks it. Of a report it is the study inside. */
export async function importStudy(file: File, asCopy: boolean, { signal, say }: Way): Promise<Imported> {
  const report = /\.html?$/i.test(file.name) || file.type === 'text/html';
  const zip = /\.zip$/i.test(file.name) || file.type === 'application/zip';
  const csv = !report && !zip && !/\.json$/i.test(file.name) && file.type !== 'application/json';
  const title = encodeURIComponent(file.name.replace(/\.[^.]*$/, '').slice(0, 110));
  const body = report ? await insideReport(file) : file;
  const imported = await watched(say, (name) =>
    request<Imported>(
      'POST',
      `/studies/import?title=${title}${asCopy ? '&copy=yes' : ''}&${name}`,
      body,
      zip ? 'application/zip' : csv ? 'text/csv' : 'application/json',
      signal,
    ),
  );
  void queryClient.invalidateQueries({ queryKey: studiesKey });
  queryClient.removeQueries({ queryKey: documentKey(imported.study.id) });
  return imported;
}

/** A decision as the stages make it: what it is not about may be left out. */
export type NewDecision = Pick<NewPart<'decisions'>, 'action'> & Partial<NewPart<'decisions'>>;

export type NewBenchPart =
  | { kind: 'readings'; fields: NewPart<'readings'> }
  | { kind: 'decisions'; fields: NewDecision }
  | { kind: 'sessions'; fields: NewPart<'sessions'> }
  | { kind: 'notes'; fields: NewPart<'notes'>; photo?: Blob };

/** The last ids of a study's record, what is on its way included. */
function lastIds(studyId: string): string[] {
  const document = queryClient.getQueryData<StudyDocument>(documentKey(studyId));
  const stored = document
    ? [document.readings, document.decisions, document.sessions, document.notes].flatMap((parts) => {
        const last = parts.at(-1);
        return last ? [last.id] : [];
      })
    : [];
  return [...stored, ...outbox.snapshot().entries.map(({ part }) => part.id)];
}

/** The time in ms, or that of the last step of a session where the clock was set back behind it. */
function timeBehindSteps(studyId: string): number {
  const stored = queryClient.getQueryData<StudyDocument>(documentKey(studyId))?.sessions ?? [];
  const onTheWay = outbox.snapshot().entries.filter(({ kind }) => kind === 'sessions');
  return [...stored, ...onTheWay.map(({ part }) => part as Session)]
    .filter((session) => session.studyId === studyId)
    .reduce((time, session) => Math.max(time, lastStep(session) + 1), Date.now());
}

/** An id for something that is about to be recorded in a study. */
export const newRecordId = (studyId: string): string => idBehind(lastIds(studyId), timeBehindSteps(studyId));

/** An instant for a step at the bench: behind all that is recorded, so that undo finds it last. */
export const newInstant = (studyId: string): string => new Date(idTime(newRecordId(studyId))).toISOString();

/** What the bench and the screen stage record: held in this browser until the server has it. */
export function recordParts(studyId: string, parts: readonly NewBenchPart[]): Promise<void> {
  const now = new Date().toISOString();
  const stamp = { studyId, version: 1, createdAt: now, updatedAt: now };
  const known = lastIds(studyId);
  const time = timeBehindSteps(studyId);
  const behind = (id?: string): string => {
    const made = id ?? idBehind(known, time);
    known.push(made);
    return made;
  };
  const noDecision = { readingId: null, sessionId: null, run: null, reason: '', decidedAt: now };
  return outbox.add(
    parts.map((made) => {
      const base = made.kind === 'decisions' ? noDecision : {};
      return {
        kind: made.kind,
        part: { ...base, ...made.fields, id: behind(made.fields.id), ...stamp } as Outgoing['part'],
        ...('photo' in made ? { photo: made.photo } : {}),
      };
    }),
  );
}

/** Changes a part that the bench has recorded, such as the end of a session, whether the server is there or not. */
export const changeRecorded = <K extends OutgoingKind>(
  kind: K,
  part: StudyDocument[K][number],
  changes: Partial<StudyDocument[K][number]>,
): Promise<void> => {
  const before = Object.fromEntries(Object.entries(part).filter(([name]) => name in changes));
  return outbox.add([{ kind, part: { ...part, ...changes }, before }]);
};
