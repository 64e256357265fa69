import { useEffect, useRef, useState } from 'react';
import type { TimeWindow } from '../../../../core/trace/series.ts';
import { soundReader } from '../../../app/api/recordings.ts';
import type { SoundColumns } from '../../../workers/recording.worker.ts';

/**
 * What is seen of a recording, and its picture: the last one until the next is there, so that it moves without a break.
 * @param share of the recording that was read
 */
export function useView(
  file: string | undefined,
  channel: number,
  lengthS: number,
  count: number,
  share: number,
) {
  const [wanted, setWanted] = useState<{ file: string | undefined; view: TimeWindow }>();
  const view = wanted?.file === file && wanted ? wanted.view : { from: 0, to: lengthS };
  const [drawn, setDrawn] = useState<{ file: string; columns: SoundColumns }>();
  const next = useRef(0);
  const { from, to } = view;
  useEffect(() => {
    if (file === undefined || lengthS === 0) return;
    next.current += 1;
    const ticket = next.current;
    soundReader()
      .columns(file, channel, { from, to }, count)
      .then(
        (columns) => {
          if (ticket === next.current) setDrawn({ file, columns });
        },
        // What is wrong with the file is said where its head is read.
        () => undefined,
      );
  }, [file, channel, from, to, count, share, lengthS]);
  return {
    view,
    setView: (change: TimeWindow) => {
      setWanted({ file, view: change });
    },
    columns: drawn && drawn.file === file && drawn.columns.channel === channel ? drawn.columns : undefined,
  };
}
