import type { AskedPart, ReadingForm } from './form.ts';
import { partNumber, readParts } from './read-parts.ts';

/** A stopwatch may hold this many splits. */
export const MOST_SPLITS = 12;

const SPLITS = Array.from({ length: MOST_SPLITS }, (_, i): AskedPart => ({
  name: `split${String(i + 1)}`,
  label: `Split ${String(i + 1)}`,
  unit: 's',
  optional: true,
}));

/** From start to stop, in seconds; less what the key was pressed too late. */
export const timed: ReadingForm = {
  name: 'timed',
  label: 'Timed',
  help: 'by the stopwatch here, or m:ss.s from another',
  entry: 'clock',
  direction: 'lower',
  unit: 's',
  corrects: ['calibrations', 'tare', 'ambient'],
  settings: [
    {
      kind: 'whole',
      name: 'countdownS',
      label: 'Count down from',
      help: 'seconds; 0 lets the clock count up',
      fallback: 0,
      low: 0,
      high: 86400,
    },
  ],
  valueUnit: () => 's',
  typicalS: () => 60,
  parts: () => [
    { name: 'time', label: 'Time', unit: 's' },
    { name: 'late', label: 'Pressed late by', unit: 's', optional: true },
    ...SPLITS,
  ],
  read(texts, context) {
    const read = readParts(this.parts(context), texts, (_name, number) =>
      number < 0 ? 'A time is 0 or more.' : undefined,
    );
    if ('problem' in read) return read;
    const late = partNumber(read.parts, 'late') ?? 0;
    return late > (partNumber(read.parts, 'time') as number)
      ? { problem: 'The correction is longer than the time.', part: 'late' }
      : read;
  },
  value(parts) {
    const time = partNumber(parts, 'time');
    return time === null ? null : Number((time - (partNumber(parts, 'late') ?? 0)).toPrecision(12));
  },
};
