import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Factor, Level } from '../model/parts.ts';
import { newMeasurand } from '../plan/new-parts.ts';
import { testId, testStudy } from '../testing-study.ts';
import {
  type Delimiter,
  type Matching,
  type ReadingsTable,
  guessMatching,
  matchingProblem,
  packReadings,
  parseReadingsTable,
  readReadingsTable,
} from './readings-table.ts';

const NOW = '2026-05-04T10:00:00.000Z';

const tableOf = (text: string, delimiter?: Delimiter): ReadingsTable => {
  const table = parseReadingsTable(text, delimiter);
  if ('problem' in table) throw new Error(table.problem);
  return table;
};
const problemOf = (text: string, delimiter?: Delimiter): string => {
  const table = parseReadingsTable(text, delimiter);
  return 'problem' in table ? table.problem : '';
};

function study() {
  const made = testStudy(['Almo', 'Berrin'], { rounds: 3 });
  const { document } = made;
  document.measurands.push({
    ...{ id: testId(), studyId: document.study.id, version: 1, createdAt: NOW, updatedAt: NOW },
    ...newMeasurand('Change', 2),
    form: 'before-after',
    unit: 'g',
  });
  const read = (text: string, change: Partial<Matching> = {}) => {
    const table = tableOf(text);
    return readReadingsTable(document, table, { ...guessMatching(document, table), ...change });
  };
  return { ...made, readTable: read };
}

describe('a table', () => {
  it('has two columns at least, and two hundred at most', () => {
    const columns = (count: number) => {
      const cells = Array.from({ length: count }, (_, i) => `c${String(i)}`);
      return problemOf(`${cells.join(',')}\n${cells.join(',')}\n`);
    };
    expect(columns(2)).toBe('');
    expect(columns(200)).toBe('');
    expect(columns(201)).toBe('At most 200 columns can be read.');
    expect(problemOf('c1\n1\n')).toBe('Only one column was found. Is another sign between the columns?');
  });
});

describe('a long table of readings', () => {
  it('gives a reading a row, in the next rounds that are open', () => {
    const { readTable, items, measurand } = study();
    const { readings, problems } = readTable('Item,Value\nAlmo,3\nI2,4 g\nalmo,3.5\n');
    expect(problems).toEqual([]);
    expect(
      readings.map(({ itemId, measurandId, round, texts }) => [itemId, measurandId, round, texts]),
    ).toEqual([
      [items[0]?.id, measurand.id, 1, { value: '3' }],
      [items[1]?.id, measurand.id, 1, { value: '4 g' }],
      [items[0]?.id, measurand.id, 2, { value: '3.5' }],
    ]);
  });
  it('skips the rounds that are read already, and refuses one that is named twice', () => {
    const { readTable, read } = study();
    read(0, 1, '9');
    expect(readTable('Item,Value\nAlmo,3\n').readings[0]?.round).toBe(2);
    const { readings, problems } = readTable('Item,Round,Value\nAlmo,1,3\nAlmo,2,3\nAlmo,2,4\n');
    expect(readings.map(({ round, line }) => [round, line])).toEqual([[2, 3]]);
    expect(problems.map(({ line, column, message }) => [line, column, message])).toEqual([
      [2, 'Round', 'Almo has a reading of Pull in round 1 already.'],
      [4, 'Round', 'Almo has a reading of Pull in round 2 already.'],
    ]);
  });
  it('names the measurand in a column where there are several, and takes dates over', () => {
    const { readTable, document } = study();
    const outcome = readTable(
      'Sample;Quantity;Reading;Date\nAlmo;Pull;3,5;2026-05-04T10:00:00Z\nAlmo;Change;3;\nAlmo;Push;3;yesterday\n',
    );
    expect(outcome.readings).toMatchObject([
      {
        measurandId: document.measurands[0]?.id,
        takenAt: '2026-05-04T10:00:00.000Z',
        texts: { value: '3,5' },
      },
    ]);
    expect(
      outcome.problems.map(({ line, column, message }) => `${String(line)} ${column}: ${message}`),
    ).toEqual([
      '3 Reading: Change is read in several parts; give each a column of its own.',
      '4 Date: “yesterday” is no date and time such as 2026-07-04 10:30.',
      '4 Quantity: The study has no measurand “Push” to read.',
    ]);
    expect(outcome.badRows).toBe(2);
  });
});

describe('a wide table of readings', () => {
  it('has a column for each part of what is measured, and empty cells are no readings', () => {
    const { readTable, document } = study();
    const { readings, problems } = readTable(
      'Item\tPull (g)\tChange: Before\tChange: After\nAlmo\t3\t10\t12\nBerrin\t\t10\t11\n',
    );
    expect(problems).toEqual([]);
    expect(readings.map(({ measurandId, texts }) => [measurandId, texts])).toEqual([
      [document.measurands[0]?.id, { value: '3' }],
      [document.measurands[1]?.id, { before: '10', after: '12' }],
      [document.measurands[1]?.id, { before: '10', after: '11' }],
    ]);
  });
  it('marks what is too long, has the other decimal sign, or is of several parts in one column', () => {
    const { readTable } = study();
    const said = (text: string, change: Partial<Matching> = {}) =>
      readTable(text, change).problems.map(({ message }) => message);
    expect(said(`Item,Value\nAlmo,${'1'.repeat(61)}\n`)).toContain('This is too long for a reading.');
    expect(said('Item;Value\nAlmo;3.5\nBerrin;4,5\nAlmo;4,6\n', { decimal: ',' })[0]).toBe(
      '“3.5” has a decimal point, where the table has commas.',
    );
    expect(said('Item;Value\nAlmo;3,5\n', { decimal: '.' })[0]).toBe(
      '“3,5” has a decimal comma, where the table has points.',
    );
    expect(said('Item,Measurand,Value\nAlmo,Change,3\n')).toEqual([
      'Change is read in several parts; give each a column of its own.',
    ]);
    expect(said('Item,Measurand,Value\nAlmo,Nothing,3\n')[0]).toMatch(
      /^The study has no measurand “Nothing” to read\.$/,
    );
  });
  it('says how far it has come', () => {
    const { document } = study();
    const table = tableOf(`Item,Value\n${'Almo,3\n'.repeat(10001)}`);
    const shares: number[] = [];
    readReadingsTable(document, table, guessMatching(document, table), (share) => shares.push(share));
    expect(shares).toEqual([0, 5000 / 10001, 10000 / 10001, 1]);
  });
  it('marks a part that is missing', () => {
    const { readTable } = study();
    const { readings, problems } = readTable('Item\tChange: Before\tChange: After\nAlmo\t10\t\n');
    expect(readings).toEqual([]);
    expect(problems).toHaveLength(1);
  });
});

describe('a table with levels', () => {
  it('finds each by name or by number', () => {
    const { document, readTable } = study();
    const stamp = { studyId: document.study.id, version: 1, createdAt: NOW, updatedAt: NOW };
    const factor: Factor = {
      ...{ id: testId(), ...stamp, name: 'Pressure', kind: 'numeric' },
      ...{ unit: 'bar', irreversible: false, position: 1 },
    };
    const level = (name: string, value: number): Level => ({
      ...{ id: testId(), ...stamp, factorId: factor.id, name, value, baseline: false, position: value },
    });
    document.factors.push(factor);
    document.levels.push(level('low', 1), level('high', 2.5));
    const { readings, problems } = readTable('Item;Pressure;Value\nAlmo;low;3\nAlmo;2,5;4\nAlmo;9;5\n');
    expect(readings.map(({ levels }) => levels)).toEqual([
      [{ factorId: factor.id, levelId: document.levels[0]?.id }],
      [{ factorId: factor.id, levelId: document.levels[1]?.id }],
    ]);
    expect(problems.map(({ message }) => message)).toEqual(['Pressure has no level “9”.']);
    const table = tableOf('Item,Value\nAlmo,1\n');
    expect(matchingProblem(document, guessMatching(document, table))).toBe(
      'Say which column holds the level of Pressure.',
    );
  });
});

describe('a bad table', () => {
  it.each([
    ['', undefined, 'nothing to read'],
    ['\u0000\u0001', undefined, 'not text'],
    ['Item,"Value\nAlmo,3', undefined, 'Line 1: a quote is opened'],
    ['Item,Value,Value\nAlmo,3,4', undefined, '“Value” is there twice'],
    ['Item,Value\n', undefined, 'a header and no row'],
    // Ten columns with semicolons, read with commas.
    ['a;b;c;d;e;f;g;h;i;j\n1;2;3;4;5;6;7;8;9;10', ',', 'Only one column was found'],
  ] as const)('%j is refused in a sentence', (text, delimiter, problem) => {
    expect(problemOf(text, delimiter)).toContain(problem);
  });
  it('marks mixed decimal signs, unknown items, ragged and empty rows, each with its line', () => {
    const { readTable } = study();
    const { readings, problems, badRows } = readTable(
      'Item;Value\nAlmo;3,5\nBerrin;3,6\nAlmo;3.7\nCastor;3,5\nAlmo;3,5;9\nBerrin;\n;3,1\nAlmo;heavy\n',
    );
    expect(readings).toHaveLength(2);
    expect(badRows).toBe(6);
    expect(problems.map(({ line, column, message }) => `${String(line)} ${column}: ${message}`)).toEqual([
      '4 Value: “3.7” has a decimal point, where the table has commas.',
      '5 Item: The study has no item “Castor”.',
      '6 : 3 cells, where the header has 2.',
      '7 : The row holds no value.',
      '8 Item: No item is named.',
      '9 Value: “heavy” is not a number in g.',
    ]);
  });
  it('refuses a word that is one item’s name and another one’s code', () => {
    const { document, readTable } = study();
    Object.assign(document.items[1] as object, { code: 'ALMO' });
    expect(readTable('Item,Value\nAlmo,3\n').problems[0]?.message).toBe(
      '“Almo” is the name of one item and the code of another.',
    );
  });
  it('says what is missing in the matching of its columns', () => {
    const { document } = study();
    const problemOf = (roles: string[]) =>
      matchingProblem(document, { roles, valueMeasurand: '', decimal: '.' });
    expect(problemOf(['ignore', 'value'])).toBe('Say which column holds the item.');
    expect(problemOf(['item', 'ignore'])).toContain('which column holds the values');
    expect(problemOf(['item', 'item'])).toBe('Two columns are said to hold the same.');
    expect(problemOf(['item', 'measurand', 'part/x/y'])).toContain('none holds the value');
    expect(problemOf(['item', 'value'])).toBe('Say which measurand the values are of.');
  });
  it('counts lines as an editor does, with quoted line breaks inside', () => {
    const { readTable } = study();
    const { problems } = readTable('# made elsewhere\nItem,Value,Note\nAlmo,3,"two\nlines"\nBerrin,x,\n');
    expect(problems.map(({ line }) => line)).toEqual([5]);
  });
  it('never throws', () => {
    const { document } = study();
    fc.assert(
      fc.property(fc.string({ maxLength: 120 }), (text) => {
        const table = parseReadingsTable(`Item,Value\n${text}`);
        if ('problem' in table) return;
        const { readings, badRows } = readReadingsTable(document, table, guessMatching(document, table));
        expect(readings.length + badRows).toBeGreaterThanOrEqual(table.rows.length);
      }),
      { numRuns: 300 },
    );
  });
});

describe('readings that are sent', () => {
  it('name each item, measurand and setting once', () => {
    const { readTable } = study();
    const { readings } = readTable('Item,Value\nAlmo,3\nBerrin,4\nAlmo,5\n');
    const packed = packReadings(readings);
    expect(packed.items).toHaveLength(2);
    expect(packed.measurands).toHaveLength(1);
    expect(packed.settings).toEqual([[]]);
    expect(packed.rows.map(({ item, round, texts }) => [item, round, texts.value])).toEqual([
      [0, 1, '3'],
      [1, 1, '4'],
      [0, 2, '5'],
    ]);
  });
});
