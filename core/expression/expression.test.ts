import { describe, expect, it } from 'vitest';
import type { Measurand } from '../model/parts.ts';
import { testId, testStudy } from '../testing-study.ts';
import { expectRelative } from '../testing.ts';
import { readExpression } from './expression.ts';
import { type StudyName, identifierOf, studyNames } from './names.ts';

const name = (identifier: string, unit: string): StudyName => ({
  identifier,
  unit,
  name: identifier,
  kind: 'measurand',
  id: identifier,
});
const NAMES = [
  name('air_speed', 'm/s'),
  name('power', 'W'),
  name('price', 'EUR'),
  name('pack', 'g'),
  name('indicated', '°C'),
  name('room', '°F'),
  name('length', 'mm'),
  name('time', 's'),
  name('humidity', '%'),
  name('pull', 'gf'),
  name('kelvins', 'K'),
];
const VALUES = new Map([
  ['air_speed', 3.6],
  ['power', 40],
  ['price', 12],
  ['pack', 500],
  ['indicated', 68],
  ['room', 68],
  ['length', 250],
  ['time', 5],
  ['humidity', 40],
  ['pull', 0],
  ['kelvins', 293],
]);

function worked(text: string, unit: string): number | string {
  const read = readExpression(text, NAMES, unit);
  if ('problem' in read) return read.problem;
  const found = read.work(VALUES);
  return 'problem' in found ? found.problem : found.number;
}

describe('a derived measurand', () => {
  it.each([
    ['air_speed / power', 'm/s/W', 0.09],
    ['air_speed / power', 'mm/s/W', 90],
    ['price / pack', 'EUR/kg', 24],
    ['indicated - room', '°C', 48], // 68 °F is 20 °C
    ['indicated - room', '°F', 86.4],
    ['length / time', 'm/s', 0.05],
    ['length ^ 2', 'cm^2', 625],
    ['sqrt(length * length)', 'm', 0.25],
    ['power * humidity', 'W', 16],
    ['max(length, air_speed * time)', 'm', 18],
    ['2 * (3 + 4)', '', 14],
    ['-2 ^ 2', '', -4],
    ['(-2) ^ 2', '', 4],
    ['2 ^ 3 ^ 2', '', 512],
    ['2 ^ -1', '', 0.5],
    ['8 - 2 - 1', '', 5],
    ['(length)^(1 + 1)', 'cm^2', 625],
    ['if(air_speed > 12 * length / time, power, -power)', 'W', 40],
    ['if(indicated <= room, 1, 0)', '', 0],
    ['if(length ≥ time * air_speed, length, time * air_speed)', 'm', 18],
    ['if(length / length == 1, 2, 3)', '', 2],
    ['if(0.1 + 0.2 != 0.3, 2, 3)', '', 3],
    // A plain figure beside a value is in its unit.
    ['if(power > 30, air_speed, 0)', 'm/s', 3.6],
    ['if(power > 50, air_speed, 0)', 'm/s', 0],
    ['if(200 < length, 1, 2)', '', 1],
    ['max(length, 300)', 'mm', 300],
    ['min(length, 300, 275)', 'mm', 250],
    ['min(length)', 'mm', 250],
    ['+length', 'mm', 250],
    ['kelvins + 1 * kelvins', 'K', 586],
    ['exp(log(2))', '', 2],
    ['humidity', '%', 40],
    ['length / length', '%', 100],
    ['if(room >= 68, 1, 2)', '', 1],
    ['if(indicated > 68.5, 1, 2)', '', 2],
    ['if(humidity == 40, 1, 2)', '', 1],
    ['if(length / time < 60, 1, 2)', '', 1],
    ['if(length / time < 40, 1, 2)', '', 2],
    ['-abs(-length)', 'mm', -250],
    ['log10(length / length * 100)', '', 2],
    ['air_speed × time − length', 'm', 17.75],
  ])('%s in %s is %d', (text, unit, expected) => {
    expectRelative(worked(text, unit) as number, expected, 1e-9);
  });

  it.each([
    ['length + time', 'm', '“length + time”: mm and s cannot be added.'],
    ['length - 1', 'm', '“length - 1”: mm and a plain number cannot be subtracted.'],
    ['min(length, time)', 'm', '“min(length, time)”: min does not take mm and s.'],
    ['max()', '', '“max” takes at least one value.'],
    ['abs(1, 2)', '', '“abs” takes one value.'],
    ['if(length, 2, 3)', '', '“if” asks something first: a comparison, such as speed > 5.'],
    ['-(1 < 2)', '', '“-(1 < 2)” is yes or no, not a number.'],
    ['2 * 3', 'm', '“2 * 3” gives a plain number, not m.'],
    ['length', '%', '“length” gives mm, which cannot be told in %.'],
    ['length / time', 'kg', '“length / time” gives mm/s, which cannot be told in kg.'],
    ['air_sped / power', '', 'There is no “air_sped” in this study.'],
    ['length / pull', 'mm/gf', '“length / pull” divides by zero or grows too large.'],
    ['sqrt(0 - 1)', '', '“sqrt(0 - 1)” has no real value.'],
    ['log(length)', '', '“log(length)”: log does not take mm.'],
    ['length', '', undefined],
    ['', '', 'Type an expression, such as air_speed / power.'],
    [
      'import(power)',
      '',
      'There is no function “import”; there are abs, sqrt, min, max, exp, log, log10, if.',
    ],
    ['length.constructor', '', '“length.constructor” is more than arithmetic.'],
    ['power = 3', '', 'This cannot be read: Unexpected "=" at character 6.'],
    ['f(x) = f(x)', '', 'This cannot be read: Unexpected "=" at character 5.'],
    ['[length, time]', '', '“[length, time]” is more than arithmetic.'],
    ['length > time', '', '“length > time”: mm and s cannot be compared.'],
    ['length > 2 * length', '', '“length > 2 * length” is yes or no, not a number.'],
    ['1 < 2 < 3', '', '“1 < 2 < 3” is yes or no, not a number.'],
    ['if(1, 2, 3)', '', '“if” asks something first: a comparison, such as speed > 5.'],
    ['if(1 > 2, 3)', '', '“if” takes a comparison and two values, such as if(speed > 5, speed, 0).'],
    ['if(1 > 2, time, power)', 's', '“if(1 > 2, time, power)”: s and W cannot stand for each other.'],
    ['length ^ air_speed', 'm', '“length ^ air_speed”: mm and m/s cannot be raised.'],
    ['length ^ humidity', 'm', '“length ^ humidity”: mm can be raised to a plain figure only.'],
    ['NaN', '', 'There is no “NaN” in this study.'],
    ['Infinity', '', 'There is no “Infinity” in this study.'],
    ['1e999', '', '“1e999” is no number.'],
    ['"x"', '', '“"x"” is no number.'],
    ['this', '', '“this” is more than arithmetic.'],
    ['2 (3 + 4)', '', 'Put a sign between “2” and “(3 + 4)”.'],
    ['5 mm', '', 'Put a sign between “5” and “mm”.'],
    ['sqrt()', '', '“sqrt” takes one value.'],
    [
      `${'('.repeat(1000)}1${')'.repeat(1000)}`,
      '',
      'An expression has at most 500 characters; this has 2001.',
    ],
    [`${'('.repeat(100)}1${')'.repeat(100)}`, '', 'The brackets go deeper than 40.'],
    [Array(150).fill('1').join('+'), '', 'There are more than 200 terms.'],
  ])('%s in %s is refused in words', (text, unit, problem) => {
    const found = worked(text, unit);
    if (problem === undefined) expect(found).toBe('“length” gives mm, which cannot be told in no unit.');
    else expect(found).toBe(problem);
  });

  it('tells what cannot be read', () => {
    expect(worked('3 +', '')).toBe('This cannot be read: Expected expression after + at character 3.');
    // Brackets beside each other are not deep.
    expect(worked(Array.from({ length: 60 }, () => '(1)').join(' + '), '')).toBe(60);
    expect(worked('1/0', '')).toBe('“1 / 0” divides by zero or grows too large.');
    expect(worked('3/1', '')).toBe(3);
  });

  it('says which unit it comes to', () => {
    expect(readExpression('air_speed / power', NAMES)).toMatchObject({ unit: 'm/(s W)' });
    expect(readExpression('price / pack', NAMES, 'EUR/g')).toMatchObject({ unit: 'EUR/g' });
    // What it comes to can be asked for again in those words.
    expect(readExpression('price / air_speed', NAMES)).toMatchObject({ unit: 'EUR s/m' });
    expect(worked('price / air_speed', 'EUR s/m')).toBeCloseTo(12 / 3.6, 9);
    expect(worked('price / (air_speed * power)', 'EUR s/(m W)')).toBeCloseTo(12 / 144, 9);
  });
});

describe('a name in an expression', () => {
  it.each([
    ['Air speed, 1 m', 'air_speed_1_m'],
    ['5 bar run', 'n5_bar_run'],
    ['Öltemperatur', 'öltemperatur'],
    ['温度', undefined],
    ['///', undefined],
  ])('“%s” is written %s', (text, identifier) => {
    expect(identifierOf(text)).toBe(identifier);
  });
  it('is counted on where another is written the same, and named by its kind where it cannot be written', () => {
    const document = structuredClone(testStudy(['Ama']).document);
    const [first] = document.measurands;
    document.measurands = ['Pull', 'pull!', 'PULL', '温度'].map((called) => ({
      ...(first as Measurand),
      id: testId(),
      name: called,
    }));
    expect(studyNames(document).map(({ identifier }) => identifier)).toEqual([
      ...['pull', 'pull_2', 'pull_3', 'measurand4'],
    ]);
  });
});

describe('units of the tester’s own', () => {
  it('are never used up, however many there were', () => {
    const worth = (unit: string) =>
      readExpression('price / mass', [
        { identifier: 'price', name: 'Price', kind: 'attribute', unit, id: 'Price' },
        { identifier: 'mass', name: 'Mass', kind: 'attribute', unit: 'kg', id: 'Mass' },
      ]);
    for (let i = 0; i < 900; i += 1) {
      const coin = `coin${[...String(i)].map((digit) => 'abcdefghij'[Number(digit)] ?? '').join('')}`;
      expect(worth(coin)).toMatchObject({ unit: `${coin}/kg` });
    }
    const early = worth('coina');
    expect(
      'work' in early &&
        early.work(
          new Map([
            ['price', 6],
            ['mass', 2],
          ]),
        ),
    ).toEqual({ number: 3 });
  });
});
