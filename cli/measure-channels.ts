import { existsSync } from 'node:fs';
import { Worker } from 'node:worker_threads';
import { FileProblem } from '../core/formats/file-problem.ts';
import {
  type Recording,
  type RecordingWindow,
  framesOf,
  measureRecording,
} from '../core/formats/recording.ts';
import { wavHead } from '../core/formats/wav.ts';
import type { SoundFilters } from '../core/sound/filters.ts';
import { withFile } from './open-recording.ts';

/** What a thread is asked to measure. */
export interface ChannelAsked {
  file: string;
  filters: SoundFilters;
  window: RecordingWindow;
  /** From 0. */
  channel: number;
}

/** Frames from which a thread for each channel is worth starting. */
const MANY = 2e6;
const THREAD = new URL('channel.js', import.meta.url);

const inThread = (asked: ChannelAsked): Promise<Recording> =>
  new Promise((resolve, reject) => {
    const worker = new Worker(THREAD, { workerData: asked });
    worker.once('message', (answer: { found: Recording } | { problem: string }) => {
      if ('found' in answer) resolve(answer.found);
      else reject(new FileProblem(answer.problem));
    });
    worker.once('error', reject);
  });

/** The same sentences of several channels once. */
const unique = (sentences: readonly string[]): string[] => [...new Set(sentences)];

/**
 * Levels of all channels of a recording; of a long one in a thread for each.
 * @throws FileProblem for what is no WAV file, for a window outside it, and for a band that it cannot hold
 */
export async function measureChannels(
  file: string,
  filters: SoundFilters,
  window: RecordingWindow,
): Promise<Recording> {
  const head = await withFile(file, wavHead);
  const { first, last } = framesOf(head, window);
  // From the sources there is no built thread.
  if (head.channels === 1 || last - first < MANY || !existsSync(THREAD))
    return withFile(file, (read, size) => measureRecording(read, size, filters, window));
  const found = await Promise.all(
    Array.from({ length: head.channels }, (_, channel) => inThread({ file, filters, window, channel })),
  );
  return {
    head,
    window: (found[0] as Recording).window,
    channels: found.flatMap(({ channels }) => channels),
    remarks: unique(found.flatMap(({ remarks }) => remarks)),
  };
}
