import { useQueries, useQuery } from '@tanstack/react-query';
import { type Remote, proxy } from 'comlink';
import { useEffect, useState } from 'react';
import type { SoundWindow } from '../../../core/formats/recording-value.ts';
import type { FilePart, FormSettings } from '../../../core/model/parts.ts';
import type { SoundFilters } from '../../../core/sound/filters.ts';
import type { TimeWindow } from '../../../core/trace/series.ts';
import type { RecordingWorker } from '../../workers/recording.worker.ts';
import type { RunningRecording } from '../../../core/model/instrument.ts';
import { request } from './client.ts';
import { documentKey, queryClient } from './studies.ts';
import { keepFile } from './traces.ts';
import { called } from './worker.ts';

let worker: Remote<RecordingWorker> | undefined;
export function soundReader(): Remote<RecordingWorker> {
  worker ??= called<RecordingWorker>(
    new Worker(new URL('../../workers/recording.worker.ts', import.meta.url), { type: 'module' }),
  );
  return worker;
}

/** Neither a file nor what is worked out from it ever changes. */
const FOR_GOOD = { staleTime: Infinity, retry: false } as const;

/** What the recordings of a study say about themselves. */
export const useSoundHeads = (files: readonly Pick<FilePart, 'file'>[]) =>
  useQueries({
    queries: files.map(({ file }) => ({
      queryKey: ['sound', file],
      queryFn: () => soundReader().head(file),
      ...FOR_GOOD,
    })),
  });

/**
 * Has all of a recording read for its picture.
 * @returns what share of it was read, from 0 to 1
 */
export function useOverview(file: string | undefined): number {
  const [read, setRead] = useState<{ file: string; share: number }>();
  useEffect(() => {
    if (file === undefined) return undefined;
    let gone = false;
    const say = (share: number) => {
      if (!gone) setRead({ file, share });
    };
    soundReader()
      .overview(file, proxy(say))
      .then(
        () => {
          say(1);
        },
        // What is wrong with the file is said where its head is read.
        () => undefined,
      );
    return () => {
      gone = true;
    };
  }, [file]);
  return read && read.file === file ? read.share : 0;
}

/** The level of each hundredth of a second of a channel. */
export function useTrack(file: string | undefined, channel: number, filters: SoundFilters) {
  const [share, setShare] = useState(0);
  const { data: track, error } = useQuery({
    queryKey: ['sound-track', file, channel, filters],
    queryFn: () => soundReader().track(file ?? '', channel, filters, proxy(setShare)),
    enabled: file !== undefined,
    ...FOR_GOOD,
  });
  return { track, share, error };
}

/** The levels of windows, worked out beside the page. */
export const useSoundValues = (
  file: string | undefined,
  windows: readonly SoundWindow[],
  settings: FormSettings,
) =>
  useQueries({
    queries: windows.map((window) => ({
      queryKey: ['sound-value', file, window, settings],
      queryFn: () => soundReader().value(file ?? '', window, settings),
      enabled: file !== undefined,
      ...FOR_GOOD,
    })),
  });

/** What a calibrator’s tone makes of full scale. */
export const toneOf = (file: string, channel: number, window: TimeWindow, level: number) =>
  soundReader().tone(file, channel, window, level);

/**
 * Keeps a recording with a study where it is one.
 * @param onTried called once it is known to be one: by the ticket it can be seen while it is being kept
 * @throws what was wrong with it, in a sentence
 */
export const addRecording = (
  studyId: string,
  file: File,
  files: readonly FilePart[],
  onTried: (ticket: string) => void,
) => keepFile(studyId, file, files, soundReader(), { type: 'audio/wav', onTried });

/** Between two looks at what is being recorded, and at whether anything is, ms. */
const [RUNNING_MS, QUIET_MS] = [500, 3000];

const runningKey = (studyId: string) => ['running-recordings', studyId];

/** What is being recorded for a study. */
export const useRunningRecordings = (studyId: string) =>
  useQuery({
    queryKey: runningKey(studyId),
    queryFn: () => request<RunningRecording[]>('GET', `/studies/${studyId}/recordings`),
    refetchInterval: ({ state }) => (state.data && state.data.length > 0 ? RUNNING_MS : QUIET_MS),
  });

export const startRecording = (studyId: string, instrumentId: string) =>
  request<RunningRecording>('POST', `/studies/${studyId}/recordings`, { instrumentId });

/** Ends a recording; its file is then one of the study's. */
export async function stopRecording({ studyId, id }: RunningRecording): Promise<void> {
  await request<FilePart>('POST', `/studies/${studyId}/recordings/${id}/stop`);
  await Promise.all([
    queryClient.invalidateQueries({ queryKey: documentKey(studyId) }),
    queryClient.invalidateQueries({ queryKey: runningKey(studyId) }),
  ]);
}
