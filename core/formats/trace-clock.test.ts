import { describe, expect, it } from 'vitest';
import type { CsvHeader } from './csv-read.ts';
import { clocksOf } from './trace-clock.ts';

/** The clocks of some columns, each with its head above its cells. */
function clocks(...columns: [head: string, ...cells: string[]][]) {
  const header = { columns: columns.map(([head]) => head), delimiter: ',', line: 1 } as CsvHeader;
  const rows = (columns[0] ?? []).slice(1).map((_, row) => columns.map((column) => column[row + 1] ?? ''));
  return clocksOf(header, rows).map((clock) => ({ ...clock, times: rows.map((row) => clock.read(row)) }));
}
/** Seconds of the last of some cells, of which the others say that they are times of this kind. */
const timeOf = (cell: string, kind: string) =>
  clocks(['Time', ...Array<string>(20).fill(kind), cell])[0]?.times.at(-1);
const utc = (...parts: [number, number, number, number?, number?, number?]) => {
  const [year, month, ...rest] = parts;
  return Date.UTC(year, month - 1, ...rest) / 1000;
};

describe('a date with its time', () => {
  it.each<[string, number | undefined]>([
    ['2026-03-04 05:06:07', utc(2026, 3, 4, 5, 6, 7)],
    ['2026-03-04T05:06:07', utc(2026, 3, 4, 5, 6, 7)],
    ['2026-03-04x05:06:07', undefined],
    ['2026-03-04  05:06:07', utc(2026, 3, 4, 5, 6, 7)],
    ['2026/3/4 5:06', utc(2026, 3, 4, 5, 6)],
    ['2026-03-04', utc(2026, 3, 4)],
    ['2026-03-04T05:06:07.25Z', utc(2026, 3, 4, 5, 6, 7) + 0.25],
    ['2026-03-04T05:06:07,5', utc(2026, 3, 4, 5, 6, 7) + 0.5],
    // ISO 8601: the zone is what the clock there is ahead by.
    ['2026-03-04T05:06:07+01:30', utc(2026, 3, 4, 3, 36, 7)],
    ['2026-03-04T05:06:07-0230', utc(2026, 3, 4, 7, 36, 7)],
    ['2026-03-04 24:00', utc(2026, 3, 5)],
    ['2026-03-04 25:00', undefined],
    ['2026-03-04 05:59', utc(2026, 3, 4, 5, 59)],
    ['2026-03-04 05:60', undefined],
    ['2026-03-04 05:60:00', undefined],
    // A leap second.
    ['2026-06-30 23:59:60', utc(2026, 7, 1)],
    ['2026-06-30 23:59:61', undefined],
    ['2026-01-31', utc(2026, 1, 31)],
    ['2026-02-29', undefined],
    ['2024-02-29', utc(2024, 2, 29)],
    ['2026-12-01', utc(2026, 12, 1)],
    ['2026-13-01', undefined],
    ['2026-00-10', undefined],
    ['2026-03-04 05:0a:07', undefined],
    ['2026-03-04 05-06-07', undefined],
  ])('%s', (cell, seconds) => {
    expect(timeOf(cell, '2026-03-04 00:00:00')).toBe(seconds);
  });
  it('is of the day that it says, row by row', () => {
    const days = ['2026-03-04 10:00:00', '2026-03-05 10:00:00', '2026-03-05 11:00:00', '2026-03-04 12:00:00'];
    expect(clocks(['When', ...days])[0]?.times).toEqual([
      ...[utc(2026, 3, 4, 10), utc(2026, 3, 5, 10), utc(2026, 3, 5, 11), utc(2026, 3, 4, 12)],
    ]);
  });
  it('may stand in two columns', () => {
    const [both] = clocks(
      ['Day', ...Array<string>(20).fill('2026-03-04'), '2026-03-05', '2026-03-05', 'no'],
      ['Clock', ...Array<string>(20).fill('23:59:59'), '00:00:01', '', '00:00:03'],
    );
    expect(both?.columns).toEqual([0, 1]);
    expect(both?.times.slice(19)).toEqual([
      utc(2026, 3, 4, 23, 59, 59),
      utc(2026, 3, 5, 0, 0, 1),
      undefined,
      undefined,
    ]);
  });
});

describe('a time of day, or a span', () => {
  it.each<[string, number | undefined]>([
    ['05:06:07', 18367],
    ['5:06:07', 18367],
    ['99:59:59', 359999],
    ['100:00:00', 360000],
    ['1:02', 3720],
    ['05:06:07.5', 18367.5],
    ['05:06:07,5', 18367.5],
    ['12:30 am', 1800],
    ['12:30 pm', 45000],
    ['1:30:15 pm', 48615],
    ['11:00 AM', 39600],
    ['05:59:00', 21540],
    ['05:60:00', undefined],
    ['05:06:60', 18420],
    ['05:06:61', undefined],
    ['05:0x:07', undefined],
  ])('%s', (cell, seconds) => {
    expect(timeOf(cell, '00:00:00')).toBe(seconds);
  });
  it('starts again at midnight', () => {
    expect(clocks(['Time', '00:00:01', '00:00:02'])).toMatchObject([{ wraps: true, dated: true }]);
  });
});

describe('a column of numbers', () => {
  it.each<[string, number | undefined]>([
    ['t', 120],
    ['Time (min)', 7200],
    ['Elapsed h', 432000],
    ['time in ms', 0.12],
    ['Time (°C)', undefined],
    ['Temperature', undefined],
  ])('called “%s”', (head, seconds) => {
    const times = clocks([head, '0', '120'])[0]?.times;
    if (seconds === undefined) expect(times).toBeUndefined();
    else expect(times?.[1]).toBeCloseTo(seconds, 12);
  });
});

describe('a column', () => {
  it('holds times where more than nine cells of ten do', () => {
    const withBad = (good: number) =>
      clocks(['Time', ...Array<string>(good).fill('10:00:00'), 'away']).length;
    expect([withBad(9), withBad(10)]).toEqual([0, 1]);
    expect(clocks(['Time', '', ''])).toEqual([]);
  });
  it('of dates that could be day or month first is refused', () => {
    expect(() => clocks(['When', '03/04/2026', '04/04/2026'])).toThrow(
      'the dates in “When” could be day or month first. Write them with the year first.',
    );
    expect(clocks(['When', '13/04/2026 10:00', '04/04/2026 10:00'])[0]?.times).toEqual([
      ...[utc(2026, 4, 13, 10), utc(2026, 4, 4, 10)],
    ]);
  });
});
