import { describe, expect, it } from 'vitest';
import { spanText } from './clock.ts';
import { parseRange } from './parse-range.ts';
import { parseQuantity } from './parse.ts';
import { convert, knownUnit, unitText } from './units.ts';

describe('a length of time', () => {
  it.each([
    [0, '0:00:00'],
    [-0.0004, '0:00:00'],
    [-0.001, '-0:00:00.001'],
    [9, '0:00:09'],
    [59.9999, '0:01:00'],
    [3599.5, '0:59:59.5'],
    [-8040, '-2:14:00'],
  ])('%d s as a span is %s', (seconds, text) => {
    expect(spanText(seconds)).toBe(text);
  });
});

describe('a range', () => {
  it('may begin where it ends, and not behind that', () => {
    expect(parseRange('3 to 3', 'g')).toEqual({ low: 3, high: 3 });
    expect(parseRange('3.1 to 3', 'g')).toHaveProperty('problem');
    expect(parseRange('2 – 3 kg', 'g')).toEqual({ low: 2, high: 3000 });
  });
});

describe('a number with groups', () => {
  it.each<[string, number | undefined]>([
    ['1,234.5', 1234.5],
    ['1.234,5', 1234.5],
    ['-12,345,678.9', -12345678.9],
    ['123,456.7', 123456.7],
    ['1234,567.8', undefined],
    [',123.4', undefined],
    ['1,23.4', undefined],
    ['1,2345.6', undefined],
    ['1.2.3', undefined],
    ['1,5', 1.5],
  ])('%s', (text, number) => {
    const read = parseQuantity(text, 'g');
    expect('number' in read ? read.number : undefined).toBe(number);
  });
});

describe('a unit with powers', () => {
  it.each([
    ['m^-2', '1/m^2'],
    ['m/s^2', 'm/s^2'],
    ['s^-1', '1/s'],
    ['kg m^2/s^3', 'kg m^2/s^3'],
    ['W/(m^2 K)', 'W/(m^2 K)'],
  ])('%s is written %s', (written, text) => {
    const unit = knownUnit(written);
    expect(unit && unitText(unit)).toBe(text);
  });
  it('is converted by them', () => {
    expect(convert(1, 'cm^-2', 'm^-2')).toBeCloseTo(1e4, 6);
    expect(convert(1, '1/cm^2', 'm^-2')).toBeCloseTo(1e4, 6);
    expect(convert(1, 'm^9', 'cm^9')).toBeCloseTo(1e18, -6);
    for (const none of ['m^0', 'm^10', 'm^-10', 'm^x', '2 m']) expect(knownUnit(none)).toBeUndefined();
  });
});
