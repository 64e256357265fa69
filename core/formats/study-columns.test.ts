import { describe, expect, it } from 'vitest';
import { parseReadingsTable } from './readings-table.ts';
import {
  type StudyColumn,
  type StudyMatching,
  datesOf,
  guessStudyMatching,
  headOf,
  studyMatchingProblem,
  yearFirst,
} from './study-columns.ts';

const rolesOf = (...lines: string[]): StudyColumn[] => {
  const table = parseReadingsTable(lines.join('\n'));
  if ('problem' in table) throw new Error(table.problem);
  return guessStudyMatching(table).roles;
};

describe('the head of a column', () => {
  it.each([
    ['Speed (m/s)', 'Speed', 'm/s'],
    ['Speed [km/h]', 'Speed', 'km/h'],
    ['Level dB(A)', 'Level dB(A)', ''],
    ['Level, dB(A)', 'Level', 'dB(A)'],
    ['Speed, m/s', 'Speed', 'm/s'],
    ['Speed in m/s', 'Speed', 'm/s'],
    ['Speed in autumn', 'Speed in autumn', ''],
    ['(m/s)', '(m/s)', ''],
    [' Speed ', 'Speed', ''],
  ])('“%s” is %s in “%s”', (column, name, unit) => {
    expect(headOf(column)).toEqual({ name, unit });
  });
});

describe('what the columns of a table hold', () => {
  it('is what their names say, each that there is once the first time', () => {
    expect(rolesOf('Model,Name,Run,Trial,Speed', 'Ama,x,1,9,3', 'Bel,y,1,9,4')).toEqual([
      'item',
      'level',
      'round',
      'readings',
      'readings',
    ]);
  });
  it('is a length of time where a clock has a unit, and words where a price has none', () => {
    expect(rolesOf('Model,Time (s),Price', 'Ama,3,dear', 'Bel,4,cheap')).toEqual([
      'item',
      'readings',
      'level',
    ]);
  });
  it('is an attribute where it is the same for an item, a reading where it is not', () => {
    expect(rolesOf('Model,Power (W),Speed', 'Ama,30,3', 'Ama,30,4', 'Bel,20,4')[1]).toBe('attribute');
    expect(rolesOf('Model,Power (W),Speed', 'Ama,30,3', 'Ama,31,4', 'Bel,20,4')[1]).toBe('readings');
    // Said once for each, it may be either: each was read once.
    expect(rolesOf('Model,Power (W),Speed', 'Ama,30,3', 'Bel,20,4')[1]).toBe('readings');
    expect(rolesOf('Model,Power (W),Speed', 'Ama,30,3', 'ama,,4', 'AMA ,30,4', 'Bel,20,4')[1]).toBe(
      'attribute',
    );
  });
  it('is a level where a quantity was set for several items, a condition where it was noted', () => {
    const rows = ['Ama,1,3', 'Bel,1,4', 'Ama,2,3', 'Bel,2,4'];
    expect(rolesOf('Model,Pressure (bar),Speed', ...rows)[1]).toBe('level');
    expect(rolesOf('Model,Air pressure (bar),Speed', ...rows)[1]).toBe('condition');
    expect(rolesOf('Model,Pressure (bar),Speed', 'Ama,1,3', 'Bel,2,4', 'Ama,3,3')[1]).toBe('condition');
    expect(rolesOf('Model,Pressure (bar),Speed', 'Ama,1,3', 'Bel,1,4')[1]).toBe('condition');
  });
  it('is an item in each column of figures where none names the item', () => {
    expect(rolesOf('Round,Ama,Bel', '1,3,4', '2,3,4')).toEqual([
      'round',
      'readings-of-item',
      'readings-of-item',
    ]);
    expect(rolesOf('Round,,Bel', '1,3,4', '2,3,4')).toEqual(['round', 'ignore', 'readings-of-item']);
  });
  it('is one column of readings where a column names the measurand', () => {
    expect(rolesOf('Item,Quantity,Value,Other', 'Ama,Speed,3,1', 'Ama,Noise,4,2')).toEqual([
      'item',
      'measurand',
      'readings',
      'ignore',
    ]);
  });
  it('is the item in the first column of words, and no level in one of many words', () => {
    const many = Array.from({ length: 40 }, (_, i) => `Item ${String(i % 2)},word ${String(i)},${String(i)}`);
    expect(rolesOf('Thing,Remark,Speed', ...many)).toEqual(['item', 'ignore', 'readings']);
    const few = Array.from(
      { length: 40 },
      (_, i) => `Item ${String(i % 2)},word ${String(i % 12)},${String(i)}`,
    );
    expect(rolesOf('Thing,Remark,Speed', ...few)).toEqual(['item', 'level', 'readings']);
  });
});

describe('dates with the year last', () => {
  it.each<[string[], StudyMatching['dates']]>([
    [['13/05/2026'], 'day'],
    [['12/05/2026'], undefined],
    [['05/13/2026', '05/01/2026'], 'month'],
    [['05/12/2026'], undefined],
    [['05.12.2026'], 'day'],
    [['2026-05-04'], undefined],
    [['05/04/20261'], undefined],
  ])('%o begin with the %s', (cells, first) => {
    expect(datesOf(cells)).toBe(first);
  });
  it('are written with the year first', () => {
    expect(yearFirst('04/05/2026 10:00', 'day')).toBe('2026-05-04 10:00');
    expect(yearFirst('04/05/2026', 'month')).toBe('2026-04-05');
    expect(yearFirst('04/05/2026', undefined)).toBe('04/05/2026');
  });
});

describe('columns that make no study', () => {
  const wrong = (...roles: StudyColumn[]) =>
    studyMatchingProblem({ roles, measurand: 'Speed' } as unknown as StudyMatching);
  it.each<[StudyColumn[], RegExp | undefined]>([
    [['item', 'readings'], undefined],
    [['item', 'readings', 'readings', 'level', 'level', 'attribute'], undefined],
    [['readings-of-item', 'readings-of-item'], undefined],
    [['item', 'item', 'readings'], /^Two columns are said to hold the item\.$/],
    [['item', 'round', 'round', 'readings'], /hold the round\.$/],
    [['item', 'date', 'date', 'readings'], /hold the date\.$/],
    [['readings'], /^Say which column holds the item/],
    [['item', 'readings-of-item'], /not both\.$/],
    [['readings-of-item', 'readings'], /no other column holds readings\.$/],
    [['item'], /^Say which columns hold readings\.$/],
    [['item', 'measurand', 'readings', 'readings'], /one column holds the readings\.$/],
    [['item', 'measurand', 'readings'], undefined],
    [['readings-of-item', 'attribute'], /^Attributes need a column/],
    [['item', 'readings', 'moment', 'clock'], /^Date and time are in one column, or in two/],
    [['item', 'readings', 'moment', 'date'], /^Date and time are in one column, or in two/],
    [['item', 'readings', 'moment'], undefined],
    [['item', 'readings', 'clock'], /^A time of day needs/],
    [['item', 'readings', 'clock', 'date'], undefined],
  ])('%o', (roles, problem) => {
    const found = wrong(...roles);
    if (problem === undefined) expect(found).toBeUndefined();
    else expect(found).toMatch(problem);
  });
  it('ask what was read, where each column is an item', () => {
    const roles: StudyColumn[] = ['readings-of-item'];
    expect(studyMatchingProblem({ roles, measurand: ' ' } as unknown as StudyMatching)).toBe(
      'Say what was read.',
    );
  });
});
