import { useEffect, useMemo, useRef } from 'react';
import { ALPHA } from '../../core/model/alpha.ts';
import { type LookState, lookState } from '../../core/bench/look-state.ts';
import { type Run, runQueue } from '../../core/bench/queue.ts';
import type { StudyDocument } from '../../core/model/study-document.ts';
import { recordParts } from './api/studies.ts';

/**
 * Where a study stands on the way to its answer.
 * @param queue its run queue, where that is known already
 */
export const useLook = (document: StudyDocument, queue?: readonly Run[]): LookState =>
  useMemo(() => lookState(document, queue ?? runQueue(document), ALPHA), [document, queue]);

/** Readings between two looks; as many more make it another look. */
const SAME_LOOK = 1;

/**
 * Records that the ranking was looked at while readings are to come: it goes by what can be known, so what was seen is
 * part of the record. The same readings are looked at once.
 */
export function useRecordedLook(document: StudyDocument, { final, complete, of }: LookState): void {
  const { study, readings, decisions } = document;
  const last = decisions.findLast(({ action }) => action === 'look');
  const since = last ? readings.filter(({ id }) => id > last.id).length : readings.length;
  const recorded = useRef(-1);
  useEffect(() => {
    if (final || readings.length === 0 || since < SAME_LOOK || recorded.current === readings.length) return;
    recorded.current = readings.length;
    void recordParts(study.id, [
      {
        kind: 'decisions',
        fields: { action: 'look', reason: `${String(complete)} of ${String(of)} rounds complete` },
      },
    ]);
  }, [final, readings.length, since, study.id, complete, of]);
}
