import { expose } from 'comlink';
import { type Trace, traceOf } from '../../core/formats/trace-csv.ts';
import { type TrackOf, trackSeries, workOut } from '../../core/formats/trace-reading.ts';
import type { FormSettings } from '../../core/model/parts.ts';
import type { TraceValue } from '../../core/trace/quantities.ts';
import type { TimeWindow } from '../../core/trace/series.ts';
import { type Point, thinned } from '../../core/trace/thin.ts';

/** What is said of a trace that was read. */
export interface TraceSummary {
  rows: number;
  lengthS: number;
  stepS: number;
  startedAt: string | undefined;
  /** Each with the times of its first and its last value, s. */
  columns: { head: string; name: string; unit: string; fromS: number; toS: number }[];
  remarks: string[];
}

/** A value that was worked out, with its curve as points of time from the start of the file. */
export type TrackValue = (Omit<TraceValue, 'curve'> & { curvePoints: Point[] }) | { problem: string };

/** Traces that were read, by the names of their files; a page looks at a few at a time. */
const traces = new Map<string, Promise<Trace>>();
const MOST_TRACES = 12;
/** Points of a fitted curve. */
const CURVE_POINTS = 120;

async function fetched(address: string): Promise<Trace> {
  const answer = await fetch(address);
  if (answer.status === 404) throw new Error('The file is not on this server: only its readings are.');
  if (!answer.ok) throw new Error('The file cannot be fetched just now.');
  return traceOf(new Uint8Array(await answer.arrayBuffer()));
}

function hold(file: string, read: Promise<Trace>): Promise<Trace> {
  traces.set(file, read);
  read.catch(() => traces.delete(file));
  const [oldest] = traces.keys();
  if (traces.size > MOST_TRACES && oldest !== undefined) traces.delete(oldest);
  return read;
}

function trace(file: string): Promise<Trace> {
  const held = traces.get(file) ?? fetched(`/api/v1/files/${file}`);
  // What was asked for last goes last.
  traces.delete(file);
  return hold(file, held);
}

/** What was read of files that are not kept yet. */
const tried = new Map<string, Trace>();

const summary = ({ times, stepS, startedAt, columns, remarks }: Trace): TraceSummary => ({
  rows: times.length,
  lengthS: times.at(-1) ?? 0,
  stepS,
  startedAt,
  columns: columns.map(({ head, name, unit, values }) => {
    const there = (value: number) => !Number.isNaN(value);
    return {
      ...{ head, name, unit },
      fromS: times[Math.max(0, values.findIndex(there))] ?? 0,
      toS: times[values.findLastIndex(there)] ?? 0,
    };
  }),
  remarks,
});

const worker = {
  summary: async (file: string) => summary(await trace(file)),
  /** Reads a file that is not kept yet, under a ticket. @throws what is wrong with it */
  tryOut: async (ticket: string, blob: Blob): Promise<void> => {
    tried.set(ticket, traceOf(new Uint8Array(await blob.arrayBuffer())));
  },
  /** What was tried out is kept under this name now, or not at all. */
  keptAs: (ticket: string, file: string | undefined): void => {
    const read = tried.get(ticket);
    tried.delete(ticket);
    if (read && file !== undefined) void hold(file, Promise.resolve(read));
  },
  picture: async (
    file: string,
    track: TrackOf,
    settings: FormSettings,
    window: TimeWindow,
    columns: number,
  ): Promise<Point[]> => {
    const series = trackSeries(await trace(file), track, settings);
    return 'problem' in series ? [] : thinned(series, window, columns);
  },
  value: async (
    file: string,
    track: TrackOf,
    settings: FormSettings,
    window: TimeWindow,
  ): Promise<TrackValue> => {
    const found = workOut(await trace(file), track, window, settings);
    if ('problem' in found) return found;
    const { curve, ...rest } = found;
    const span = window.to - window.from;
    return {
      ...rest,
      curvePoints: curve
        ? Array.from({ length: CURVE_POINTS + 1 }, (_, i) => {
            const t = (span * i) / CURVE_POINTS;
            return { x: window.from + t, y: curve(t) };
          })
        : [],
    };
  },
};
export type TraceWorker = typeof worker;

expose(worker);
