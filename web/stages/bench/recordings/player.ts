import { useEffect, useEffectEvent, useRef, useState } from 'react';
import type { TimeWindow } from '../../../../core/trace/series.ts';
import { soundReader } from '../../../app/api/recordings.ts';

/** Seconds that are fetched and scheduled at a time, and how long before they are due. */
const [PIECE_S, AHEAD_S] = [8, 3];

interface Playing {
  context: AudioContext;
  /** The moment of the context at which the window began to sound. */
  startedAt: number;
  window: TimeWindow;
}

/** Schedules a window piece by piece, so that an hour is never in memory. */
async function schedule(
  file: string,
  sampleRate: number,
  { context, startedAt, window }: Playing,
): Promise<void> {
  for (let from = window.from; from < window.to; from += PIECE_S) {
    const due = startedAt + from - window.from;
    while (due - context.currentTime > AHEAD_S && context.state !== 'closed')
      await new Promise((resolve) => setTimeout(resolve, 200));
    if (context.state === 'closed') return;
    const channels = await soundReader().samples(file, { from, to: Math.min(window.to, from + PIECE_S) });
    const [first] = channels;
    if (!first || first.length === 0 || (context.state as string) === 'closed') return;
    const buffer = context.createBuffer(channels.length, first.length, sampleRate);
    channels.forEach((samples, i) => {
      buffer.copyToChannel(samples, i);
    });
    const source = context.createBufferSource();
    source.buffer = buffer;
    source.connect(context.destination);
    source.start(due);
  }
}

/** Plays windows of a recording. */
export function usePlayer(file: string | undefined, sampleRate: number) {
  const playing = useRef<Playing>(undefined);
  const [moment, setMoment] = useState<number>();
  const stop = () => {
    void playing.current?.context.close();
    playing.current = undefined;
    setMoment(undefined);
  };
  const onFrame = useEffectEvent(() => {
    const { current } = playing;
    if (!current) return;
    const { context, startedAt, window } = current;
    const now = window.from + Math.max(0, context.currentTime - startedAt);
    if (now >= window.to) stop();
    else setMoment(now);
  });
  const runs = moment !== undefined;
  useEffect(() => {
    if (!runs) return undefined;
    let frame = requestAnimationFrame(function next() {
      onFrame();
      frame = requestAnimationFrame(next);
    });
    return () => {
      cancelAnimationFrame(frame);
    };
  }, [runs]);
  // Leaving the page, or looking at another file, ends it.
  useEffect(
    () => () => {
      void playing.current?.context.close();
      playing.current = undefined;
    },
    [file],
  );
  const play = (window: TimeWindow) => {
    stop();
    if (file === undefined) return;
    const context = new AudioContext();
    const begun: Playing = { context, startedAt: context.currentTime + 0.15, window };
    playing.current = begun;
    setMoment(window.from);
    schedule(file, sampleRate, begun).catch(() => {
      if (playing.current === begun) stop();
    });
  };
  return { moment, play, stop };
}
