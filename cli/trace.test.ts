import { describe, expect, it } from 'vitest';
import { FileProblem } from '../core/formats/file-problem.ts';
import { traceAnswers, traceOptions, traceTable } from './trace.ts';

/** Newton's law of cooling in closed form: 90 °C in a room of 20 °C, a time constant of 2 h, each minute for 4 h. */
const COOLING = [
  'time (min),Flask (°C),Room (°C)',
  ...Array.from({ length: 241 }, (_, i) => `${String(i)},${String(20 + 70 * Math.exp(-i / 120))},20`),
].join('\n');

const answers = (...args: string[]) =>
  traceAnswers(new TextEncoder().encode(COOLING), traceOptions(['--trace', 'x.csv', ...args]));
const valueOf = (quantity: string, ...args: string[]) =>
  answers(...args).columns[0]?.values.find((answer) => answer.quantity === quantity);

describe('the command for a trace', () => {
  it('prints what the closed form says, in the unit of time that is asked for', () => {
    const told = ['--less', 'Room', '--time-unit', 'h', '--threshold', '30', '--column', 'Flask'];
    expect(valueOf('timeConstant', ...told)?.value).toBeCloseTo(2, 8);
    expect(valueOf('halfLife', ...told)?.value).toBeCloseTo(2 * Math.LN2, 8);
    expect(valueOf('timeTo', ...told)?.value).toBeCloseTo(2 * Math.log(70 / 30), 3);
    expect(valueOf('peak', ...told)).toMatchObject({ value: 70, unit: '°C' });
    expect(valueOf('slope', ...told)?.unit).toBe('°C/h');
    expect(answers(...told).columns).toHaveLength(1);
  });
  it('takes a window, a fixed value off, a band and a moment', () => {
    expect(valueOf('valueAt', '--after', '1:00:00', '--less', '20')?.value).toBeCloseTo(
      70 * Math.exp(-0.5),
      10,
    );
    expect(valueOf('peak', '--from', '2:00:00')?.value).toBeCloseTo(20 + 70 * Math.exp(-1), 10);
    const inBand = valueOf('within', '--band', '30:40', '--time-unit', 'min');
    expect(inBand?.value).toBeCloseTo(120 * Math.log(20 / 10), 1);
    expect(valueOf('recovery', '--band', '80:95')?.problem).toContain('at the end of the window');
  });
  it('prints a table for people', () => {
    const text = traceTable(answers('--less', 'Room', '--quantity', 'timeConstant', '--time-unit', 'h'));
    expect(text.split('\n').slice(0, 2)).toEqual([
      '241 rows, one each 0:01:00, 4:00:00 in all.',
      'Window: 0:00:00 to 4:00:00.',
    ]);
    expect(text).toContain('timeConstant  2 h');
  });
  it.each([
    [['--quantity', 'height'], 'There is no quantity “height”'],
    [['--from', 'noon'], 'takes a time such as 1:30:00'],
    [['--band', '3'], 'its two ends'],
    [['--band', '5:3'], 'lower end first'],
    [['--time-unit', 'weeks'], 's, min or h'],
    [['--column', 'Sky'], 'There is no column “Sky”; the columns are Flask, Room.'],
    [['--less', 'Sky'], 'There is no column “Sky”'],
    [['--fast'], 'Unknown option'],
    [['--alpha', '2'], 'between 0 and 1'],
  ] as const)('refuses %j in one sentence', (args, sentence) => {
    expect(() => answers(...args)).toThrow(FileProblem);
    expect(() => answers(...args)).toThrow(sentence);
  });
});
