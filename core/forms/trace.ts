import { PART_TEXT_LIMIT } from '../model/limits.ts';
import type { FormSettings } from '../model/parts.ts';
import { convert } from '../quantity/units.ts';
import type { TraceQuantity, TraceQuestion, TraceValue } from '../trace/quantities.ts';
import type { ReadingForm } from './form.ts';
import { READ_UNIT, partNumber, readUnit, setting } from './read-parts.ts';
import { FILE_PARTS, made, madeValue, readMade, words } from './worked-out.ts';

const QUANTITY = {
  kind: 'choice',
  name: 'quantity',
  label: 'Value',
  changesMeaning: true,
  fallback: 'mean',
  options: [
    { value: 'mean', label: 'Mean over the window' },
    { value: 'peak', label: 'Peak' },
    { value: 'lowest', label: 'Lowest' },
    { value: 'valueAt', label: 'Value after a time' },
    { value: 'timeTo', label: 'Time to a threshold' },
    { value: 'within', label: 'Time within a band' },
    { value: 'recovery', label: 'Recovery into a band for good' },
    { value: 'slope', label: 'Slope' },
    { value: 'fastest', label: 'Largest rate' },
    { value: 'timeConstant', label: 'Time constant' },
    { value: 'halfLife', label: 'Half-life' },
    { value: 'area', label: 'Area under the curve' },
  ],
} as const;
const IN_TIME: readonly TraceQuantity[] = ['timeTo', 'within', 'recovery', 'timeConstant', 'halfLife'];
const PER_TIME: readonly TraceQuantity[] = ['slope', 'fastest'];
const IN_BAND: readonly TraceQuantity[] = ['within', 'recovery'];

const quantityOf = (settings: FormSettings): TraceQuantity => setting(QUANTITY, settings);
const asks =
  (...quantities: readonly TraceQuantity[]) =>
  (settings: FormSettings) =>
    quantities.includes(quantityOf(settings));

const TIME_UNIT = {
  kind: 'choice',
  name: 'timeUnit',
  label: 'Time in',
  fallback: 's',
  options: [
    { value: 's', label: 'seconds' },
    { value: 'min', label: 'minutes' },
    { value: 'h', label: 'hours' },
  ],
  when: asks(...IN_TIME, ...PER_TIME, 'area'),
} as const;
const THRESHOLD = {
  kind: 'number',
  name: 'threshold',
  label: 'Threshold',
  fallback: 0,
  unit: (settings: FormSettings) => readUnit({ settings }),
  when: asks('timeTo'),
} as const;
const LOW = {
  ...THRESHOLD,
  name: 'low',
  label: 'Band from',
  when: asks(...IN_BAND),
} as const;
const HIGH = { ...LOW, name: 'high', label: 'Band to' } as const;
const AFTER = {
  kind: 'number',
  name: 'afterS',
  label: 'After',
  help: 'from the start of the window; as 1:30:00, or in seconds',
  fallback: 0,
  unit: () => 's',
  when: asks('valueAt'),
} as const;
const REST = {
  kind: 'choice',
  name: 'rest',
  label: 'Taken off',
  fallback: 'none',
  options: [
    { value: 'none', label: 'Nothing' },
    { value: 'fixed', label: 'A fixed value', help: 'such as the temperature of the room' },
    { value: 'column', label: 'Another column of the file' },
  ],
} as const;
const REST_VALUE = {
  ...THRESHOLD,
  name: 'restValue',
  label: 'Which value',
  when: (settings: FormSettings) => setting(REST, settings) === 'fixed',
} as const;

/** What is asked of a trace, as the plan calls it. */
export const traceQuantityLabel = (settings: FormSettings): string =>
  QUANTITY.options.find(({ value }) => value === quantityOf(settings))?.label ?? '';

/** Names of the parts that say where in which file a value comes from. */
export const TRACE_PARTS = {
  ...FILE_PARTS,
  ...{ low: 'low', high: 'high', column: 'column', less: 'less' },
} as const;
/** The head of a column as a reading holds it. */
export const columnText = (head: string): string => head.slice(0, PART_TEXT_LIMIT);

/** What is asked of the windows of a measurand of traces. */
export function traceQuestion(settings: FormSettings): TraceQuestion {
  return {
    quantity: quantityOf(settings),
    threshold: setting(THRESHOLD, settings),
    low: setting(LOW, settings),
    high: setting(HIGH, settings),
    afterS: setting(AFTER, settings),
    toZero: setting(REST, settings) !== 'none',
  };
}

/** What is taken off a trace before anything is asked of it. */
export const takenOff = (settings: FormSettings): { kind: 'none' | 'fixed' | 'column'; value: number } => ({
  kind: setting(REST, settings),
  value: setting(REST_VALUE, settings),
});

/** The unit that the columns of a trace are read in. */
export const traceUnit = (settings: FormSettings): string => readUnit({ settings });

/**
 * The settings that a value was worked out with, as one text, so that a value that was worked out with others is not
 * taken for one of these.
 */
export function howText(settings: FormSettings): string {
  const { quantity, threshold, low, high, afterS } = traceQuestion(settings);
  const { kind, value } = takenOff(settings);
  return [
    quantity,
    readUnit({ settings }),
    ...(TIME_UNIT.when(settings) ? [setting(TIME_UNIT, settings)] : []),
    ...(THRESHOLD.when(settings) ? [threshold] : []),
    ...(LOW.when(settings) ? [low, high] : []),
    ...(AFTER.when(settings) ? [afterS] : []),
    ...(kind === 'fixed' ? [`less ${String(value)}`] : kind === 'column' ? ['less column'] : []),
  ]
    .filter((word) => word !== '')
    .join(' ');
}

/** What a value in seconds and in the unit of the trace is in the unit of the measurand. */
export function inValueUnit(
  { value, interval }: Pick<TraceValue, 'value' | 'interval'>,
  settings: FormSettings,
): { value: number; interval?: { low: number; high: number } } {
  const quantity = quantityOf(settings);
  const seconds = convert(1, setting(TIME_UNIT, settings), 's') as number;
  const power = PER_TIME.includes(quantity) ? -1 : IN_TIME.includes(quantity) || quantity === 'area' ? 1 : 0;
  const scaled = (number: number) => Number((number / seconds ** power).toPrecision(12));
  return {
    value: scaled(value),
    ...(interval ? { interval: { low: scaled(interval.low), high: scaled(interval.high) } } : {}),
  };
}

/** A stretch of what a logger wrote: the value is worked out from the file, which is kept. */
export const trace: ReadingForm = {
  name: 'trace',
  label: 'Trace',
  help: 'a logger’s file; the value is worked out from a window of it',
  entry: 'trace',
  // Quick or slow, high or low: only the tester knows which is wanted.
  direction: 'unranked',
  unit: '',
  settings: [QUANTITY, READ_UNIT, TIME_UNIT, THRESHOLD, LOW, HIGH, AFTER, REST, REST_VALUE],
  valueUnit(settings) {
    const quantity = quantityOf(settings);
    const [read, time] = [readUnit({ settings }), setting(TIME_UNIT, settings)];
    if (IN_TIME.includes(quantity)) return time;
    if (PER_TIME.includes(quantity)) return `${read === '' ? '1' : read}/${time}`;
    return quantity === 'area' ? (read === '' ? time : `${read}·${time}`) : read;
  },
  wrongSettings: (settings) =>
    LOW.when(settings) && setting(LOW, settings) > setting(HIGH, settings)
      ? { name: 'high', message: 'The band ends below where it begins.' }
      : undefined,
  typicalS: () => 60,
  how: howText,
  parts: ({ unit }) => [
    { name: TRACE_PARTS.value, label: 'Value', unit },
    made(TRACE_PARTS.from, 'From', 's'),
    made(TRACE_PARTS.to, 'To', 's'),
    made(TRACE_PARTS.low, 'Interval from', unit),
    made(TRACE_PARTS.high, 'Interval to', unit),
    words(TRACE_PARTS.file, 'File'),
    words(TRACE_PARTS.column, 'Column'),
    words(TRACE_PARTS.less, 'Taken off'),
    words(TRACE_PARTS.how, 'Worked out as'),
  ],
  read(texts, context) {
    return readMade(this.parts(context), texts);
  },
  value: (parts, context) => madeValue(howText, parts, context),
  interval(parts) {
    const [low, high] = [partNumber(parts, TRACE_PARTS.low), partNumber(parts, TRACE_PARTS.high)];
    return low === null || high === null ? undefined : { low, high, method: 'fit to its rows' };
  },
};

/** The parts of a reading that was worked out from a window of a trace, with all their figures. */
export function traceParts(
  found: TraceValue,
  window: { from: number; to: number },
  names: { fileId: string; column: string; less?: string },
  settings: FormSettings,
): Record<string, string> {
  const { value, interval } = inValueUnit(found, settings);
  return {
    [TRACE_PARTS.value]: String(value),
    [TRACE_PARTS.from]: String(window.from),
    [TRACE_PARTS.to]: String(window.to),
    ...(interval
      ? { [TRACE_PARTS.low]: String(interval.low), [TRACE_PARTS.high]: String(interval.high) }
      : {}),
    [TRACE_PARTS.file]: names.fileId,
    [TRACE_PARTS.column]: columnText(names.column),
    ...(names.less === undefined ? {} : { [TRACE_PARTS.less]: columnText(names.less) }),
    [TRACE_PARTS.how]: howText(settings),
  };
}
