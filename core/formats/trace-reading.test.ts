import { describe, expect, it } from 'vitest';
import { readTrace } from './trace-csv.ts';
import { likelyReference } from './trace-columns.ts';
import { workOut } from './trace-reading.ts';

const TABLE = readTrace(
  ['time (s),Ama (°C),Room (°C)', '0,,20', '1,80,20', '2,70,20', '3,60,20', '4,50,20', '5,,20'].join('\n'),
);
const ask = (settings: Record<string, string | number>, window = { from: 0, to: 5 }, less?: string) =>
  workOut(TABLE, { column: 'Ama (°C)', less }, window, { quantity: 'mean', readUnit: '°C', ...settings });

describe('a window of a column', () => {
  it('that lacks a row at an end is taken as far as there are values, and it is said', () => {
    expect(ask({})).toMatchObject({
      value: 65,
      remarks: [
        'Its first value is at 0:00:01: the window begins there.',
        'Its last value is at 0:00:04: the window ends there.',
        'Only 4 rows in the window.',
      ],
    });
    expect(ask({ quantity: 'peak' })).toMatchObject({ value: 80, moment: 1 });
    // Moments and curves count from the window that was asked for, wherever it begins.
    expect(ask({ quantity: 'peak' }, { from: 0.5, to: 4 })).toMatchObject({ moment: 0.5 });
    const slope = ask({ quantity: 'slope', timeUnit: 's' }, { from: 0.5, to: 5 });
    expect('curve' in slope && slope.curve(0.5)).toBeCloseTo(80, 9);
    expect('curve' in slope && slope.curve(3.5)).toBeCloseTo(50, 9);
    // Further away than three rows it is no slip.
    expect(ask({}, { from: -9, to: 4 })).toHaveProperty('problem');
    expect(ask({}, { from: -2, to: 4 })).toMatchObject({ value: 65 });
    expect(ask({}, { from: -2.1, to: 4 })).toHaveProperty('problem');
    const slow = readTrace('time (s),Ama (°C)\n0,80\n60,70\n120,60\n');
    const till = (to: number) =>
      workOut(
        slow,
        { column: 'Ama (°C)', less: undefined },
        { from: 0, to },
        { quantity: 'mean', readUnit: '°C' },
      );
    expect(till(300)).toMatchObject({ value: 70 });
    expect(till(301)).toHaveProperty('problem');
  });
  it('has a value, or another column, taken off it', () => {
    expect(ask({ rest: 'fixed', restValue: 15 })).toMatchObject({ value: 50 });
    expect(ask({ rest: 'column' }, { from: 1, to: 4 }, 'Room (°C)')).toMatchObject({ value: 45 });
    expect(ask({ rest: 'column' })).toEqual({ problem: 'Say which column is taken off.' });
    expect(ask({ rest: 'column' }, { from: 1, to: 4 }, 'Ama (°C)')).toHaveProperty('problem');
    expect(likelyReference(TABLE)).toBe('Room (°C)');
  });
  it('says where file and plan are in other units, and where there is no such column', () => {
    const found = ask({ readUnit: '°F' }, { from: 1, to: 4 });
    expect(found).toMatchObject({
      remarks: ['The file says °C: turned into °F.', 'Only 4 rows in the window.'],
    });
    expect('value' in found && found.value).toBeCloseTo(149, 9);
    const above = ask({ readUnit: '°F', rest: 'column' }, { from: 1, to: 4 }, 'Room (°C)');
    expect('value' in above && above.value).toBeCloseTo(81, 9);
    const odd = ask({ readUnit: 'bar' }, { from: 1, to: 4 });
    expect('remarks' in odd && odd.remarks[0]).toBe('The file says °C, the plan bar.');
    expect(workOut(TABLE, { column: 'Sky', less: undefined }, { from: 1, to: 4 }, {})).toEqual({
      problem: 'The file has no column “Sky”.',
    });
  });
});
