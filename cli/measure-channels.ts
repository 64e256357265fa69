import { existsSync } from 'node:fs';
import { Worker } from 'node:worker_threads';
import { FileProblem } from '../core/formats/file-problem.ts';
import {
  type Recording,
  type RecordingWindow,
  framesOf,
  measureLevels,
  measureRecording,
  weightingRemarks,
} from '../core/formats/recording.ts';
import { wavHead } from '../core/formats/wav.ts';
import type { SoundFilters } from '../core/sound/filters.ts';
import type { Peaks } from '../core/sound/peaks.ts';
import { withFile } from './open-recording.ts';

/** What a thread is asked to look for peaks in. */
export interface PeaksAsked {
  file: string;
  window: RecordingWindow;
}

/** Frames from which a thread is worth starting. */
const MANY = 2e6;

const peaksInThread = (thread: URL, asked: PeaksAsked): Promise<Recording<Peaks>> =>
  new Promise((resolve, reject) => {
    const worker = new Worker(thread, { workerData: asked });
    worker.once('message', (answer: { found: Recording<Peaks> } | { problem: string }) => {
      if ('found' in answer) resolve(answer.found);
      else reject(new FileProblem(answer.problem));
    });
    worker.once('error', reject);
  });

/** Levels here, and peaks in a thread beside. */
async function measureBeside(thread: URL, asked: PeaksAsked, filters: SoundFilters): Promise<Recording> {
  const peaks = peaksInThread(thread, asked);
  // What goes wrong with them is said when they are waited for.
  peaks.catch(() => undefined);
  const levels = await withFile(asked.file, (read, size) =>
    measureLevels({ read, size, window: asked.window }, filters),
  );
  const found = (await peaks).channels;
  return {
    ...levels,
    channels: levels.channels.map((channel, i) => ({ ...channel, ...(found[i] as Peaks) })),
  };
}

/**
 * Levels of all channels of a recording; of a long one the peaks are looked for in a thread.
 * @param thread what looks for them, where it is built
 * @throws FileProblem for what is no WAV file, for a window outside it, and for a band that it cannot hold
 */
export async function measureChannels(
  file: string,
  filters: SoundFilters,
  window: RecordingWindow,
  thread?: URL,
): Promise<Recording> {
  const head = await withFile(file, wavHead);
  const { first, last } = framesOf(head, window);
  const found =
    thread && last - first >= MANY && existsSync(thread)
      ? await measureBeside(thread, { file, window }, filters)
      : await withFile(file, (read, size) => measureRecording({ read, size, window }, filters));
  return { ...found, remarks: [...found.remarks, ...weightingRemarks(head, filters)] };
}
