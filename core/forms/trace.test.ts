import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { FormSettings } from '../model/parts.ts';
import { PART_TEXT_LIMIT } from '../model/limits.ts';
import { TRACE_QUANTITIES } from '../trace/quantities.ts';
import { settingProblems } from './index.ts';
import { intervalOfReading } from './interval.ts';
import { howText, inValueUnit, trace, traceParts, traceQuestion } from './trace.ts';

const FLASK: FormSettings = { quantity: 'timeConstant', readUnit: '°C', timeUnit: 'h', rest: 'column' };
const unitOf = (settings: FormSettings) => trace.valueUnit?.(settings);

/** The parts of a reading of 3 h with an interval, as they are recorded. */
function recorded(settings: FormSettings, value = 10800) {
  const texts = traceParts(
    { value, interval: { low: 0.9 * value, high: 1.1 * value }, remarks: [] },
    { from: 1800, to: 28800.25 },
    { fileId: 'a-file', column: 'Orrin (°C)', less: 'Room (°C)' },
    settings,
  );
  const read = trace.read(texts, { unit: unitOf(settings) ?? '', settings });
  return 'parts' in read ? read.parts : [];
}

describe('the form of a trace', () => {
  it.each([
    ['mean', '°C', '°C'],
    ['peak', '', ''],
    ['timeTo', '°C', 'min'],
    ['halfLife', 'bar', 'min'],
    ['slope', '°C', '°C/min'],
    ['fastest', '', '1/min'],
    ['area', 'W', 'W·min'],
    ['area', '', 'min'],
  ])('gives %s of what is read in “%s” in “%s”', (quantity, readUnit, unit) => {
    expect(unitOf({ quantity, readUnit, timeUnit: 'min' })).toBe(unit);
  });
  it('turns seconds into the time that is asked for, and what is per second as well', () => {
    const found = { value: 7200, interval: { low: 3600, high: 10800 } };
    expect(inValueUnit(found, FLASK)).toEqual({ value: 2, interval: { low: 1, high: 3 } });
    expect(inValueUnit({ value: -0.001 }, { ...FLASK, quantity: 'slope' })).toEqual({ value: -3.6 });
    expect(inValueUnit({ value: 7200 }, { ...FLASK, quantity: 'area' })).toEqual({ value: 2 });
    expect(inValueUnit({ value: 80 }, { ...FLASK, quantity: 'peak' })).toEqual({ value: 80 });
  });
  it('holds value, window, interval, file and column, and reads them again', () => {
    const parts = recorded(FLASK);
    expect(trace.value(parts, { unit: 'h', settings: FLASK })).toBe(3);
    expect(intervalOfReading(parts, { form: 'trace', unit: 'h', settings: FLASK }, 0.05)).toMatchObject({
      low: 2.7,
      high: 3.3,
    });
    expect(parts.find(({ name }) => name === 'to')).toEqual({
      name: 'to',
      text: '28800.25',
      number: 28800.25,
    });
    expect(parts.find(({ name }) => name === 'file')).toEqual({ name: 'file', text: 'a-file', number: null });
  });
  it('keeps all figures of a value, however small', () => {
    const settings = { quantity: 'slope', readUnit: '°C' };
    const small = recorded(settings, -1.23456789e-11);
    expect(trace.value(small, { unit: '°C/s', settings })).toBe(-1.23456789e-11);
  });
  it.each([
    [{ quantity: 'halfLife' }],
    [{ timeUnit: 'min' }],
    [{ readUnit: '°F' }],
    [{ rest: 'none' }],
    [{ rest: 'fixed', restValue: 20 }],
  ])('takes no value for its own that was worked out before %j', (change) => {
    const settings: FormSettings = { ...FLASK, ...change };
    expect(trace.value(recorded(FLASK), { unit: unitOf(settings) ?? '', settings })).toBeNull();
    // What the question does not ask for makes no difference.
    expect(howText({ ...FLASK, threshold: 7, afterS: 3 })).toBe(howText(FLASK));
  });
  it('takes a value that was typed in where there is no file', () => {
    const read = trace.read({ value: '3,5' }, { unit: 'h', settings: FLASK });
    expect('parts' in read && trace.value(read.parts, { unit: 'h', settings: FLASK })).toBe(3.5);
  });
  it('refuses a band the wrong way round, where a band is asked for', () => {
    const band = { low: 60, high: 50 };
    expect(settingProblems(trace, { quantity: 'within', ...band })).toMatchObject([{ name: 'high' }]);
    expect(settingProblems(trace, { quantity: 'mean', ...band })).toEqual([]);
    expect(settingProblems(trace, { threshold: 'much' })).toMatchObject([
      { message: 'Threshold: a number.' },
    ]);
  });
  it('says of any two questions whether they are the same, in as much text as a part may hold', () => {
    const number = fc.double({ noNaN: true, noDefaultInfinity: true });
    const settings = fc.record({
      quantity: fc.constantFrom(...TRACE_QUANTITIES),
      readUnit: fc.string({ maxLength: 24 }),
      timeUnit: fc.constantFrom('s', 'min', 'h'),
      ...{ threshold: number, low: number, high: number, afterS: number, restValue: number },
      rest: fc.constantFrom('none', 'fixed', 'column'),
    });
    fc.assert(
      fc.property(settings, number, (given, other) => {
        expect(howText(given).length).toBeLessThanOrEqual(PART_TEXT_LIMIT);
        const asked = { ...given, quantity: 'timeTo' as const, threshold: other };
        expect(howText(asked) === howText({ ...asked, threshold: given.threshold })).toBe(
          traceQuestion(asked).threshold === given.threshold,
        );
      }),
    );
  });
});
