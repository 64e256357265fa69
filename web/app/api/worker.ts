import { type Remote, wrap } from 'comlink';
import { lookForNewer } from '../newer-program.ts';

/** A worker to be called. One whose file is missing was perhaps left behind by a newer program. */
export function called<T>(worker: Worker): Remote<T> {
  worker.addEventListener('error', () => void lookForNewer());
  return wrap<T>(worker);
}
