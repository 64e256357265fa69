import { useEffect, useRef, useState } from 'react';
import type { Scoring, Study } from '../../../../core/model/study.ts';
import { patchStudy } from '../../../app/api/studies.ts';

export interface ScoringInHand {
  /** As the page shows it: the study's own, or what a hand is just setting. */
  scoring: Scoring;
  /** Whether it is the study's own. */
  settled: boolean;
  /** Shows a scoring without saving it: the hand has not let go. */
  show: (scoring: Scoring) => void;
  /** Saves a scoring, behind whatever is being saved already; of several that wait, the last. */
  save: (scoring: Scoring) => Promise<void>;
}

/** How a study scores, while it is being changed. */
export function useScoring(study: Study): ScoringInHand {
  const [tried, setTried] = useState<Scoring>();
  const latest = useRef(study);
  const wanted = useRef<Scoring>(undefined);
  const inHand = useRef(false);
  const saving = useRef<Promise<void>>(undefined);
  useEffect(() => {
    latest.current = study;
  }, [study]);

  const saveAll = async () => {
    try {
      while (wanted.current) {
        const next = wanted.current;
        wanted.current = undefined;
        latest.current = await patchStudy(latest.current, { scoring: next });
      }
    } finally {
      wanted.current = undefined;
      saving.current = undefined;
      if (!inHand.current) setTried(undefined);
    }
  };
  return {
    scoring: tried ?? study.scoring,
    settled: tried === undefined,
    show: (scoring) => {
      inHand.current = true;
      setTried(scoring);
    },
    save: (scoring) => {
      inHand.current = false;
      wanted.current = scoring;
      setTried(scoring);
      saving.current ??= saveAll();
      return saving.current;
    },
  };
}
