import { describe, expect, it } from 'vitest';
import { CLOSE, expectRelative } from '../testing.ts';
import { anyUnit, convert, isTime, knownUnit, unitText } from './units.ts';
import { parseQuantity } from './parse.ts';
import { libraryWord, unitTable } from './unit-library.ts';
import { unitWord } from './unit-words.ts';

describe('a word of a unit', () => {
  it('is in the table what it is in the library, with every prefix', () => {
    const { prefixes, units } = unitTable();
    const words = units.flatMap(([name, , , , set]) =>
      Object.keys(prefixes[set] ?? {}).map((prefix) => prefix + name),
    );
    expect(words.length).toBeGreaterThan(2000);
    for (const word of words) {
      const { factor, zero, dimension } = libraryWord(word) ?? {};
      expect([word, unitWord(word)]).toEqual([word, { factor, zero, dimension }]);
    }
  });
  it.each(['wobble', 'kft', 'm^2', 'm s', ' m', 'kkm', '', '5 m', 'constructorm', 'toString'])(
    'is none in “%s”',
    (word) => {
      expect(unitWord(word)).toBeUndefined();
    },
  );
});

describe('conversions', () => {
  // NIST Special Publication 811 (2008), appendix B.8, to the seven figures that it prints.
  it.each([
    ['ft', 'm', 0.3048],
    ['in', 'm', 0.0254],
    ['mi', 'm', 1609.344],
    ['mph', 'm/s', 0.44704],
    ['ft/min', 'm/s', 0.00508],
    ['gal', 'm^3', 0.003785412],
    ['gal (US)', 'L', 3.785412],
    ['gpm', 'L/min', 3.785412],
    ['ft³/min', 'm³/s', 0.0004719474],
    ['lb', 'kg', 0.4535924],
    ['oz', 'kg', 0.02834952],
    ['grain', 'mg', 64.79891],
    ['lbf', 'N', 4.448222],
    ['ozf', 'N', 0.2780139],
    ['kgf', 'N', 9.80665],
    ['psi', 'Pa', 6894.757],
    ['psi', 'kPa', 6.894757],
    ['inHg', 'kPa', 3.386389],
    ['mmHg', 'Pa', 133.3224],
    ['bar', 'kPa', 100],
    ['kn·m/s', 'm/s', undefined],
  ])('1 %s in %s is %d', (from, to, expected) => {
    const found = convert(1, from, to);
    if (expected === undefined) expect(found).toBeUndefined();
    else expectRelative(found, expected, 2e-7);
  });

  it('takes the zero of a temperature along', () => {
    expectRelative(convert(212, '°F', '°C'), 100, CLOSE);
    expectRelative(convert(32, 'degF', 'K'), 273.15, CLOSE);
    expectRelative(convert(-40, '°C', '°F'), -40, CLOSE);
  });

  it('leaves words alone that are no units, and what does not measure the same', () => {
    expect(convert(1, 'points', 'm')).toBeUndefined();
    expect(convert(1, 's', 'm')).toBeUndefined();
    expect(convert(1, 'constructor', 'm')).toBeUndefined();
    expect(convert(1, '(((((', 'm')).toBeUndefined();
    expect(isTime('min')).toBe(true);
    expect(isTime('m')).toBe(false);
  });
});

describe('what people write', () => {
  const number = (text: string, unit: string) => {
    const understood = parseQuantity(text, unit);
    return 'number' in understood ? understood.number : understood.problem;
  };

  it.each([
    ['4:18.6', 's', 258.6],
    ['1:02:03', 's', 3723],
    ['4:18,6', 'min', 4.31],
    ['1/4', 'in', 0.25],
    ['2 5/8 in', 'mm', 66.675],
    ['2 5/8', 'in', 2.625],
    ['-1 1/2', '', -1.5],
    ['2½ in', 'mm', 63.5],
    ['12,5', 'm/s', 12.5],
    ['−23 dB', 'dB', -23],
    ['-23dB', 'dB', -23],
    ['1.2k', 'Pa', 1200],
    ['1.2 k', '', 1200],
    ['1.2 kPa', 'Pa', 1200],
    ['0.5 L', 'mL', 500],
    ['72 F', '°C', 22.2222222222],
    ['25 °C', '°C', 25],
    ['30 psi', 'kPa', 206.842718795],
    ['10 gal/min', 'L/min', 37.85411784],
    ['90 min', 'h', 1.5],
    ['1.5e3', 'g', 1500],
    ['5 %', '%', 5],
  ])('“%s” where %s is wanted is %d', (text, unit, expected) => {
    expectRelative(number(text, unit) as number, expected, 1e-9);
  });

  it.each([
    ['1/0', 'mm', '“1/0” divides by zero.'],
    ['4:75', 's', '“4:75” has more than 59 seconds behind the colon.'],
    ['1:75:00', 's', '“1:75:00” has more than 59 minutes.'],
    ['4:18', 'W', '“4:18” is a time; a number in W is wanted.'],
    ['5 s', 'm', '“5 s” cannot be turned into m.'],
    ['5 m', '', '“5 m” has the unit m, and this is measured without a unit.'],
    ['5 wobbles', 'm', '“5 wobbles” is not a number in m.'],
    ['1//4', 'mm', '“1//4” is not a number in mm.'],
    ['12.5.1', 'mm', '“12.5.1” is not a number in mm.'],
    ['1e999', 'mm', '“1e999” is too large a number.'],
    ['--5', 'mm', '“--5” is not a number in mm.'],
  ])('“%s” where %s is wanted is refused in words', (text, unit, problem) => {
    expect(number(text, unit)).toBe(problem);
  });

  it('tells a number as it stands from one that was worked out', () => {
    expect(parseQuantity('12,5 m/s', 'm/s')).toEqual({ number: 12.5, plain: true });
    expect(parseQuantity('1/4', 'in')).toEqual({ number: 0.25, plain: false });
    expect(parseQuantity('1 ft', 'in')).toEqual({ number: 12, plain: false });
  });
});

describe('a unit that is made of others', () => {
  it.each([
    ['m/(s W)', 'm/(s W)'],
    ['m / s / W', 'm/(s W)'],
    ['m·s^-1', 'm/s'],
    ['1/s', '1/s'],
    ['s^-1', '1/s'],
    ['m^2 m', 'm^3'],
    ['(m/s)^2', 'm^2/s^2'],
    ['kg (m/s)', 'kg m/s'],
    ['EUR/kg', 'EUR/kg'],
  ])('%s is read, and written as %s', (written, text) => {
    expect(unitText(anyUnit(written))).toBe(text);
  });
  it.each(['2 m', 'm^0', 'm^10', 'm^s', 'm+s', 'm-s', 'm/m', '-m', 'm^', 'x'.repeat(200)])(
    '“%s” is none',
    (written) => {
      expect(knownUnit(written)).toBeUndefined();
    },
  );
  it('measures what it is made of, and one of the tester’s own itself', () => {
    expect(convert(1, 'm/s', 'km/h')).toBeCloseTo(3.6, 12);
    expect(convert(3, ' points ', 'points')).toBe(3);
    expect(convert(3, 'points', 'marks')).toBeUndefined();
    expect(convert(1e308, 'km', 'nm')).toBeUndefined();
    expect([isTime('min'), isTime('m'), isTime('points')]).toEqual([true, false, false]);
  });
});
