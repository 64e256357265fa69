import { convert, isTime } from '../quantity/units.ts';
import { type CsvHeader, csvNumber } from './csv-read.ts';
import { FileProblem } from './file-problem.ts';
import { OTHER_DATE, datesOf, headOf, yearFirst } from './study-columns.ts';

/** Seconds of a cell; undefined where it holds no time. */
type ReadTime = (fields: readonly string[]) => number | undefined;

const ISO =
  /^(\d{4})[-/](\d{1,2})[-/](\d{1,2})(?:[T ]+(\d{1,2}):(\d\d)(?::(\d\d(?:[.,]\d{1,9})?))?)? ?(Z|[+-]\d\d:?\d\d)?$/;
const CLOCK = /^(\d{1,3}):(\d\d)(?::(\d\d(?:[.,]\d{1,9})?))?( ?[ap]m)?$/i;

/** Seconds since 1970 of a date with its time; without a zone as if it were that of Greenwich, so that no hour is lost. */
function dateSeconds(text: string): number | undefined {
  const found = ISO.exec(text);
  if (!found) return undefined;
  const [, year, month, day, hour = '0', minute = '0', second = '0', zone] = found;
  const [m, d, h, min, s] = [month, day, hour, minute, second.replace(',', '.')].map(Number) as [
    ...[number, number, number, number, number],
  ];
  const midnight = Date.UTC(Number(year), m - 1, d) / 1000;
  if (m < 1 || m > 12 || new Date(midnight * 1000).getUTCDate() !== d || h > 24 || min > 59 || s >= 61)
    return undefined;
  let offset = 0;
  if (zone !== undefined && zone !== 'Z') {
    const digits = zone.slice(1).replace(':', '');
    offset =
      (zone.startsWith('-') ? -1 : 1) * (Number(digits.slice(0, 2)) * 3600 + Number(digits.slice(2)) * 60);
  }
  return midnight + h * 3600 + min * 60 + s - offset;
}

const digit = (text: string, place: number): number => text.charCodeAt(place) - 48;
const twoDigits = (text: string, place: number): number => {
  const [tens, ones] = [digit(text, place), digit(text, place + 1)];
  return tens >= 0 && tens <= 9 && ones >= 0 && ones <= 9 ? 10 * tens + ones : Number.NaN;
};

/** Seconds of hh:mm:ss, which most clocks write and a million rows feel; NaN for anything else. */
function plainClock(text: string, start: number): number {
  if (text.length !== start + 8 || text[start + 2] !== ':' || text[start + 5] !== ':') return Number.NaN;
  const [minutes, seconds] = [twoDigits(text, start + 3), twoDigits(text, start + 6)];
  return minutes < 60 && seconds < 60 ? twoDigits(text, start) * 3600 + minutes * 60 + seconds : Number.NaN;
}

/** Reads dates with their time; a day that was read is not read again. */
function momentReader(asDate: (text: string) => string): (cell: string) => number | undefined {
  let day = '';
  let midnight: number | undefined;
  return (cell) => {
    const text = cell.trim();
    const time = plainClock(text, 11);
    if (Number.isNaN(time)) return dateSeconds(asDate(text));
    if (text.slice(0, 10) !== day) {
      day = text.slice(0, 10);
      midnight = dateSeconds(asDate(day));
    }
    return midnight === undefined || !'T '.includes(text[10] ?? '')
      ? dateSeconds(asDate(text))
      : midnight + time;
  };
}

/** Seconds since midnight, or of a span that counts up. */
function clockSeconds(text: string): number | undefined {
  const plain = plainClock(text, 0);
  if (!Number.isNaN(plain)) return plain;
  const found = CLOCK.exec(text);
  if (!found) return undefined;
  const [, first = '0', second = '0', third, half] = found;
  // Two parts are hours and minutes: loggers that count minutes and seconds write the hour.
  const [hours, minutes, seconds] = [Number(first), Number(second), Number((third ?? '0').replace(',', '.'))];
  if (minutes > 59 || seconds >= 61) return undefined;
  const noon = half === undefined ? hours : (hours % 12) + (/p/i.test(half) ? 12 : 0);
  return noon * 3600 + minutes * 60 + seconds;
}

const TIME_NAMES =
  /^(t|time|zeit|elapsed|seconds?|secs?|minutes?|hours?|time stamp|timestamp|date ?time|date|clock|when)\b/i;
const UNIT_OF_NAME: [RegExp, string][] = [
  [/^(s|secs?|seconds?)$/i, 's'],
  [/^(min|minutes?)$/i, 'min'],
  [/^(h|hours?)$/i, 'h'],
  [/^(ms|millis(econds)?)$/i, 'ms'],
];

/** The unit of a column of numbers that are times, by its head; undefined where it says nothing of time. */
function timeUnit(column: string): string | undefined {
  const { name, unit } = headOf(column);
  if (unit !== '') return isTime(unit) && TIME_NAMES.test(name) ? unit : undefined;
  const word = name.split(/[\s_]+/).at(-1) ?? '';
  const named = UNIT_OF_NAME.find(([pattern]) => pattern.test(word))?.[1];
  return named ?? (TIME_NAMES.test(name) ? 's' : undefined);
}

/** Where the time of a row stands. */
export interface Clock {
  /** Columns that the time is in. */
  columns: number[];
  read: ReadTime;
  /** Whether it starts again at midnight. */
  wraps: boolean;
  /** Whether it says when the first row was. */
  dated: boolean;
}

const DATE_ONLY = /^\d{4}[-/]\d{1,2}[-/]\d{1,2}$/;

/** A date in one column, and the time of day in another. */
function dateAndClock(place: number, beside: number, asDate: (text: string) => string): Clock {
  let [written, midnight] = ['', undefined as number | undefined];
  return {
    columns: [place, beside],
    read: (fields) => {
      const day = fields[place] ?? '';
      if (day !== written) [written, midnight] = [day, dateSeconds(asDate(day))];
      const time = clockSeconds((fields[beside] ?? '').trim());
      return midnight === undefined || time === undefined ? undefined : midnight + time;
    },
    ...{ wraps: false, dated: true },
  };
}

/**
 * The columns that hold times, by what stands in the first rows.
 * @throws FileProblem where day and month cannot be told apart
 */
export function clocksOf({ columns, delimiter }: CsvHeader, tried: readonly string[][]): Clock[] {
  const cells = (place: number) =>
    tried.map((row) => (row[place] ?? '').trim()).filter((cell) => cell !== '');
  const most = (place: number, test: (cell: string) => boolean) => {
    const found = cells(place);
    return found.length > 0 && found.filter(test).length > 0.9 * found.length;
  };
  const dates = datesOf(columns.flatMap((_, place) => cells(place)).filter((cell) => OTHER_DATE.test(cell)));
  const asDate = (text: string) => yearFirst(text.trim(), dates);
  const isClock = (place: number) => most(place, (cell) => clockSeconds(cell) !== undefined);
  const clocks: Clock[] = [];
  columns.forEach((name, place) => {
    if (clocks.some((clock) => clock.columns.includes(place))) return;
    if (most(place, (cell) => OTHER_DATE.test(cell)) && dates === undefined) {
      throw new FileProblem(
        `the dates in “${name}” could be day or month first. Write them with the year first.`,
      );
    }
    if (most(place, (cell) => DATE_ONLY.test(asDate(cell)))) {
      const beside = columns.findIndex((_, other) => other !== place && isClock(other));
      if (beside === -1) return;
      clocks.push(dateAndClock(place, beside, asDate));
    } else if (most(place, (cell) => dateSeconds(asDate(cell)) !== undefined)) {
      const read = momentReader(asDate);
      clocks.push({
        columns: [place],
        read: (fields) => read(fields[place] ?? ''),
        ...{ wraps: false, dated: true },
      });
    } else if (isClock(place)) {
      clocks.push({
        columns: [place],
        read: (fields) => clockSeconds((fields[place] ?? '').trim()),
        ...{ wraps: true, dated: true },
      });
    } else {
      const unit = timeUnit(name);
      const factor = unit === undefined ? undefined : convert(1, unit, 's');
      if (factor === undefined || !most(place, (cell) => csvNumber(cell, delimiter) !== undefined)) return;
      clocks.push({
        columns: [place],
        read: (fields) => {
          const number = csvNumber(fields[place] ?? '', delimiter);
          return number === undefined ? undefined : number * factor;
        },
        ...{ wraps: false, dated: false },
      });
    }
  });
  return clocks;
}
