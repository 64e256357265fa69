import { useState } from 'react';
import { problemText } from '../../../app/api/client.ts';

/** What is begun at an instrument from here, and ended. */
interface StartStop {
  /** Ends what is running; none where nothing is. */
  stop: (() => Promise<void>) | undefined;
  /** Begins it; none where no instrument is there for it. */
  start: (() => Promise<unknown>) | undefined;
  /** Looks at what is running now. */
  look: () => Promise<unknown>;
}

/** One key that begins and ends: what it did wrong is said, and it is not pressed twice. */
export function useStartStop({ stop, start, look }: StartStop): {
  toggle: () => void;
  busy: boolean;
  problem: string | undefined;
} {
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const turn = async () => {
    setBusy(true);
    setProblem(undefined);
    try {
      if (stop) await stop();
      else if (start) {
        await start();
        await look();
      }
    } catch (error) {
      setProblem(problemText(error));
      await look();
    }
    setBusy(false);
  };
  return {
    toggle: () => {
      if (!busy) void turn();
    },
    busy,
    problem,
  };
}
