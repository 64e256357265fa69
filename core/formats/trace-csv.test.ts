import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { csvNumber } from './csv-read.ts';
import { FileProblem } from './file-problem.ts';
import { readTrace, traceOf } from './trace-csv.ts';

const read = (...lines: string[]) => readTrace(lines.join('\n'));
const times = (...lines: string[]) => [...read(...lines).times];
const problem = (...lines: string[]): string => {
  try {
    read(...lines);
    return '';
  } catch (error) {
    expect(error).toBeInstanceOf(FileProblem);
    return (error as FileProblem).message;
  }
};

describe('a trace from a table', () => {
  it('reads seconds, and other units by the head of their column', () => {
    expect(times('time (s),A (°C)', '0,1', '0.5,2', '1.5,3')).toEqual([0, 0.5, 1.5]);
    expect(times('Elapsed [min];A', '10;1', '10,5;2')).toEqual([0, 30]);
    expect(times('Time_ms\tA', '250\t1', '500\t2')).toEqual([0, 0.25]);
    expect(times('hours,A', '1,1', '2,2')).toEqual([0, 3600]);
  });
  it('reads as many rows as there are', () => {
    const values = Array.from({ length: 9000 }, (_, i) => i / 10);
    const trace = read('s,A', ...values.map((value, i) => `${String(i)},${String(value)}`));
    expect(trace.columns.map((column) => [...column.values])).toEqual([values]);
    expect(trace.times).toHaveLength(9000);
  });
  it('reads clock times, and counts on at midnight', () => {
    const found = read('time,A', '23:59:50,1', '23:59:58.5,2', '0:00:02,3');
    expect([...found.times]).toEqual([0, 8.5, 12]);
    expect(found.startedAt).toBe('23:59:50');
    expect(times('time,A', '11:59 PM,1', '12:01 AM,2')).toEqual([0, 120]);
  });
  it('takes no clock for one that shows 60 minutes, and of spans what they count', () => {
    for (const odd of ['10:60:00', '10:61', '10:00:61', '1:2:3:4'])
      expect(problem('time,A', `${odd},1`, `${odd},2`)).toContain('No column holds times');
    // Hours and minutes, then with seconds, tenths and a leap second.
    expect(times('time,A', '1:02,1', '1:02:03,2', '1:02:03.5,3', '1:59:60,4')).toEqual([0, 3, 3.5, 3480]);
    expect(times('time,A', '12:00:00 AM,1', '1:00:00 am,2', '12:00:00 PM,3')).toEqual([0, 3600, 43200]);
  });
  it('takes a column for times by its name or its unit, and not by a unit alone', () => {
    expect(times('Time (min),Lag (s)', '0,5', '1,6')).toEqual([0, 60]);
    expect(problem('Lag (s),A', '0,5', '1,6')).toContain('No column holds times');
    expect(problem('Time (kg),A', '0,5', '1,6')).toContain('No column holds times');
    expect(read('Time (min),Lag (s)', '0,5', '1,6').columns.map(({ name, unit }) => [name, unit])).toEqual([
      ['Lag', 's'],
    ]);
  });
  it('reads dates with their time, in one column or in two, with a zone or without', () => {
    expect(times('when,A', '2026-03-28T23:30:00Z,1', '2026-03-29T01:30:30+01:00,2')).toEqual([0, 3630]);
    expect(
      times('when,A', '2026-03-28T23:30:00+05:30,1', '2026-03-28T18:00:10Z,2', '2026-03-28T14:30:20-0330,3'),
    ).toEqual([0, 10, 20]);
    expect(times('when;A', '31.12.2026 23:59:59;1', '01.01.2027 00:00:09;2')).toEqual([0, 10]);
    expect(times('date,clock,A', '2026-12-31,23:59:30,1', '2027-01-01,00:00:00,2')).toEqual([0, 30]);
    expect(times('when,A', '12/31/2026 08:00,1', '12/31/2026 08:01,2')).toEqual([0, 60]);
  });
  it('prefers the date where seconds are counted beside it', () => {
    const found = read('t (s),when,A', '0,2026-01-01 10:00:00,5', '61,2026-01-01 10:01:00,6');
    expect([[...found.times], found.columns.map(({ name }) => name)]).toEqual([[0, 60], ['A']]);
  });
  it('takes names and units from the head, and leaves columns without numbers aside', () => {
    const { columns } = read('time (s),Flask 1 (°C),state,"Room [°C]"', '0,80,ok,21', '1,79,ok,21');
    expect(columns.map(({ name, unit }) => [name, unit])).toEqual([
      ['Flask 1', '°C'],
      ['Room', '°C'],
    ]);
  });
  it('says where cells hold no number, where the clock repeats, steps back or stops', () => {
    const found = read(
      'time (s),A,B',
      ...['0,1,2', '1,,2', '2,ERR,2', '2,3,2', '3,3,2', '1,9,9', '2.5,9,9', '4,3,2', '5,1,2', '90,1,2'],
    );
    expect([...found.times]).toEqual([0, 1, 2, 3, 4, 5, 90]);
    expect(found.remarks).toEqual([
      '1 row at the time of the row before, the first in line 5: left out.',
      'The clock steps back in line 7, by up to 0:00:02: 2 rows until it has caught up are left out.',
      '1 gap of 0:01:25 from 0:00:05.',
      'No number in 2 rows of A.',
    ]);
    expect(read('s,A', '0,1', '1,1', '2,1', '9,1', '10,1', '15,1', '16,1').remarks).toEqual([
      '2 gaps, the longest of 0:00:07 from 0:00:02.',
    ]);
    expect([...(found.columns[0]?.values ?? [])]).toEqual([1, Number.NaN, Number.NaN, 3, 3, 1, 1]);
  });
  it('leaves out a row that was cut off, and says so', () => {
    const found = read('time (s),A,B', '0,1,2', '1,2,3', '2,3', '3,4,5', '4,');
    expect([...found.times]).toEqual([0, 1, 3]);
    expect(found.remarks).toEqual([
      '2 rows with more or fewer fields than the header, the first in line 4: left out.',
    ]);
  });
  it('refuses what is no trace, with the place', () => {
    expect(problem('')).toBe('The file is empty.');
    expect(problem('time (s),A')).toBe('There is a header and no row.');
    expect(problem('A,B', '1,2', '3,4')).toContain('No column holds times');
    expect(problem('time (s),A', '1,2')).toBe('There are not two rows with a time.');
    expect(problem('time (s),A', '1,2,3', '2,3,4', '3,4')).toBe(
      'Line 2: most rows have not as many fields as the header.',
    );
    expect(problem('start,end,A', '10:00:00,10:00:01,1', '10:00:02,10:00:03,1')).toContain('two clocks');
    expect(problem('when,A', '01/02/2026 10:00,1', '01/02/2026 10:01,1')).toContain('year first');
    expect(problem('time (s),A', '0,on', '1,off')).toContain('No column besides the time');
  });
  it('never falls over, whatever text it is given', () => {
    const cell = fc.oneof(
      fc.constantFrom(
        'time (s)',
        '10:00',
        '25:61:00',
        '2026-02-30 10:00',
        '2026-01-01T10:00Z',
        '',
        '-',
        'NaN',
      ),
      fc.double().map(String),
      fc.string({ maxLength: 8 }),
    );
    // Drawn once: two times nearer than a millionth of a second, and one beyond all numbers.
    const near = read('value,time (s)', '1,0', '2,5e-324', '3,1e-7', '4,1', '5,1e305');
    expect([...near.times]).toEqual([0, 1]);
    expect(near.remarks.join()).toMatch(/2 rows at the time of the row before/);
    fc.assert(
      fc.property(fc.array(fc.array(cell, { minLength: 1, maxLength: 4 }), { maxLength: 8 }), (rows) => {
        try {
          const found = read(...rows.map((row) => row.join(',')));
          expect(found.times.every((time, i) => i === 0 || time > (found.times[i - 1] ?? 0))).toBe(true);
        } catch (error) {
          expect(error).toBeInstanceOf(FileProblem);
        }
      }),
      { numRuns: 500 },
    );
  });
});

describe('a number of a cell', () => {
  it('is to the last bit what the language reads', () => {
    const figures = fc.stringMatching(/^-?\d{1,9}(?:\.\d{0,6})?$/);
    fc.assert(
      fc.property(figures, (text) => {
        expect(csvNumber(text, ',')).toBe(Number(text));
        expect(csvNumber(text.replace('.', ','), ';')).toBe(Number(text));
      }),
    );
    expect([
      csvNumber('1,5', ','),
      csvNumber('.', ','),
      csvNumber('-', ','),
      csvNumber('1.2.3', ','),
    ]).toEqual(Array.from({ length: 4 }));
  });
});

describe('a file of a logger', () => {
  const text = 'time (s),Kammer Süd (°C)\n0,20.5\n60,21\n120,21.5\n';
  const column = (bytes: Uint8Array) => {
    const { columns, remarks } = traceOf(bytes);
    return [columns[0]?.name, columns[0]?.unit, columns[0]?.values.at(-1), remarks[0]];
  };
  it('is read in UTF-8, with its mark or without', () => {
    const wanted = ['Kammer Süd', '°C', 21.5, undefined];
    expect(column(new TextEncoder().encode(text))).toEqual(wanted);
    expect(column(new TextEncoder().encode(`\ufeff${text}`))).toEqual(wanted);
  });
  it('is read with a byte for each sign, and says what it was taken for', () => {
    const bytes = Uint8Array.from(text, (sign) => sign.charCodeAt(0));
    expect(column(bytes)).toEqual([
      ...['Kammer Süd', '°C', 21.5],
      'The file is not in UTF-8: its signs are taken for those of Western Europe (Windows-1252).',
    ]);
  });
  it.each([true, false])('is read in UTF-16, low byte first: %s', (low) => {
    const bytes = new Uint8Array(2 * (text.length + 1));
    const data = new DataView(bytes.buffer);
    [...`\ufeff${text}`].forEach((sign, i) => {
      data.setUint16(2 * i, sign.charCodeAt(0), low);
    });
    expect(column(bytes)).toEqual(['Kammer Süd', '°C', 21.5, 'The file is text in UTF-16.']);
  });
  it('is refused where it is no text', () => {
    expect(() => traceOf(Uint8Array.of(0x52, 0x49, 0x46, 0x46, 0, 1))).toThrow('The file is not text.');
  });
});
