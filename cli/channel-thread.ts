import { parentPort, workerData } from 'node:worker_threads';
import { FileProblem } from '../core/formats/file-problem.ts';
import { measureRecording } from '../core/formats/recording.ts';
import { withFile } from './open-recording.ts';
import type { ChannelAsked } from './measure-channels.ts';

/** Measures one channel of a file in a thread of its own. */
const { file, filters, window, channel } = workerData as ChannelAsked;
try {
  const found = await withFile(file, (read, size) => measureRecording(read, size, filters, window, channel));
  parentPort?.postMessage({ found });
} catch (error) {
  if (!(error instanceof FileProblem)) throw error;
  parentPort?.postMessage({ problem: error.message });
}
