import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  counted,
  decimalsFor,
  decimalsOf,
  formatChance,
  formatNumber,
  formatPlain,
  formatShare,
  listed,
  readingWords,
  withUnit,
  quoted,
  wordFor,
} from './format.ts';
import { parseQuantity } from './parse.ts';

describe('what people write', () => {
  it.each([
    ['3.42', 3.42],
    ['12,5', 12.5],
    [' 7 ', 7],
    ['.5', 0.5],
    ['5.', 5],
    ['-23', -23],
    ['\u221223', -23],
    ['+4', 4],
    ['1 234.5', 1234.5],
    ['1\u202f234,5', 1234.5],
    ['1,234.5', 1234.5],
    ['1.234,5', 1234.5],
    ['2e3', 2000],
    ['3.42 m/s', 3.42],
    ['3.42m/s', 3.42],
    ['-0', 0],
  ])('understands “%s”', (text, number) => {
    expect(parseQuantity(text, 'm/s')).toEqual({ number, plain: true });
  });
  it.each([
    '',
    'abc',
    'NaN',
    'Infinity',
    '1e999',
    '3..4',
    '3.4.5',
    '1,2,3',
    '1,23.4',
    '1234,567.8',
    ',567.8',
    '12 kg',
    '0x10',
    '--3',
    '3-4',
    'm/s',
    '1e99999',
  ])('refuses “%s” with a sentence', (text) => {
    const understood = parseQuantity(text, 'm/s');
    expect(understood).toHaveProperty('problem');
    expect('problem' in understood && understood.problem.endsWith('.')).toBe(true);
  });
  it('never throws and never gives a number that is not finite', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 40 }), (text) => {
        const understood = parseQuantity(text, 'm/s');
        expect('problem' in understood || Number.isFinite(understood.number)).toBe(true);
      }),
    );
  });
  it('understands an ordinary number the same with a space around it, which takes the long way', () => {
    const digits = fc.stringMatching(/^[-+]?\d{0,17}([.,]\d{0,17})?(e\d)?$/);
    fc.assert(
      fc.property(digits, fc.constantFrom('', 'm/s', 'g', 'x2'), (text, unit) => {
        const [bare, other] = [parseQuantity(text, unit), parseQuantity(` ${text} `, unit)];
        expect(bare).toEqual(other);
      }),
      { numRuns: 1000 },
    );
  });
  it('reads back what it prints', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -99999999, max: 99999999 }),
        fc.integer({ min: 0, max: 6 }),
        (whole, power) => {
          const value = whole / 10 ** power;
          expect(parseQuantity(formatPlain(value), 'g')).toEqual({
            number: value === 0 ? 0 : value,
            plain: true,
          });
        },
      ),
    );
  });
});

describe('numbers as text', () => {
  it('have a real minus sign and thin spaces', () => {
    expect(formatNumber(-1234567.891, 2)).toBe('\u22121\u202f234\u202f567.89');
    expect(formatNumber(1234.5, 1)).toBe('1234.5');
    expect(formatNumber(-0.001, 2)).toBe('0.00');
    expect(formatNumber(1.5e15, 0)).toBe('1.500e15');
    expect(withUnit('3.4', 'm/s')).toBe('3.4\u202fm/s');
    expect(withUnit('3', '')).toBe('3');
  });
  it('follow the locale’s decimal sign', () => {
    expect(formatNumber(3.42, 2, 'de')).toBe('3,42');
  });
  it('carry two figures of their uncertainty', () => {
    // GUM, JCGM 100:2008, 7.2.6.
    expect(decimalsFor(0.0374)).toBe(3);
    expect(decimalsFor(0.0996)).toBe(2);
    expect(decimalsFor(3.2)).toBe(1);
    expect(decimalsFor(250)).toBe(0);
    expect(decimalsFor(0)).toBe(0);
    expect(decimalsFor(Number.NaN)).toBe(0);
  });
  it('have the decimals that they were given', () => {
    expect(decimalsOf(3.42)).toBe(2);
    expect(decimalsOf(0.1 + 0.2)).toBe(1);
    expect(decimalsOf(1e-7)).toBe(7);
    expect(decimalsOf(120)).toBe(0);
    // Behind the twelfth figure nothing was given.
    expect(decimalsOf(3.00000000001)).toBe(9);
    expect(decimalsOf(3.000000000001)).toBe(0);
  });
  it('claim no false certainty of a share', () => {
    expect(formatShare(0.9996)).toBe('>\u202f99\u202f%');
    expect(formatShare(0.0004)).toBe('<\u202f1\u202f%');
    expect(formatShare(1)).toBe('100\u202f%');
    expect(formatShare(0.5)).toBe('50\u202f%');
  });
  it('stand in sentences', () => {
    expect(listed(['A'])).toBe('A');
    expect(listed(['A', 'B'])).toBe('A and B');
    expect(listed(['A', 'B', 'C'])).toBe('A, B and C');
    expect(listed([])).toBe('');
    expect(counted(1, 'reading')).toBe('1 reading');
    expect(counted(2, 'reading is', 'readings are')).toBe('2 readings are');
    expect([quoted('a'.repeat(40)), quoted('b'.repeat(41))]).toEqual([
      `“${'a'.repeat(40)}”`,
      `“${'b'.repeat(40)}…”`,
    ]);
    expect([0, 1, 2].map((count) => wordFor(count, 'is', 'are'))).toEqual(['are', 'is', 'are']);
  });
});

describe('a reading as it is shown', () => {
  it.each([
    [258.6, '4:18.6', 's', '4:18.6'],
    [3723, '1:02:03', 's', '1:02:03'],
    [258.6, '258.6', 's', withUnit('258.6', 's')],
    [4.31, '4.31', 'm/s', withUnit('4.31', 'm/s')],
    [2.625, '2 5/8', 'in', withUnit('2.625', 'in')],
    [null, '4:18', 's', 'no number'],
  ])('%s, typed as “%s” in %s, is %s', (value, text, unit, shown) => {
    expect(readingWords({ value, parts: [{ text }] }, unit)).toBe(shown);
  });
});

describe('a share as it is printed', () => {
  it('is never certain where it was drawn, and may be where it was counted', () => {
    const printed = (share: number) =>
      [formatShare(share), formatChance(share)].map((text) => text.replaceAll('\u202f', ' '));
    expect(printed(0)).toEqual(['0 %', '< 1 %']);
    expect(printed(0.0099)).toEqual(['< 1 %', '< 1 %']);
    expect(printed(0.01)).toEqual(['1 %', '1 %']);
    expect(printed(0.99)).toEqual(['99 %', '99 %']);
    expect(printed(0.9901)).toEqual(['> 99 %', '> 99 %']);
    expect(printed(1)).toEqual(['100 %', '> 99 %']);
  });
});

describe('a reading as it is shown', () => {
  it('is its time as it was typed, else its value; what was set right is no more as typed', () => {
    const shown = (value: number | null, text: string, unit: string, read?: number) =>
      readingWords({ value, parts: [{ text }], ...(read === undefined ? {} : { read }) }, unit).replaceAll(
        '\u202f',
        ' ',
      );
    expect(shown(258.6, ' 4:18.6 ', 's')).toBe('4:18.6');
    expect(shown(258.6, '4:18.6', 's', 258.6)).toBe('4:18.6');
    expect(shown(257.1, '4:18.6', 's', 258.6)).toBe('257.1 s');
    expect(shown(3, '3', 'g')).toBe('3 g');
    expect(shown(null, 'x', 'g')).toBe('no number');
  });
});
