import { parentPort, workerData } from 'node:worker_threads';
import { FileProblem } from '../core/formats/file-problem.ts';
import { measurePeaks } from '../core/formats/recording.ts';
import { withFile } from './open-recording.ts';
import type { PeaksAsked } from './measure-channels.ts';

/** Looks for the peaks of a file in a thread of its own. */
const { file, window } = workerData as PeaksAsked;
try {
  const found = await withFile(file, (read, size) => measurePeaks({ read, size, window }));
  parentPort?.postMessage({ found });
} catch (error) {
  if (!(error instanceof FileProblem)) throw error;
  parentPort?.postMessage({ problem: error.message });
}
