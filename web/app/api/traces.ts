import { useQueries, useQuery } from '@tanstack/react-query';
import type { Remote } from 'comlink';
import { v7 } from 'uuid';
import type { TrackOf } from '../../../core/formats/trace-reading.ts';
import type { RunningLog } from '../../../core/model/instrument.ts';
import type { FilePart, FormSettings } from '../../../core/model/parts.ts';
import { NAME_LIMIT } from '../../../core/model/limits.ts';
import type { TimeWindow } from '../../../core/trace/series.ts';
import type { TraceWorker } from '../../workers/trace.worker.ts';
import { request } from './client.ts';
import { createPart, documentKey, queryClient } from './studies.ts';
import { called } from './worker.ts';

let worker: Remote<TraceWorker> | undefined;
function reader(): Remote<TraceWorker> {
  worker ??= called<TraceWorker>(
    new Worker(new URL('../../workers/trace.worker.ts', import.meta.url), { type: 'module' }),
  );
  return worker;
}

/** Neither a file nor what is worked out from it ever changes. */
const FOR_GOOD = { staleTime: Infinity, retry: false } as const;

/** What the files of a study hold, each read beside the page. */
export const useTraces = (files: readonly FilePart[]) =>
  useQueries({
    queries: files.map(({ file }) => ({
      queryKey: ['trace', file],
      queryFn: () => reader().summary(file),
      ...FOR_GOOD,
    })),
  });

/** One window of a track. */
export interface TrackWindow {
  file: string;
  track: TrackOf;
  window: TimeWindow;
}

/** The values of windows, worked out beside the page. */
export const useTrackValues = (windows: readonly TrackWindow[], settings: FormSettings) =>
  useQueries({
    queries: windows.map(({ file, track, window }) => ({
      queryKey: ['track-value', file, track, window, settings],
      queryFn: () => reader().value(file, track, settings, window),
      ...FOR_GOOD,
    })),
  });

/** The lines of tracks within a window, as fine as a picture of so many columns shows them. */
export const useTrackLines = (windows: readonly TrackWindow[], settings: FormSettings, columns: number) =>
  useQueries({
    queries: windows.map(({ file, track, window }) => ({
      queryKey: ['track-line', file, track, window, settings, columns],
      queryFn: () => reader().picture(file, track, settings, window, columns),
      ...FOR_GOOD,
    })),
  });

export const trackValue = ({ file, track, window }: TrackWindow, settings: FormSettings) =>
  reader().value(file, track, settings, window);

/** What reads files of a kind beside the page. */
interface FileReader {
  /** Reads a file that is not kept yet, under a ticket. @throws what is wrong with it */
  tryOut: (ticket: string, blob: Blob) => Promise<void>;
  /** What was tried out is kept under this name now, or not at all. */
  keptAs: (ticket: string, file: string | undefined) => Promise<void>;
}

/**
 * Reads a file, and keeps it with a study where nothing is wrong with it.
 * @param files that the study has already
 * @param type of the file
 * @param onTried called once nothing was found wrong with it: by the ticket it can be read from then on
 * @throws what was wrong with it, in a sentence
 */
export async function keepFile(
  studyId: string,
  file: File,
  files: readonly FilePart[],
  by: FileReader,
  { type, onTried }: { type: string; onTried?: (ticket: string) => void },
): Promise<FilePart> {
  const ticket = v7();
  await by.tryOut(ticket, file);
  onTried?.(ticket);
  let name: string | undefined;
  try {
    const kept = await request<{ name: string; bytes: number }>('POST', '/files', file, type);
    ({ name } = kept);
    const same = files.find((known) => known.file === name);
    if (same) throw new Error(`It is in the study already, as ${same.name}.`);
    return await createPart(studyId, 'files', {
      name: file.name.slice(0, NAME_LIMIT),
      file: kept.name,
      bytes: kept.bytes,
      note: '',
      addedAt: new Date().toISOString(),
    });
  } finally {
    await by.keptAs(ticket, name);
  }
}

/** Keeps a logger’s file with a study where it is a trace. @throws what was wrong with it, in a sentence */
export const addTrace = (studyId: string, file: File, files: readonly FilePart[]) =>
  keepFile(studyId, file, files, reader(), { type: 'text/csv' });

/** Between two looks at what is being logged, ms. */
const LOG_MS = 1000;
const logsKey = (studyId: string) => ['logs', studyId];

/** What of the instruments is being logged for a study. */
export const useLogs = (studyId: string) =>
  useQuery({
    queryKey: logsKey(studyId),
    queryFn: () => request<RunningLog[]>('GET', `/studies/${studyId}/logs`),
    refetchInterval: LOG_MS,
  });

export const startLog = (studyId: string, instrumentId: string, column: string, periodS: number) =>
  request<RunningLog>('POST', `/studies/${studyId}/logs`, { instrumentId, column, periodS });

/** Ends a log; its file is then one of the study's. */
export async function stopLog({ studyId, id }: RunningLog): Promise<void> {
  await request<FilePart>('POST', `/studies/${studyId}/logs/${id}/stop`);
  await queryClient.invalidateQueries({ queryKey: documentKey(studyId) });
}
