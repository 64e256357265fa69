/** What was logged over time: times in seconds, each later than the one before, and a finite value at each. */
export interface Series {
  times: Float64Array;
  values: Float64Array;
}

/** A stretch of time, in seconds from the first row of a trace. */
export interface TimeWindow {
  from: number;
  to: number;
}

/** The first place whose time is not before `time`; the length where all are. */
export function firstAtOrAfter(times: Float64Array, time: number): number {
  let low = 0;
  let high = times.length;
  while (low < high) {
    const middle = (low + high) >>> 1;
    if ((times[middle] as number) < time) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** The rows that have a value. */
export function seriesOf(times: Float64Array, values: Float64Array): Series {
  if (values.every((value) => !Number.isNaN(value))) return { times, values };
  const there: number[] = [];
  for (let i = 0; i < values.length; i += 1) if (!Number.isNaN(values[i])) there.push(i);
  return {
    times: Float64Array.from(there, (i) => times[i] as number),
    values: Float64Array.from(there, (i) => values[i] as number),
  };
}

/** The value at a time, on the straight line between its neighbours; NaN before the first and after the last. */
export function valueAt({ times, values }: Series, time: number): number {
  const place = firstAtOrAfter(times, time);
  if (place === times.length) return Number.NaN;
  const after = values[place] as number;
  if (times[place] === time) return after;
  if (place === 0) return Number.NaN;
  const before = values[place - 1] as number;
  const start = times[place - 1] as number;
  return before + ((after - before) * (time - start)) / ((times[place] as number) - start);
}

/** What was logged within a window, without a copy of it. */
export function within({ times, values }: Series, { from, to }: TimeWindow): Series {
  const start = firstAtOrAfter(times, from);
  let end = firstAtOrAfter(times, to);
  if (end < times.length && times[end] === to) end += 1;
  return { times: times.subarray(start, end), values: values.subarray(start, end) };
}

/** A window of a series with its two ends, which are worked out where nothing was logged at them. */
export function cutTo(series: Series, window: TimeWindow): Series {
  const { times, values } = within(series, window);
  const lead = times[0] === window.from ? [] : [window.from];
  const tail = times[times.length - 1] === window.to ? [] : [window.to];
  if (lead.length + tail.length === 0) return { times, values };
  const ends = (moments: readonly number[]) => moments.map((moment) => valueAt(series, moment));
  return {
    times: Float64Array.from([...lead, ...times, ...tail]),
    values: Float64Array.from([...ends(lead), ...values, ...ends(tail)]),
  };
}

/** A series less another one, which is taken on the line between its own rows; rows outside it are left out. */
export function less(series: Series, other: Series): Series {
  const values = series.values.map((value, i) => value - valueAt(other, series.times[i] as number));
  return seriesOf(series.times, values);
}
