import { useEffect, useRef } from 'react';
import type { InstrumentReading, InstrumentState } from '../../../core/model/instrument.ts';
import { problemText } from '../../app/api/client.ts';
import { readInstrument } from '../../app/api/live.ts';
import { RECORDED_ALREADY } from './run-at-bench.tsx';
import type { Bench } from './use-bench.ts';

/** What an instrument sent, as it would be typed. */
export const inWords = ({ text, unit }: InstrumentReading): string => `${text} ${unit}`.trim();

/**
 * Takes what an instrument shows for the run that is at hand when it is asked. It answers in a while: by then that run
 * may be over, and what it shows is of another item. Asked once more meanwhile, it is not.
 */
export function useTakeFrom(
  bench: Pick<Bench, 'run' | 'takeText' | 'trouble'>,
): (instrument: Pick<InstrumentState, 'id'>) => void {
  const latest = useRef(bench);
  useEffect(() => {
    latest.current = bench;
  });
  const waits = useRef(false);
  return ({ id }) => {
    const { run, trouble } = bench;
    if (waits.current) return;
    if (run?.state === 'done') {
      trouble(RECORDED_ALREADY);
      return;
    }
    waits.current = true;
    readInstrument(id)
      .then((shown) => {
        const now = latest.current;
        if (now.run?.key === run?.key && now.run?.state !== 'done') now.takeText(inWords(shown));
        else now.trouble(`Not taken: ${inWords(shown)}. It came when the run that it was for was over.`);
      })
      .catch((error: unknown) => {
        latest.current.trouble(problemText(error));
      })
      .finally(() => {
        waits.current = false;
      });
  };
}
