import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { analyseStudy } from '../analysis/analyse-study.ts';
import type { StudyDocument } from '../model/study-document.ts';
import { parseReadingsTable } from './readings-table.ts';
import { documentProblems } from './study-json.ts';
import { type StudyMatching, guessStudyMatching, headOf, studyMatchingProblem } from './study-columns.ts';
import { studyFromTable } from './study-table.ts';

function context() {
  let made = 0;
  return {
    ...{ title: 'From a table', seed: 1, now: '2026-11-26T00:00:00.000Z' },
    newId: () => {
      made += 1;
      return `01900000-0000-7000-8000-${String(made).padStart(12, '0')}`;
    },
  };
}

function read(text: string, change: Partial<StudyMatching> = {}) {
  const table = parseReadingsTable(text);
  if ('problem' in table) throw new Error(table.problem);
  const matching = { ...guessStudyMatching(table), ...change };
  const outcome = studyFromTable(table, matching, context());
  return { matching, ...outcome, document: outcome.document as StudyDocument };
}

const texts = ({ readings }: StudyDocument) => readings.map(({ parts }) => parts[0]?.text);
const rounds = ({ readings }: StudyDocument) => readings.map(({ round }) => round);

const LONG = `Model,Speed (m/s),Price (EUR),Air temp (°C),Date,Time
Ama,3.1,30,20.5,2026-05-04,10:30
Bel,3.4,40,20.5,2026-05-04,10:32
ama,3.2,30,21,2026-05-04,10:35
Bel,x,40,21,2026-05-04,10:36
Bel,,40,21,2026-05-05,10:36
Ama,3.0,30,21,2026-05-05,10:35
`;

describe('the readings of a table', () => {
  const when = (...clocks: string[]) =>
    ['Model,Speed (m/s),Date,Time', ...clocks.map((clock, i) => `Ama,${String(i)},2026-05-04,${clock}`)].join(
      '\n',
    );
  it('are in the order of their time, where each has one', () => {
    expect(texts(read(when('10:40', '10:30', '10:35')).document)).toEqual(['1', '2', '0']);
  });
  it('are in the order of the table where none has a time', () => {
    expect(texts(read('Model,Speed (m/s)\nAma,3\nAma,1\nAma,2').document)).toEqual(['3', '1', '2']);
  });
});

describe('a table with a row for each reading', () => {
  const { matching, document, problems, notices } = read(LONG);
  it('is guessed column by column', () => {
    expect(matching.roles).toEqual(['item', 'readings', 'attribute', 'condition', 'date', 'clock']);
  });
  it('becomes items with attributes, a measurand with its unit, sessions with their conditions', () => {
    expect(documentProblems(document)).toEqual([]);
    expect(document.items.map(({ name, attributes }) => [name, attributes[0]])).toEqual([
      ['Ama', { name: 'Price', unit: 'EUR', value: 30 }],
      ['Bel', { name: 'Price', unit: 'EUR', value: 40 }],
    ]);
    expect(document.measurands).toMatchObject([{ name: 'Speed', unit: 'm/s', form: 'value' }]);
    expect(document.conditions).toMatchObject([{ quantity: 'Air temp', unit: '°C' }]);
    expect(
      document.sessions.map(({ conditions }) =>
        conditions.map(({ number, at }) => `${at} ${String(number)}`),
      ),
    ).toEqual([['start 20.5', 'during 21'], ['start 21']]);
  });
  it('says what was not read, and what was taken as the same', () => {
    expect(problems).toEqual([
      { line: 5, column: 'Speed (m/s)', message: expect.stringContaining('“x” is not a number') as string },
    ]);
    expect(notices).toEqual([
      '“Ama” and “ama” are taken as one item.',
      '1 empty cell: readings that were not taken.',
      'No column says the round, so readings are compared as if they were taken in any order.',
    ]);
    expect(document.study.runOrder).toBe('full-shuffle');
    expect(rounds(document)).toEqual([1, 1, 2, 3]);
  });
  it('says nothing of empty cells where none is empty', () => {
    expect(read('Item;Speed (m/s)\nAma;3,1\nBel;3,2\n').notices).toEqual([
      'No column says the round, so readings are compared as if they were taken in any order.',
    ]);
  });
});

describe('a column of conditions', () => {
  const conditions = (head: string, ...cells: string[]) => {
    const rows = cells.map((cell, i) => `${i % 2 === 0 ? 'Ama' : 'Bel'},3.${String(i)},${cell}`);
    return read([`item,Speed (m/s),${head}`, ...rows].join('\n'), {
      roles: ['item', 'readings', 'condition'],
    });
  };
  const noted = ({ sessions }: StudyDocument) =>
    sessions.flatMap((session) => session.conditions.map(({ at, text, number }) => [at, text, number]));
  it('is words, noted where they change', () => {
    const { document, problems } = conditions('Lawn', 'dry', 'dry', 'Damp', 'damp', 'dry');
    expect([document.conditions, problems]).toMatchObject([
      [{ quantity: 'Lawn', kind: 'word', unit: '', words: [] }],
      [],
    ]);
    expect(noted(document)).toEqual([
      ['start', 'dry', null],
      ['during', 'Damp', null],
      ['during', 'dry', null],
    ]);
    expect(documentProblems(document)).toEqual([]);
  });
  it('is yes and no, in one writing', () => {
    const { document } = conditions('Shut (x)', 'Y', 'yes', 'no', 'N');
    expect(document.conditions).toMatchObject([{ quantity: 'Shut', kind: 'yes-no', unit: '' }]);
    expect(noted(document)).toEqual([
      ['start', 'yes', null],
      ['during', 'no', null],
    ]);
  });
  it('is a quantity where half of it are numbers, and what is none is named', () => {
    const { document, problems } = conditions('Air (°C)', '20', 'warm', '21', 'hot');
    expect(document.conditions).toMatchObject([{ kind: 'number', unit: '°C' }]);
    expect(noted(document)).toEqual([
      ['start', '20', 20],
      ['during', '21', 21],
    ]);
    expect(problems).toEqual([
      { line: 3, column: 'Air (°C)', message: '“warm” is no number.' },
      { line: 5, column: 'Air (°C)', message: '“hot” is no number.' },
    ]);
  });
  it('has no words that are longer than the record takes', () => {
    const { document, problems } = conditions('Lawn', 'dry', 'x'.repeat(61), 'y'.repeat(60));
    expect(problems).toEqual([
      { line: 3, column: 'Lawn', message: `“${'x'.repeat(40)}…” has more than 60 characters.` },
    ]);
    expect(noted(document).map(([, text]) => text)).toEqual(['dry', 'y'.repeat(60)]);
  });
});

describe('what is wrong with a table', () => {
  it('is named line by line, whatever it is about', () => {
    const rows = ['A,20,3', 'B,21,4', 'A,20,x', 'B,warm,3', 'A,20,y', 'B', 'A,20,5', 'B,22,3'];
    const { problems } = read(`item,Air temp (°C),Speed (m/s)\n${rows.join('\n')}\n`);
    expect(problems.map(({ line }) => line)).toEqual([4, 5, 6, 7]);
  });
});

describe('a row with more cells than the head, or fewer', () => {
  it('gives nothing, and is named with its line', () => {
    const { problems, document } = read('item,v\nA,1\nB,2,3\nC\nD,4\n');
    expect(problems).toEqual([
      { line: 3, column: '', message: '3 cells, where the header has 2.' },
      { line: 4, column: '', message: '1 cell, where the header has 2.' },
    ]);
    expect(texts(document)).toEqual(['1', '4']);
  });
  it('line ends of any kind, and a mark in front, are read', () => {
    for (const end of ['\n', '\r\n', '\r']) {
      const { document, problems } = read(`\ufeffitem,v${end}A,1${end}B,2${end}C,1,1${end}`);
      expect([texts(document), problems[0]?.line]).toEqual([['1', '2'], 4]);
    }
  });
});

describe('a table with a column for each item', () => {
  const text = 'Round;Ama;Bel (a new one);Cip\n1;3,1;3,4;2,9\n2;3,2;;2,8\n4;3,0;3,3;2,7\n';
  it('keeps each row as a round, gaps and all', () => {
    const { document, matching } = read(text, { measurand: 'Flow', unit: 'L/min', direction: 'lower' });
    expect(matching.roles).toEqual(['round', ...Array<string>(3).fill('readings-of-item')]);
    expect(matching.decimal).toBe(',');
    expect(document.measurands[0]).toMatchObject({
      ...{ name: 'Flow', unit: 'L/min', direction: { kind: 'lower' } },
    });
    expect(rounds(document)).toEqual([1, 1, 1, 2, 2, 4, 4, 4]);
    expect(document.study.runOrder).toBe('shuffled-rounds');
    const { settings } = analyseStudy(document, document.measurands[0]?.id ?? '', { resamples: 0 });
    expect(settings[0]?.classes[0]?.analysis.items.map(({ summary }) => summary.n)).toEqual([3, 2, 3]);
  });
  it('asks what was read', () => {
    expect(read(text, { measurand: ' ' }).refused).toBe('Say what was read.');
  });
});

describe('a table with levels, measurands or dates of other kinds', () => {
  it('makes a numeric factor of what was set', () => {
    const { document, matching } = read(
      ' sample\tpressure (bar)\tflow [L/min]\nA\t3\t9\nA\t1\t5\nB\t1\t4\nB\t3\t7\nA\t1\t5.1\n',
    );
    expect(matching.roles).toEqual(['item', 'level', 'readings']);
    expect(document.factors).toMatchObject([{ name: 'pressure', unit: 'bar', kind: 'numeric' }]);
    expect(document.levels.map(({ name, value, baseline }) => [name, value, baseline])).toEqual([
      ['1', 1, true],
      ['3', 3, false],
    ]);
    expect(rounds(document)).toEqual([1, 1, 1, 1, 2]);
  });
  it('makes none that is numeric of one number alone', () => {
    const { document } = read('sample\tpressure (bar)\tflow [L/min]\nA\t3\t9\nB\t3\t5\n', {
      roles: ['item', 'level', 'readings'],
    });
    expect(document.factors).toMatchObject([{ name: 'pressure', unit: '', kind: 'treatment' }]);
    expect(document.levels).toMatchObject([{ name: '3', value: null }]);
  });
  it('takes the measurand and its unit from columns', () => {
    const { document } = read(
      'item,measurand,unit,value\nA,Mass,g,3\nA,Length,mm,12\nB,Mass,g,4\nB,Length,mm,13\nA,Time,s,4:18.6\n',
    );
    expect(document.measurands.map(({ name, unit, form }) => [name, unit, form])).toEqual([
      ['Mass', 'g', 'value'],
      ['Length', 'mm', 'value'],
      ['Time', 's', 'timed'],
    ]);
    expect(texts(document)).toEqual(['3', '12', '4', '13', '4:18.6']);
  });
  it('asks which comes first in a date that can be read in two ways', () => {
    const text = 'item,v,date\nA,3,4/5/2026\nB,4,6/5/2026\n';
    expect(read(text).refused).toBe('Say whether the day or the month comes first in the dates.');
    expect(read(text, { dates: 'day' }).document.readings[0]?.takenAt).toMatch(/^2026-05-0[34]/);
    expect(read(text, { dates: 'month' }).document.readings[0]?.takenAt).toMatch(/^2026-04-0[45]/);
    expect(read('item,v,date\nA,3,14/5/2026\nB,4,6/5/2026\n').matching.dates).toBe('day');
    expect(read('item;v;date\nA;3;4.5.2026\n').matching.dates).toBe('day');
  });
});

describe('columns that make no study', () => {
  it.each<[string, StudyMatching['roles'], string]>([
    ['no item', ['readings', 'ignore'], 'Say which column holds the item, or that each column is an item.'],
    ['two items', ['item', 'item'], 'Two columns are said to hold the item.'],
    [
      'both ways',
      ['item', 'readings-of-item'],
      'Either a column names the item, or each column is one; not both.',
    ],
    ['no readings', ['item', 'ignore'], 'Say which columns hold readings.'],
    ['a clock without a date', ['item', 'readings', 'clock'], 'A time of day needs a column with the date.'],
  ])('say why: %s', (_what, roles, why) => {
    const { matching } = read('a,b,c\n1,2,3\n');
    expect(studyMatchingProblem({ ...matching, roles })).toBe(why);
  });
  it('are named where they would be far too many items, or the same twice', () => {
    const many = `item,v\n${Array.from({ length: 501 }, (_, i) => `i${String(i)},1`).join('\n')}\n`;
    expect(read(many).refused).toBe('“item” would make 501 items. Does this column hold something else?');
    expect(read('item,Speed (m/s),speed [km/h]\nA,1,2\n').refused).toBe(
      'Two columns would be the measurand “speed”. Ignore one of them.',
    );
    expect(read('item,A+,A-\nx,1,2\n').refused).toBe(
      'Two columns would be the measurand “A-”. Ignore one of them.',
    );
    expect(read(`item,v\n${'x'.repeat(200)},1\n`).refused).toMatch(
      /^“item” holds “x+…”, longer than the 120/,
    );
    expect(read('item,,v\nA,3,1\nB,4,2\n', { roles: ['item', 'level', 'readings'] }).refused).toBe(
      'Column 2 has no head to call it by. Ignore it, or give it one.',
    );
    expect(read(`item,${'v'.repeat(200)}\nx,1\n`).refused).toMatch(/^The head of column 2 has more than 120/);
  });
});

describe('any table of readings', () => {
  it('comes out as a study that holds together, whatever is in its cells', () => {
    const said = fc.constantFrom(
      'Ama',
      'Bel',
      '1',
      '2.5',
      '',
      '4:18',
      '2026-05-04',
      '4/5/2026',
      '=1+1',
      ' x ',
    );
    const anything = fc.string({ maxLength: 8 }).map((text) => text.replace(/[",\n\r#]/g, ''));
    const heads = fc.constantFrom('item', 'a', 'b (g)', 'round', 'date', 'price', 'c', 'level');
    fc.assert(
      fc.property(
        fc.uniqueArray(heads, { minLength: 2, maxLength: 6 }),
        fc.array(fc.array(fc.oneof(said, anything), { minLength: 6, maxLength: 6 }), {
          minLength: 1,
          maxLength: 12,
        }),
        (columns, rows) => {
          const lines = rows.map((row) => row.slice(0, columns.length).join(','));
          const table = parseReadingsTable([columns.join(','), ...lines].join('\n'));
          if ('problem' in table) return;
          const outcome = studyFromTable(table, guessStudyMatching(table), context());
          if (!outcome.document) return;
          expect(documentProblems(outcome.document)).toEqual([]);
          expect(outcome.document.readings).toHaveLength(outcome.readings);
        },
      ),
      { numRuns: 300, seed: 14 },
    );
  });
});

describe('the head of a column', () => {
  it.each([
    ['Speed (m/s)', 'Speed', 'm/s'],
    ['Speed [m/s]', 'Speed', 'm/s'],
    ['Speed in m/s', 'Speed', 'm/s'],
    ['Level, dB(A)', 'Level', 'dB(A)'],
    ['Price (EUR)', 'Price', 'EUR'],
    ['Bel (a new one)', 'Bel (a new one)', ''],
    ['What, ever', 'What, ever', ''],
  ])('%s', (column, name, unit) => {
    expect(headOf(column)).toEqual({ name, unit });
  });
});

describe('a table that is not quite consistent', () => {
  it('says which attribute is not always the same, and which unit is taken of several', () => {
    const { document, notices } = read(
      'Model,Power (W),Speed (m/s)\nAma,30,3\nAma,31,3.1\nBel,,4\nBel,20,4.1',
      { roles: ['item', 'attribute', 'readings'] },
    );
    expect(notices).toContain('Power of Ama is not always the same; 30 is taken.');
    expect(document.items.map(({ attributes }) => attributes)).toEqual([
      [{ name: 'Power', unit: 'W', value: 30 }],
      [{ name: 'Power', unit: 'W', value: 20 }],
    ]);
    const units = read('Item,Quantity,Unit,Value\nAma,Speed,m/s,3\nBel,Speed,km/h,4\nBel,Noise dB,,40');
    expect(units.notices).toContain('Speed has several units: m/s and km/h. All are read as m/s.');
    expect(units.document.measurands.map(({ name, unit }) => [name, unit])).toEqual([
      ['Speed', 'm/s'],
      ['Noise dB', ''],
    ]);
  });
  it('takes a unit from the name of a measurand where no column has it, levels and times as what they are', () => {
    const { document } = read(
      'Item,Quantity,Value\nAma,Noise (dB),40\nBel,Noise (dB),41\nAma,Lap,1:02\nBel,lap ,1:03',
    );
    expect(document.measurands.map(({ name, unit, form }) => [name, unit, form])).toEqual([
      ['Noise', 'dB', 'level'],
      ['Lap', 's', 'timed'],
    ]);
  });
  it('takes spellings of an item as one, and says so', () => {
    const { document, notices } = read('Model,Speed\nAma  one,3\nama one,4\nBel,5\nAma one,6');
    expect(document.items.map(({ name }) => name)).toEqual(['Ama one', 'Bel']);
    expect(notices).toContain('“Ama one” and “ama one” are taken as one item.');
  });
});
