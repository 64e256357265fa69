import { readExpression } from '../../core/expression/expression.ts';
import { identifierOf } from '../../core/expression/names.ts';
import { parseItemTable } from '../../core/formats/item-table.ts';
import { parseReadingsTable } from '../../core/formats/readings-table.ts';
import { guessStudyMatching, headOf } from '../../core/formats/study-columns.ts';
import { studyFromTable } from '../../core/formats/study-table.ts';
import { readTrace } from '../../core/formats/trace-csv.ts';
import { FIGURE_KINDS } from '../../core/model/words.ts';
import { spokenDuration } from '../../core/plan/duration.ts';
import { clockText, spanText } from '../../core/quantity/clock.ts';
import { decimalsFor, formatPlain, formatReading, formatShare } from '../../core/quantity/format.ts';
import { parseQuantity } from '../../core/quantity/parse.ts';
import { parseRange } from '../../core/quantity/parse-range.ts';
import { convert, knownUnit, unitText } from '../../core/quantity/units.ts';
import { knownBy } from '../../core/summary/typed-text.ts';
import { testId } from '../../core/testing-study.ts';
import { each, said } from './said.ts';

const QUANTITIES = [
  ...[
    '3',
    '3.50',
    '3,5',
    '1 234.5',
    '1,234.5',
    '1.234,5',
    '-4',
    '−4',
    '+4',
    '.5',
    '5.',
    '1e3',
    '1e400',
    '0x1f',
  ],
  ...['3 kg', '3kg', '3 g', '3.2 m/s', '12 km/h', '12 kph', '72 °F', '295 K', '1/2', '3 1/2', '5 %', '1:30'],
  ...[
    '2 min 3 s',
    '1 h 5 min',
    '90 dB',
    '90 dBA',
    'three',
    '3 widgets',
    '',
    '  ',
    '∞',
    'NaN',
    '3 3',
    '4 lb 3 oz',
  ],
];
const UNITS = [
  '',
  'kg',
  'g',
  'm/s',
  '°C',
  'dB',
  's',
  'min',
  '%',
  'l/min',
  'widget',
  'm^2',
  'kg m/s^2',
  'W·h',
  '1/s',
];
const RANGES = [
  '1 to 2',
  '1-2',
  '1 – 2',
  '>8',
  '≥ 8',
  '<3',
  '≤3 g',
  '5',
  '5 ± 1',
  '3 to 2',
  'to 4',
  'from 2',
  'a to b',
];
const EXPRESSIONS = [
  ...[
    'pull / mass',
    'pull - 3 g',
    'pull + 3 kg',
    'pull * 2',
    '2 ^ pull',
    'mass ^ 2',
    'sqrt(pull)',
    'pull ^ 0.5',
    'pull ^ (1 / 3)',
  ],
  ...[
    'min(pull, mass)',
    'max(pull, 3)',
    'if(pull > 3 g, pull, 0 g)',
    'abs(-pull)',
    'exp(pull)',
    'log10(pull / mass)',
  ],
  ...[
    'pull /',
    '(pull',
    'other',
    'pull pull',
    '-pull',
    '1 / 0',
    'pull == mass',
    'heat - 5 K',
    'heat * 2',
    '',
  ],
  ...[
    'if(pull, 1, 2)',
    'min()',
    'mass / (3 g)',
    'pull × 2 ÷ 4',
    'pull ≥ 2 g',
    '!pull',
    'pull % 2',
    'heat + heat',
  ],
];

/** Words and figures that are typed. */
export function* typed(): Generator<[string, unknown]> {
  yield ['quantities', each(QUANTITIES, UNITS, parseQuantity)];
  yield ['ranges', each(RANGES, ['', 'g', 's', '°C', 'm/s'], parseRange)];
  yield ['conversions', each(UNITS, UNITS, (from, to) => convert(12.5, from, to))];
  yield [
    'units',
    UNITS.map((unit) => {
      const known = knownUnit(unit);
      return known && [unitText(known), known.factor, known.zero, known.dimension];
    }),
  ];
  const names = [
    { id: 'a', identifier: 'pull', name: 'Pull', unit: 'g', kind: 'measurand' as const },
    { id: 'b', identifier: 'mass', name: 'Mass', unit: 'kg', kind: 'attribute' as const },
    { id: 'c', identifier: 'heat', name: 'Heat', unit: '°C', kind: 'condition' as const },
  ];
  yield [
    'expressions',
    each(EXPRESSIONS, [undefined, 'g', '°C', '', '%'], (text, unit) => {
      const read = readExpression(text, names, unit);
      if ('problem' in read) return read;
      const values = [
        { pull: 4, mass: 2, heat: 20 },
        { pull: 0, mass: 0.5, heat: -5 },
      ];
      return [read.uses, read.unit, values.map((value) => read.work(new Map(Object.entries(value))))];
    }),
  ];
  yield ['identifiers', ['Air speed, 1 m', '2nd', '±', 'ÄÖ ß', 'σ', 'a__b', ' a '].map(identifierOf)];
  const texts = { n: '5', mean: '3', sd: '0.2', ends: '2 to 4', range: '>8' };
  const wrong = { n: '1.5', mean: 'x', sd: '-1', ends: '4 to 2', range: '' };
  yield [
    'figures from elsewhere',
    FIGURE_KINDS.flatMap((kind) =>
      Object.entries(wrong).flatMap(([name, text]) =>
        [
          { ...texts, [name]: text },
          { ...texts, [name]: '' },
          { ...texts, n: '1' },
        ].map((all) => knownBy(kind, all, '°C')),
      ),
    ),
  ];
}

const FIGURES = [
  0, 1, -1, 0.5, 9.996, 99.95, 0.0996, 1e-4, 12345.678, 1e6, 1e12, 1e-9, 1e-12, -0.004, 59.6, 61, 3599.9,
];

/** Figures as they are printed. */
export function* printed(): Generator<[string, unknown]> {
  yield [
    'numbers',
    FIGURES.map((x) => [decimalsFor(x), formatPlain(x), formatPlain(x, 'de'), formatReading(x)]),
  ];
  yield ['shares', FIGURES.map(formatShare)];
  yield [
    'times',
    [...FIGURES, 3600, 86399.9, 86400, 200000].map((x) => [clockText(Math.abs(x)), spanText(x)]),
  ];
  yield ['lengths', [0, 29, 30, 90, 3570, 3600, 7500, 90000].map(spokenDuration)];
}

const LOGS = [
  'time,a\n0,1\n1,2\n2,3\n',
  'Time (s);Probe 1 (°C);Probe 2 (°C)\n0;1,5;2,5\n10;1,6;\n20;x;2,7\n30;1,8;2,8\n',
  't (min),level\n0,5\n1,6\n1,7\n0.5,8\n3,9\n',
  'clock,a\n23:59:50,1\n23:59:58,2\n00:00:06,3\n00:00:14,4\n',
  'date,time,a\n2026-03-01,10:00:00,1\n2026-03-01,10:00:30,2\n2026-03-01,10:02:30,3\n',
  'timestamp,a\n2026-03-01T10:00:00Z,1\n2026-03-01T10:00:30Z,2\n2026-03-01T09:59:00Z,3\n2026-03-01T10:01:00Z,4\n',
  'timestamp,a\n01.03.2026 10:00:00,1\n01.03.2026 10:00:05,2\n',
  'date,a\n03/04/2026 10:00,1\n03/05/2026 10:00,2\n',
  'a,b\n1,2\n3,4\n',
  'time,a\n0,x\n1,y\n',
  'time,a\n',
  '',
  'time,a,a\n0,1,2\n1,2,3,4\n2,3\n3,4,5\n',
  '# made by hand\ntime\ta\n0\t1\n1\t2\n',
  'timestamp,a\n2026-03-02 23:59:00,1\n2026-03-02 00:10:00,2\n2026-03-02 23:59:30,3\n',
  'date,clock,a\n2026-03-02,23:59:00,1\n2026-03-02,00:10:00,2\n2026-03-03,00:01:00,3\n',
  'clock,date,a\n10:00:00,2026-03-02,1\n10:00:30,2026-03-02,2\n10:01:00,2026-03-03,3\n',
  'time (s),a\n86390,1\n5,2\n86395,3\n',
  'date,a\n2026-03-02,1\n2026-03-03,2\n',
  'ms,a\n0,1\n500,2\n1000,3\n9000,4\n',
  'elapsed,a\n0:00:00.0,1\n0:00:00.5,2\n0:61:00,3\n',
];
const TABLES = [
  'name,speed\nAma,3\nBel,4\nAma,3.5\n',
  'Item;Speed (m/s);Sound in dB\nAma;3,5;40\nBel;4,5;41\nAma;3,6;40\n',
  'item,round,setting,Pull [g]\nAma,1,low,3\nAma,1,high,4\nBel,1,low,5\nBel,1,high,\nAma,2,low,3\n',
  'round,Ama,Bel\n1,3,4\n2,3,x\n3,,5\n',
  'item,date,time,a,price\nAma,2026-03-01,10:00,3,20\nBel,01/02/2026,25:00,4,x\n',
  'item,measurand,unit,value\nAma,Pull,g,3\nAma,Mass,kg,1\nBel,Pull,kg,4\nBel,Mass,kg,y\n',
  'item\nAma\n',
  'item,a,a\nAma,1,2\n',
  'item,room temperature,a\nAma,20,1\nBel,21,2\nAma,20,3\n',
  '"item, long",a\n"Ama ""x""",1\n',
  'x\n',
];

/** Tables and logs from elsewhere. */
export function* read(): Generator<[string, unknown]> {
  yield ['logs', LOGS.map((log) => said(() => readTrace(log)))];
  yield [
    'heads',
    ['Speed (m/s)', 'Speed [m/s]', 'Speed in m/s', 'a, s', 'dB (A)', 'x', '(s)', 'a (b c)'].map(headOf),
  ];
  yield ['item tables', TABLES.map((table) => parseItemTable(table, [{ name: 'Price', unit: 'money' }]))];
  yield [
    'studies from tables',
    TABLES.map((text) => {
      const table = parseReadingsTable(text);
      if ('problem' in table) return table;
      const matching = guessStudyMatching(table);
      const now = '2026-05-04T10:00:00.000Z';
      return [
        matching,
        studyFromTable(table, matching, { title: 'Table', seed: 1, newId: testId, now }),
        studyFromTable(
          table,
          { ...matching, dates: 'month' },
          { title: 'Table', seed: 1, newId: testId, now },
        ),
      ];
    }),
  ];
}
