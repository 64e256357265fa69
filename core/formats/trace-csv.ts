import { counted, formatNumber, listed, wordFor } from '../quantity/format.ts';
import { spanText } from '../quantity/clock.ts';
import { gapsOf, usualStep } from '../trace/watch.ts';
import { type CsvHeader, csvNumber, readCsv, decodeAnyText } from './csv-read.ts';
import { FileProblem } from './file-problem.ts';
import { headOf } from './study-columns.ts';
import { type Clock, clocksOf } from './trace-clock.ts';

/** Rows of one trace at most. */
const MOST_ROWS = 10_000_000;
const MOST_COLUMNS = 64;
/** So many rows say what the columns are. */
const TRIED = 50;
const DAY = 86400;

/** A column of what was logged. */
export interface TraceColumn {
  /** The head as it stands in the file, which no other column has. */
  head: string;
  name: string;
  unit: string;
  /** NaN where a cell was empty or held no number. */
  values: Float64Array;
  missing: number;
}

/** A trace as it was read. */
export interface Trace {
  /** Seconds from the first row, each later than the one before. */
  times: Float64Array;
  /** The first row's time as it was written; undefined where the file only counts seconds. */
  startedAt: string | undefined;
  /** The usual time from row to row, s. */
  stepS: number;
  columns: TraceColumn[];
  /** What was odd about the rows, each as a sentence. */
  remarks: string[];
}

/** Numbers of which nobody knows how many there will be. */
class Growing {
  private room = new Float64Array(4096);
  length = 0;
  push(value: number): void {
    if (this.length === this.room.length) {
      const larger = new Float64Array(2 * this.length);
      larger.set(this.room);
      this.room = larger;
    }
    this.room[this.length] = value;
    this.length += 1;
  }
  taken(): Float64Array {
    return this.room.slice(0, this.length);
  }
}

/** Rows that are left out. */
interface Odd {
  count: number;
  /** The first of them. */
  line: number;
  /** By how much the clock steps back at most, s. */
  sizeS: number;
}
const none = (): Odd => ({ count: 0, line: 0, sizeS: 0 });

/** Takes rows one by one, each to its place in time. */
class TraceRows {
  private readonly times = new Growing();
  private readonly columns: { name: string; place: number; values: Growing; missing: number }[];
  private readonly ragged = none();
  private readonly noTime = none();
  private readonly repeats = none();
  private readonly back = none();
  private first: number | undefined;
  private firstText = '';
  /** The last time that was taken, s from the first. */
  private last = -Infinity;
  private days = 0;
  private before = -Infinity;

  constructor(
    private readonly header: CsvHeader,
    private readonly clock: Clock,
    measured: readonly number[],
  ) {
    this.columns = measured.map((place) => ({
      ...{ name: header.columns[place] ?? '', place, values: new Growing(), missing: 0 },
    }));
  }

  take(fields: readonly string[], line: number): void {
    const read = this.clock.read(fields);
    if (read === undefined) {
      note(this.noTime, line, 0);
      return;
    }
    // A clock that falls by more than half a day has passed midnight.
    if (this.clock.wraps && read + this.days < this.before - DAY / 2) this.days += DAY;
    const time = read + this.days;
    this.before = time;
    if (this.first === undefined) {
      this.first = time;
      this.firstText = this.clock.columns.map((place) => (fields[place] ?? '').trim()).join(' ');
    }
    // To a millionth of a second: two times that are nearer than that are the same.
    const since = Math.round((time - this.first) * 1e6) / 1e6;
    if (!Number.isFinite(since)) {
      note(this.noTime, line, 0);
      return;
    }
    if (since <= this.last) {
      note(since === this.last ? this.repeats : this.back, line, this.last - since);
      return;
    }
    this.last = since;
    if (this.times.length >= MOST_ROWS) {
      throw new FileProblem(`more than ${formatNumber(MOST_ROWS, 0)} rows: split the file.`, line);
    }
    this.times.push(since);
    for (const column of this.columns) {
      const value = csvNumber(fields[column.place] ?? '', this.header.delimiter);
      if (value === undefined) column.missing += 1;
      column.values.push(value ?? Number.NaN);
    }
  }

  /** A row that has not as many fields as the header, such as the last one of a logger that lost its power. */
  leaveOut(line: number): void {
    note(this.ragged, line, 0);
  }

  private remarks(times: Float64Array, stepS: number): string[] {
    const sentences: string[] = [];
    const { ragged, noTime, repeats, back } = this;
    const rows = (odd: Odd) => counted(odd.count, 'row');
    if (ragged.count > 0)
      sentences.push(
        `${rows(ragged)} with more or fewer fields than the header, the first in line ${formatNumber(ragged.line, 0)}: left out.`,
      );
    if (noTime.count > 0)
      sentences.push(
        `${rows(noTime)} without a time, the first in line ${formatNumber(noTime.line, 0)}: left out.`,
      );
    if (repeats.count > 0)
      sentences.push(
        `${rows(repeats)} at the time of the row before, the first in line ${formatNumber(repeats.line, 0)}: left out.`,
      );
    if (back.count > 0)
      sentences.push(
        `The clock steps back in line ${formatNumber(back.line, 0)}, by up to ${spanText(back.sizeS)}: ${rows(back)} until it has caught up ${wordFor(back.count, 'is', 'are')} left out.`,
      );
    const gaps = gapsOf(times, stepS);
    if (gaps.length > 0) {
      const longest = gaps.reduce((most, gap) => (gap.lengthS > most.lengthS ? gap : most));
      sentences.push(
        `${counted(gaps.length, 'gap')}${gaps.length > 1 ? ', the longest' : ''} of ${spanText(longest.lengthS)} from ${spanText(longest.from)}.`,
      );
    }
    const missing = this.columns.filter((column) => column.missing > 0);
    if (missing.length > 0)
      sentences.push(
        `No number in ${listed(missing.slice(0, 6).map((column) => `${counted(column.missing, 'row')} of ${headOf(column.name).name}`))}.`,
      );
    return sentences;
  }

  trace(): Trace {
    const times = this.times.taken();
    if (this.ragged.count > times.length) {
      throw new FileProblem('most rows have not as many fields as the header.', this.ragged.line);
    }
    if (times.length < 2) throw new FileProblem('There are not two rows with a time.');
    const stepS = usualStep(times);
    return {
      times,
      stepS,
      startedAt: this.clock.dated ? this.firstText : undefined,
      columns: this.columns.map(({ name, values, missing }) => ({
        head: name,
        ...headOf(name),
        values: values.taken(),
        missing,
      })),
      remarks: this.remarks(times, stepS),
    };
  }
}

function note(odd: Odd, line: number, sizeS: number): void {
  if (odd.count === 0) odd.line = line;
  odd.count += 1;
  odd.sizeS = Math.max(odd.sizeS, sizeS);
}

/**
 * Reads what a logger wrote: a table of one column of times, or of a date and a time, and of columns of numbers. Times
 * are seconds (or what the head of their column says), clock times, or dates with their time; days that end at midnight
 * are counted on. Rows whose time is not later than that of the row before are left out, and said.
 * @param text CSV with a header, in any shape that tables of readings have
 * @throws FileProblem for what is no such table
 */
export function readTrace(text: string): Trace {
  let header: CsvHeader | undefined;
  let tried: { fields: string[]; line: number }[] = [];
  let rows: TraceRows | undefined;
  const ragged: number[] = [];
  /** The rows that were held back, in their places, once there are enough of them to say what the columns are. */
  const begun = (): TraceRows => {
    if (rows) return rows;
    if (!header || tried.length === 0) throw new FileProblem('There is a header and no row.');
    rows = rowsOf(
      header,
      tried.map(({ fields }) => fields),
    );
    for (const { fields, line } of tried) rows.take(fields, line);
    for (const line of ragged) rows.leaveOut(line);
    tried = [];
    return rows;
  };
  readCsv(
    text,
    (found) => {
      header = found;
    },
    (fields, line) => {
      if (rows) rows.take(fields, line);
      else if (tried.push({ fields, line }) === TRIED) begun();
    },
    (line) => {
      if (rows) rows.leaveOut(line);
      else ragged.push(line);
    },
  );
  return begun().trace();
}

/** Where rows go, by what the first of them hold. */
function rowsOf(header: CsvHeader, tried: readonly string[][]): TraceRows {
  const clocks = clocksOf(header, tried);
  const dated = clocks.filter((clock) => clock.dated);
  if (dated.length > 1) {
    const names = dated.map(({ columns }) => `“${header.columns[columns[0] as number] ?? ''}”`);
    throw new FileProblem(`there are two clocks, ${listed(names)}: leave one of them out.`, header.line);
  }
  // A date says more than a count of seconds beside it, which is left aside.
  const clock = dated[0] ?? clocks[0];
  if (!clock)
    throw new FileProblem(
      'No column holds times. Call one “time (s)”, or give clock times, or dates with their time.',
    );
  const taken = new Set(clocks.flatMap(({ columns }) => columns));
  const measured = header.columns.flatMap((_, place) =>
    !taken.has(place) && tried.some((row) => csvNumber(row[place] ?? '', header.delimiter) !== undefined)
      ? [place]
      : [],
  );
  if (measured.length === 0) throw new FileProblem('No column besides the time holds numbers.', header.line);
  if (measured.length > MOST_COLUMNS)
    throw new FileProblem(`At most ${String(MOST_COLUMNS)} columns can be read.`, header.line);
  return new TraceRows(header, clock, measured);
}

/**
 * Reads a trace from the bytes of its file, in the ways that loggers write text.
 * @throws FileProblem for what is no trace
 */
export function traceOf(bytes: Uint8Array): Trace {
  const { text, remark } = decodeAnyText(bytes);
  const trace = readTrace(text);
  return remark === undefined ? trace : { ...trace, remarks: [remark, ...trace.remarks] };
}
