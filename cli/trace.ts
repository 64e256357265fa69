import { FileProblem } from '../core/formats/file-problem.ts';
import { type Trace, traceOf } from '../core/formats/trace-csv.ts';
import { workOut } from '../core/formats/trace-reading.ts';
import { inValueUnit, trace as traceForm } from '../core/forms/trace.ts';
import type { FormSettings } from '../core/model/parts.ts';
import { spanText } from '../core/quantity/clock.ts';
import { counted, formatReading } from '../core/quantity/format.ts';
import { TEXT, understood } from './arguments.ts';
import { readBytes } from './read-file.ts';
import { secondsOf } from './seconds.ts';
import { TRACE_QUANTITIES, type TraceQuantity } from '../core/trace/quantities.ts';
import type { TimeWindow } from '../core/trace/series.ts';

/** Quantities that need nothing said besides the window. */
const PLAIN = ['mean', 'peak', 'lowest', 'slope', 'fastest', 'timeConstant', 'halfLife', 'area'] as const;

export interface TraceOptions {
  file: string;
  json: boolean;
  quantities: readonly TraceQuantity[];
  window: { from: number | undefined; to: number | undefined };
  columns: readonly string[];
  settings: FormSettings;
  less: string | undefined;
  alpha: number;
}

const refused = (option: string, wants: string, text: string) =>
  new FileProblem(`The option --${option} takes ${wants}, not “${text}”.`);

const seconds = (option: string, text: string | undefined): number | undefined =>
  text === undefined ? undefined : secondsOf(option, text);

function number(option: string, text: string): number {
  const found = text.trim() === '' ? Number.NaN : Number(text);
  if (!Number.isFinite(found)) throw refused(option, 'a number', text);
  return found;
}

function quantityOf(text: string): TraceQuantity {
  const found = TRACE_QUANTITIES.find((name) => name === text);
  if (!found)
    throw new FileProblem(
      `There is no quantity “${text}”; the quantities are ${TRACE_QUANTITIES.join(', ')}.`,
    );
  return found;
}

/** A band as LOW:HIGH. */
function bandOf(text: string): { low: number; high: number } {
  const [low, high, ...rest] = text.split(':');
  if (low === undefined || high === undefined || rest.length > 0)
    throw refused('band', 'its two ends, as in 45:55', text);
  const band = { low: number('band', low), high: number('band', high) };
  if (band.low > band.high) throw refused('band', 'the lower end first, as in 45:55', text);
  return band;
}

/**
 * Understands the command line of a trace.
 * @throws FileProblem with one sentence for whatever is not understood
 */
export function traceOptions(args: readonly string[]): TraceOptions {
  const { values } = understood(args, {
    options: {
      ...{ trace: TEXT, json: { type: 'boolean' }, quantity: { type: 'string', multiple: true } },
      ...{ from: TEXT, to: TEXT, column: { type: 'string', multiple: true }, less: TEXT },
      ...{ threshold: TEXT, band: TEXT, after: TEXT, 'time-unit': TEXT, alpha: TEXT },
    },
  });
  if (!values.trace) throw new FileProblem('The option --trace takes the CSV file to read.');
  const timeUnit = values['time-unit'] ?? 's';
  if (!['s', 'min', 'h'].includes(timeUnit)) throw refused('time-unit', 's, min or h', timeUnit);
  const alpha = number('alpha', values.alpha ?? '0.05');
  if (!(alpha > 0 && alpha < 1)) throw refused('alpha', 'a number between 0 and 1', values.alpha ?? '');
  const fixed = values.less === undefined ? Number.NaN : Number(values.less);
  const rest = values.less === undefined ? 'none' : Number.isFinite(fixed) ? 'fixed' : 'column';
  return {
    file: values.trace,
    json: values.json ?? false,
    quantities: values.quantity?.map(quantityOf) ?? [
      ...PLAIN,
      ...(values.threshold === undefined ? [] : (['timeTo'] as const)),
      ...(values.band === undefined ? [] : (['within', 'recovery'] as const)),
      ...(values.after === undefined ? [] : (['valueAt'] as const)),
    ],
    window: { from: seconds('from', values.from), to: seconds('to', values.to) },
    columns: values.column ?? [],
    settings: {
      ...{ timeUnit, rest, ...(rest === 'fixed' ? { restValue: fixed } : {}) },
      ...(values.threshold === undefined ? {} : { threshold: number('threshold', values.threshold) }),
      ...(values.band === undefined ? {} : bandOf(values.band)),
      ...(values.after === undefined ? {} : { afterS: seconds('after', values.after) ?? 0 }),
    },
    less: rest === 'column' ? values.less : undefined,
    alpha,
  };
}

/** A column by its whole head, or by its name without the unit. */
function headOf({ columns }: Trace, wanted: string): string {
  const found = columns.find(({ head }) => head === wanted) ?? columns.find(({ name }) => name === wanted);
  if (!found) {
    throw new FileProblem(
      `There is no column “${wanted}”; the columns are ${columns.map(({ name }) => name).join(', ')}.`,
    );
  }
  return found.head;
}

interface Answer {
  quantity: TraceQuantity;
  unit: string;
  value: number | null;
  interval: [number, number] | null;
  problem: string | null;
  /** What to look at, as sentences. */
  remarks: string[];
}

/** All that is asked of each column of a trace. */
export function traceAnswers(bytes: Uint8Array, options: TraceOptions) {
  const found = traceOf(bytes);
  const { quantities, settings, alpha } = options;
  const lengthS = found.times.at(-1) ?? 0;
  const window: TimeWindow = { from: options.window.from ?? 0, to: options.window.to ?? lengthS };
  const less = options.less === undefined ? undefined : headOf(found, options.less);
  const heads =
    options.columns.length > 0
      ? options.columns.map((column) => headOf(found, column))
      : found.columns.map(({ head }) => head).filter((head) => head !== less);
  const columns = heads.map((head) => {
    const { name = head, unit: readUnit = '' } = found.columns.find((column) => column.head === head) ?? {};
    const values = quantities.map((quantity): Answer => {
      const asked = { ...settings, quantity, readUnit };
      const answer = workOut(found, { column: head, less }, window, asked, alpha);
      const unit = traceForm.valueUnit?.(asked) ?? '';
      if ('problem' in answer)
        return { quantity, unit, value: null, interval: null, problem: answer.problem, remarks: [] };
      const { value, interval } = inValueUnit(answer, asked);
      return {
        quantity,
        unit,
        value,
        interval: interval ? [interval.low, interval.high] : null,
        problem: null,
        remarks: answer.remarks,
      };
    });
    return { column: name, unit: readUnit, values };
  });
  const { startedAt = null, stepS, remarks } = found;
  return { rows: found.times.length, startedAt, stepS, lengthS, window, remarks, columns };
}

/** What traceAnswers found, as a table for people. */
export function traceTable({
  rows,
  startedAt,
  stepS,
  lengthS,
  window,
  remarks,
  columns,
}: ReturnType<typeof traceAnswers>): string {
  const lines = [
    `${counted(rows, 'row')}, one each ${spanText(stepS)}, ${spanText(lengthS)} in all${startedAt === null ? '' : `, from ${startedAt}`}.`,
    `Window: ${spanText(window.from)} to ${spanText(window.to)}.`,
    ...remarks,
  ];
  for (const { column, values } of columns) {
    lines.push('', column);
    const width = Math.max(...values.map(({ quantity }) => quantity.length));
    for (const { quantity, unit, value, interval, problem } of values) {
      const shown = (x: number) => formatReading(Number(x.toPrecision(6)));
      const found = value === null ? `– ${problem ?? ''}` : `${shown(value)} ${unit}`.trimEnd();
      const range = interval ? `  (${shown(interval[0])} to ${shown(interval[1])})` : '';
      lines.push(`  ${quantity.padEnd(width)}  ${found}${range}`);
    }
    const good = values.filter(({ value }) => value !== null);
    for (const sentence of new Set(good.flatMap((answer) => answer.remarks))) {
      const of = good.filter((answer) => answer.remarks.includes(sentence)).map(({ quantity }) => quantity);
      lines.push(`  ! ${of.length === good.length ? '' : `${of.join(', ')}: `}${sentence}`);
    }
  }
  return lines.join('\n');
}

/** Values of a trace, for people or as JSON. */
export function printedTrace(args: readonly string[]): string {
  const options = traceOptions(args);
  const found = traceAnswers(readBytes(options.file), options);
  return options.json ? JSON.stringify(found, null, 1) : traceTable(found);
}
