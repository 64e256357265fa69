import { columnText, takenOff, traceQuestion, traceUnit } from '../forms/trace.ts';
import { spanText } from '../quantity/clock.ts';
import { convert } from '../quantity/units.ts';
import type { FormSettings } from '../model/parts.ts';
import type { TraceValue } from '../trace/quantities.ts';
import { type Series, type TimeWindow, less, seriesOf } from '../trace/series.ts';
import { watchWindow } from '../trace/watch.ts';
import { traceValue } from '../trace/values.ts';
import type { Trace, TraceColumn } from './trace-csv.ts';

/** A column by its head, which a reading may hold cut. */
const named = (trace: Trace, head: string) =>
  trace.columns.find((column) => columnText(column.head) === columnText(head));

/** What of a trace a value is worked out from: a column, and the one that is taken off it where one is. */
export interface TrackOf {
  column: string;
  less: string | undefined;
}

/** The values of a column in the unit of the plan, where the file says another one that can be turned into it. */
function inUnit({ unit, values }: Pick<TraceColumn, 'unit' | 'values'>, wanted: string): Float64Array {
  const [zero, step] = [convert(0, unit, wanted), convert(1, unit, wanted)];
  if (unit === '' || wanted === '' || unit === wanted || zero === undefined || step === undefined)
    return values;
  return values.map((value) => zero + (step - zero) * value);
}

/** What is to be said where file and plan are in other units. */
function unitWords(unit: string, wanted: string): string[] {
  if (unit === '' || wanted === '' || unit === wanted) return [];
  return [
    convert(1, unit, wanted) === undefined
      ? `The file says ${unit}, the plan ${wanted}.`
      : `The file says ${unit}: turned into ${wanted}.`,
  ];
}

/**
 * A column of a trace, with what the settings take off it taken off, in the unit of the plan.
 * @returns the series, or a sentence why there is none
 */
export function trackSeries(
  trace: Trace,
  { column, less: other }: TrackOf,
  settings: FormSettings,
): Series | { problem: string } {
  const found = named(trace, column);
  if (!found) return { problem: `The file has no column “${column}”.` };
  const unit = traceUnit(settings);
  const series = seriesOf(trace.times, inUnit(found, unit));
  const off = takenOff(settings);
  if (off.kind === 'fixed')
    return { times: series.times, values: series.values.map((value) => value - off.value) };
  if (off.kind === 'none') return series;
  const reference = other === undefined ? undefined : named(trace, other);
  if (!reference) return { problem: 'Say which column is taken off.' };
  if (reference === found) return { problem: 'A column cannot be taken off itself.' };
  return less(series, seriesOf(trace.times, inUnit(reference, unit)));
}

/** A value that is missing at an end of a window is made up for by the next one, where that is so few rows away. */
const ROWS_MADE_UP = 3;

/** A window as far as a column has values, where it lacks a row or two at an end of it; and what is to be said of that. */
function withinReach(
  { times }: Series,
  { from, to }: TimeWindow,
  stepS: number,
): { window: TimeWindow; said: string[] } {
  const [first, last] = [times[0] ?? from, times.at(-1) ?? to];
  const near = (gap: number) => gap > 0 && gap <= ROWS_MADE_UP * stepS;
  const [late, early] = [near(first - from), near(to - last)];
  return {
    window: { from: late ? first : from, to: early ? last : to },
    said: [
      ...(late ? [`Its first value is at ${spanText(first)}: the window begins there.`] : []),
      ...(early ? [`Its last value is at ${spanText(last)}: the window ends there.`] : []),
    ],
  };
}

export type WorkedOut = TraceValue | { problem: string };

/**
 * The value of a window of a column, in seconds and units of the column, with all that is odd about it as sentences.
 */
export function workOut(
  trace: Trace,
  track: TrackOf,
  asked: TimeWindow,
  settings: FormSettings,
  alpha?: number,
): WorkedOut {
  const series = trackSeries(trace, track, settings);
  if ('problem' in series) return series;
  const { window, said } = withinReach(series, asked, trace.stepS);
  const unit = traceUnit(settings);
  const found = traceValue(series, window, traceQuestion(settings), unit, alpha);
  if ('problem' in found) return found;
  const written = named(trace, track.column)?.unit ?? '';
  return {
    ...found,
    // Its own times count from the window that was asked for.
    ...(found.moment === undefined ? {} : { moment: found.moment + window.from - asked.from }),
    ...(found.curve
      ? { curve: (t: number) => found.curve?.(t + asked.from - window.from) ?? Number.NaN }
      : {}),
    remarks: [
      ...said,
      ...unitWords(written, unit),
      ...watchWindow(series, window, trace.stepS, found, unit),
      ...found.remarks,
    ],
  };
}
