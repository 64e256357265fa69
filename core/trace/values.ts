import { spanText } from '../quantity/clock.ts';
import { formatReading, withUnit } from '../quantity/format.ts';
import { fitDecay, multipleOf } from './decay.ts';
import type { TraceQuantity, TraceQuestion, TraceValue } from './quantities.ts';
import { type Series, type TimeWindow, cutTo, valueAt, within } from './series.ts';

type Found = TraceValue | { problem: string };

/** The steepest slope is that of a line through so many rows. */
const ROWS_OF_STEEPEST = 5;

interface Cut {
  /** Rows of the window, times from its start. */
  rows: Series;
  /** The same with both ends of the window. */
  whole: Series;
  question: TraceQuestion;
  unit: string;
  alpha: number;
}

/** Place of the largest, or of the smallest. */
function placeOf(values: Float64Array, sign: 1 | -1): number {
  let best = 0;
  for (let i = 1; i < values.length; i += 1)
    if (sign * (values[i] as number) > sign * (values[best] as number)) best = i;
  return best;
}

const extreme =
  (sign: 1 | -1) =>
  ({ rows: { times, values } }: Cut): Found => {
    const place = placeOf(values, sign);
    return { value: values[place] as number, moment: times[place] as number, remarks: [] };
  };

/** Area under the straight lines between the rows. */
function area({ times, values }: Series): number {
  let sum = 0;
  for (let i = 1; i < times.length; i += 1) {
    const width = (times[i] as number) - (times[i - 1] as number);
    sum += (width * ((values[i] as number) + (values[i - 1] as number))) / 2;
  }
  return sum;
}

/** When the line between two neighbours is at a level, as a share of the way. */
const crossing = (before: number, after: number, level: number): number =>
  (level - before) / (after - before);

/** When the level is first met; undefined where it never is. */
function firstMet({ times, values }: Series, level: number): number | undefined {
  if (values[0] === level) return times[0];
  for (let i = 1; i < times.length; i += 1) {
    const [before, after] = [values[i - 1] as number, values[i] as number];
    if ((before < level && after >= level) || (before > level && after <= level)) {
      const start = times[i - 1] as number;
      return start + crossing(before, after, level) * ((times[i] as number) - start);
    }
  }
  return undefined;
}

function timeTo({ whole, question: { threshold }, unit }: Cut): Found {
  const met = firstMet(whole, threshold);
  return met === undefined
    ? { problem: `It never is at ${withUnit(formatReading(threshold), unit)} in the window.` }
    : { value: met, moment: met, remarks: [] };
}

/** The part of a line between two neighbours that lies in the band, as shares of the way. */
function partInBand(before: number, after: number, low: number, high: number): [number, number] | undefined {
  if (before === after) return before >= low && before <= high ? [0, 1] : undefined;
  const shares = [crossing(before, after, low), crossing(before, after, high)].sort((a, b) => a - b);
  const part: [number, number] = [Math.max(0, shares[0] as number), Math.min(1, shares[1] as number)];
  return part[0] <= part[1] ? part : undefined;
}

function timeWithin({ whole: { times, values }, question: { low, high } }: Cut): Found {
  let sum = 0;
  for (let i = 1; i < times.length; i += 1) {
    const part = partInBand(values[i - 1] as number, values[i] as number, low, high);
    if (part) sum += (part[1] - part[0]) * ((times[i] as number) - (times[i - 1] as number));
  }
  return { value: sum, remarks: [] };
}

function recovery({ whole: { times, values }, question: { low, high }, unit }: Cut): Found {
  const inBand = (value: number) => value >= low && value <= high;
  const last = values.length - 1;
  if (!inBand(values[last] as number)) {
    return {
      problem: `It is not between ${formatReading(low)} and ${withUnit(formatReading(high), unit)} at the end of the window.`,
    };
  }
  let place = last;
  while (place > 0 && inBand(values[place - 1] as number)) place -= 1;
  if (place === 0) {
    return { value: 0, moment: 0, remarks: ['It never leaves the band in the window.'] };
  }
  const [before, after] = [values[place - 1] as number, values[place] as number];
  const start = times[place - 1] as number;
  const share = crossing(before, after, before < low ? low : high);
  const back = start + share * ((times[place] as number) - start);
  return { value: back, moment: back, remarks: [] };
}

/** Slope and height of the best line through rows. */
function line(
  times: Float64Array,
  values: Float64Array,
): { slope: number; middle: number; mean: number; spread: number } {
  const n = times.length;
  let [middle, mean] = [0, 0];
  for (let i = 0; i < n; i += 1) {
    middle += (times[i] as number) / n;
    mean += (values[i] as number) / n;
  }
  let [spread, product] = [0, 0];
  for (let i = 0; i < n; i += 1) {
    const away = (times[i] as number) - middle;
    spread += away * away;
    product += away * ((values[i] as number) - mean);
  }
  return { slope: product / spread, middle, mean, spread };
}

const HANGS_TOGETHER =
  'Its rows are too few, or too like their neighbours, for an interval of this one reading.';

function slopeOf({ rows: { times, values }, alpha }: Cut): Found {
  if (times.length < 3) return { problem: 'A slope needs three rows in the window at least.' };
  const { slope, middle, mean, spread } = line(times, values);
  const curve = (t: number) => mean + slope * (t - middle);
  const residuals = values.map((value, i) => value - curve(times[i] as number));
  const multiple = multipleOf(residuals, 2, alpha);
  const variance = residuals.reduce((sum, residual) => sum + residual * residual, 0) / (times.length - 2);
  const half = multiple === undefined ? undefined : multiple * Math.sqrt(variance / spread);
  return {
    value: slope,
    curve,
    ...(half === undefined ? {} : { interval: { low: slope - half, high: slope + half } }),
    remarks: half === undefined ? [HANGS_TOGETHER] : [],
  };
}

function fastest({ rows: { times, values } }: Cut): Found {
  const count = ROWS_OF_STEEPEST;
  if (times.length < count)
    return { problem: `The largest rate needs ${String(count)} rows in the window at least.` };
  let best = { size: -1, place: 0 };
  for (let i = 0; i + count <= times.length; i += 1) {
    const size = Math.abs(line(times.subarray(i, i + count), values.subarray(i, i + count)).slope);
    if (size > best.size) best = { size, place: i };
  }
  return { value: best.size, moment: times[best.place + (count >> 1)] as number, remarks: [] };
}

const timeConstant =
  (times: number) =>
  ({ rows, question: { toZero }, alpha }: Cut): Found => {
    const decay = fitDecay(rows, toZero, alpha);
    if ('problem' in decay) return decay;
    const { interval, height, tau } = decay;
    return {
      value: times * tau,
      curve: height,
      ...(interval ? { interval: { low: times * interval.low, high: times * interval.high } } : {}),
      remarks: interval ? [] : [HANGS_TOGETHER],
    };
  };

const QUANTITIES: Record<TraceQuantity, (cut: Cut) => Found> = {
  mean: ({ whole }) => {
    const { times } = whole;
    return { value: area(whole) / ((times[times.length - 1] as number) - (times[0] as number)), remarks: [] };
  },
  peak: extreme(1),
  lowest: extreme(-1),
  valueAt: ({ whole, question: { afterS } }) => {
    const value = valueAt(whole, afterS);
    return Number.isNaN(value)
      ? { problem: `The window ends before ${spanText(afterS)} have gone by.` }
      : { value, moment: afterS, remarks: [] };
  },
  timeTo,
  within: timeWithin,
  recovery,
  slope: slopeOf,
  fastest,
  timeConstant: timeConstant(1),
  halfLife: timeConstant(Math.LN2),
  area: ({ whole }) => ({ value: area(whole), remarks: [] }),
};

/**
 * The value of a window of a trace: times in seconds, heights in the unit of the trace, slopes per second, areas times
 * seconds. Between its rows a trace is taken to run straight.
 * @param series in the unit of the trace, with what is to be taken off it taken off
 * @param unit of the trace, for sentences
 * @returns the value, or a sentence why there is none
 */
export function traceValue(
  series: Series,
  window: TimeWindow,
  question: TraceQuestion,
  unit: string,
  alpha = 0.05,
): Found {
  const { times } = series;
  if (!(window.to > window.from)) return { problem: 'The window ends before it begins.' };
  if (times.length < 2) return { problem: 'There are not two rows with a value.' };
  if (window.from < (times[0] as number)) {
    return {
      problem: `The window begins before the first value, which is at ${spanText(times[0] as number)}.`,
    };
  }
  const end = times[times.length - 1] as number;
  if (window.to > end)
    return { problem: `The window ends after the last value, which is at ${spanText(end)}.` };
  const fromStart = (found: Series): Series => ({
    times: found.times.map((time) => time - window.from),
    values: found.values,
  });
  const rows = fromStart(within(series, window));
  if (rows.times.length === 0) return { problem: 'Nothing was logged in the window.' };
  return QUANTITIES[question.quantity]({
    ...{ rows, whole: fromStart(cutTo(series, window)), question, unit, alpha },
  });
}
