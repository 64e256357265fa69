import type { Decision, Reading, RunRef } from '../model/parts.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { runKey } from './queue.ts';

/** What taking back the last step means: the decision to record, and what a sentence calls it. */
export interface UndoStep {
  action: Decision['action'];
  readingId: string | null;
  run: RunRef | null;
  /** The reading that the step was about, if any. */
  reading: Reading | undefined;
  what: 'reading' | 'misfire' | 'skip' | 'decision';
}

interface Step extends UndoStep {
  key: string;
}

/**
 * The steps at the bench that can still be undone, oldest first, told from the record itself: each undo is a
 * decision too, so that nothing vanishes and an undo works after a restart.
 */
export function undoSteps(document: Pick<StudyDocument, 'readings' | 'decisions'>): UndoStep[] {
  const readings = new Map(document.readings.map((reading) => [reading.id, reading]));
  const steps: Step[] = [];
  const drop = (key: string) => {
    const at = steps.findLastIndex((step) => step.key === key);
    if (at !== -1) steps.splice(at, 1);
  };
  // Ids carry their time, so that readings and decisions fall into the order in which they were made.
  const events = [...document.readings, ...document.decisions].sort((a, b) => (a.id < b.id ? -1 : 1));
  for (const event of events) {
    if (!('action' in event)) {
      steps.push({
        key: `reading ${event.id}`,
        action: 'withdraw',
        readingId: event.id,
        run: null,
        reading: event,
        what: 'reading',
      });
      continue;
    }
    const { action, readingId, run } = event;
    const reading = readingId === null ? undefined : readings.get(readingId);
    if (action === 'skip' && run) {
      steps.push({
        key: `skip ${runKey(run)}`,
        action: 'unskip',
        readingId: null,
        run,
        reading: undefined,
        what: 'skip',
      });
    } else if (action === 'unskip' && run) drop(`skip ${runKey(run)}`);
    else if (readingId !== null && action === 'withdraw') drop(`reading ${readingId}`);
    else if (readingId !== null && (action === 'misfire' || action === 'leave-out')) {
      const last = steps[steps.length - 1];
      // A misfire that was recorded as one is one step: its reading.
      if (action === 'misfire' && last?.key === `reading ${readingId}`) last.what = 'misfire';
      else {
        steps.push({
          key: `out ${readingId}`,
          action: 'take-back',
          readingId,
          run: null,
          reading,
          what: action === 'misfire' ? 'misfire' : 'decision',
        });
      }
    } else if (readingId !== null && action === 'take-back') drop(`out ${readingId}`);
  }
  return steps.map(({ key: _key, ...step }) => step);
}
