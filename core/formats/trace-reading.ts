import { takenOff, traceQuestion, traceUnit } from '../forms/trace.ts';
import type { FormSettings } from '../model/parts.ts';
import type { TraceValue } from '../trace/quantities.ts';
import { type Series, type TimeWindow, less, seriesOf } from '../trace/series.ts';
import { watchWindow } from '../trace/watch.ts';
import { traceValue } from '../trace/values.ts';
import type { Trace } from './trace-csv.ts';

/** A name of a column as a reading holds it, which may be cut. */
const LONGEST_NAME = 60;
const named = (trace: Trace, head: string) =>
  trace.columns.find((column) => column.head.slice(0, LONGEST_NAME) === head.slice(0, LONGEST_NAME));

/** What of a trace a value is worked out from: a column, and the one that is taken off it where one is. */
export interface TrackOf {
  column: string;
  less: string | undefined;
}

/**
 * A column of a trace, with what the settings take off it taken off.
 * @returns the series, or a sentence why there is none
 */
export function trackSeries(
  trace: Trace,
  { column, less: other }: TrackOf,
  settings: FormSettings,
): Series | { problem: string } {
  const found = named(trace, column);
  if (!found) return { problem: `The file has no column “${column}”.` };
  const series = seriesOf(trace.times, found.values);
  const off = takenOff(settings);
  if (off.kind === 'fixed')
    return { times: series.times, values: series.values.map((value) => value - off.value) };
  if (off.kind === 'none') return series;
  const reference = other === undefined ? undefined : named(trace, other);
  if (!reference) return { problem: 'Say which column is taken off.' };
  if (reference === found) return { problem: 'A column cannot be taken off itself.' };
  return less(series, seriesOf(trace.times, reference.values));
}

export type WorkedOut = TraceValue | { problem: string };

/**
 * The value of a window of a column, in seconds and units of the column, with all that is odd about it as sentences.
 */
export function workOut(
  trace: Trace,
  track: TrackOf,
  window: TimeWindow,
  settings: FormSettings,
  alpha?: number,
): WorkedOut {
  const series = trackSeries(trace, track, settings);
  if ('problem' in series) return series;
  const unit = traceUnit(settings);
  const found = traceValue(series, window, traceQuestion(settings), unit, alpha);
  if ('problem' in found) return found;
  const written = named(trace, track.column)?.unit ?? '';
  return {
    ...found,
    remarks: [
      ...(written !== '' && unit !== '' && written !== unit
        ? [`The file says ${written}, the plan ${unit}.`]
        : []),
      ...watchWindow(series, window, trace.stepS, found, unit),
      ...found.remarks,
    ],
  };
}
