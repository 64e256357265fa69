import { identifierOf } from '../../core/expression/names.ts';
import { readExpression } from '../../core/expression/expression.ts';
import { csvNumber, decodeAnyText, guessDelimiter, readCsv } from '../../core/formats/csv-read.ts';
import { parseItemTable, splitHeader } from '../../core/formats/item-table.ts';
import { jpegOrientation, pictureHead, withoutPlace } from '../../core/formats/picture.ts';
import { parseReadingsTable } from '../../core/formats/readings-table.ts';
import { guessStudyMatching, headOf } from '../../core/formats/study-columns.ts';
import { readTrace } from '../../core/formats/trace-csv.ts';
import { clockText } from '../../core/quantity/clock.ts';
import { parseQuantity } from '../../core/quantity/parse.ts';
import { parseRange } from '../../core/quantity/parse-range.ts';
import { knownUnit, unitText } from '../../core/quantity/units.ts';
import { jpeg, png, restartingJpeg, webp } from '../../core/testing-pictures.ts';
import { said } from './said.ts';

/** A text with one sign too few, another, or too many: at each place, each of some signs. */
function garbledTexts(text: string, signs: string): string[] {
  const garbled = new Set([text]);
  for (let place = 0; place <= text.length; place += 1) {
    const [before, behind] = [text.slice(0, place), text.slice(place)];
    garbled.add(before + behind.slice(1));
    for (const sign of signs) garbled.add(before + sign + behind).add(before + sign + behind.slice(1));
  }
  return [...garbled];
}

/** Bytes that end at any place, or of which one is another. */
function* garbledBytes(bytes: Uint8Array): Generator<Uint8Array> {
  yield bytes;
  for (let place = 0; place < bytes.length; place += 1) {
    yield bytes.slice(0, place);
    const byte = bytes[place] as number;
    for (const other of [byte + 1, byte - 1, byte ^ 0xff, 0, 0xff]) yield bytes.with(place, other);
  }
}

/** What is said of each of some texts, garbled at every place. */
const ofTexts = (texts: readonly string[], signs: string, ask: (text: string) => unknown): unknown[] =>
  texts.flatMap((text) => garbledTexts(text, signs).map((garbled) => said(() => ask(garbled))));

const CLOCKS = [
  ...['2026-03-01 10:00:30', '2026-03-01T10:00:30+02:00', '2026/3/1 9:05', '01.03.2026 10:00:05'],
  ...['10:00:30', '9:05', '23:59:59.5', '1:30:00 pm', '112:30:00', '1234.5', '−2,5e1', '1.234,5'],
];

/** Logs of which one row has a clock that is garbled. */
const clocks = (): unknown[] =>
  CLOCKS.flatMap((clock) => {
    const others = `${clock};1\n`.repeat(12);
    return garbledTexts(clock, '0169 :/-.,Tz').map((garbled) =>
      said(() => readTrace(`time;a\n${others}${garbled};2\n`)),
    );
  });

const MOMENTS = [
  ...['2026-03-01 24:00:00', '2026-03-01 24:00:01', '2026-03-01 25:00:00', '2026-03-02 00:59:60'],
  ...['2026-03-01 00:60:00', '2026-03-01 00:00:60.9', '2026-03-01 00:00:61', '2026-12-31 23:59:59'],
  ...['2026-12-31', '2026-13-01', '2026-00-01', '2026-02-29', '2028-02-29', '2026-03-01T10:00:00+02:30'],
  ...['2026-03-01 10:00:00-0530', '2026-03-01 10:00Z', '2026-03-01x10:00:00', '12:00 am', '12:30 PM'],
  ...['0:59:60', '0:60:00', '0:00:61', '999:59:59', '1000:00:00', '00:09:99', '09:99:00'],
];

/** Logs that end with a moment that is at the end of what there is. */
const moments = (): unknown[] =>
  MOMENTS.flatMap((moment) =>
    ['2026-03-01 00:00:00', '00:00:00', '11:59 am'].map((clock) =>
      said(() => readTrace(`time;a\n${`${clock};1\n`.repeat(12)}${moment};2\n`)),
    ),
  );

const DAYS = ['2026-03-01', '01.03.2026', '3/14/2026', '2026-02-30'];

/** What a picture is, and what is left of it without its place. */
const pictures = (): unknown[] =>
  [
    ...[jpeg(64, 48), jpeg(64, 48, 1), restartingJpeg(), png(64, 48), webp(64, 48)],
    // Which way up it is stands alone in it, low byte first.
    withoutPlace(jpeg(64, 48, 8), { kind: 'jpg' }),
  ].flatMap((bytes) =>
    [...garbledBytes(bytes)].map((garbled) =>
      said(() => {
        const head = pictureHead(garbled);
        const left = withoutPlace(garbled, head);
        return [head, Buffer.from(left).toString('latin1'), head.kind === 'jpg' && jpegOrientation(garbled)];
      }),
    ),
  );

const ITEMS = [
  'name;price (money);Mass [kg]\nAma;3,5;1\n"Bel ""b""";4;\n',
  'Item\tCode\tPrice in money\nAma\tA1\t3.5\nBel\tB2\tx\n',
  'a,b,c\n1,2,3\n\n4,5\n',
];
const TABLES = [
  'item,round,Pull [g],date\nAma,1,3,2026-03-01\nAma,2,4,2026-03-02\nBel,1,5,2026-03-01\n',
  'round;Ama;Bel\n1;3,5;4\n2;x;4,5\n',
];
const NAMES = [
  { id: 'a', identifier: 'pull', name: 'Pull', unit: 'g', kind: 'measurand' as const },
  { id: 'b', identifier: 'mass', name: 'Mass', unit: 'kg', kind: 'attribute' as const },
];

function expression(text: string): unknown {
  const read = readExpression(text, NAMES, 'g');
  if ('problem' in read) return read;
  return [
    read.uses,
    read.work(
      new Map([
        ['pull', 4],
        ['mass', 2],
      ]),
    ),
  ];
}

/** What is said at the ends of what is taken, and behind them. */
function limits(): unknown[] {
  const items = (columns: number, rows: number) =>
    [
      Array.from({ length: columns }, (_, i) => `a${String(i)}`),
      ...Array.from({ length: rows }, (_, row) =>
        Array.from({ length: columns }, (_cell, i) => String(i === 0 ? `b${String(row)}` : i)),
      ),
    ]
      .map((cells) => cells.join(';'))
      .join('\n');
  const sizes = [
    [6000, 10000],
    [6001, 10000],
    [20000, 1],
    [20001, 1],
    [1, 20001],
  ] as const;
  return [
    ...[60, 61].map((columns) => parseItemTable(items(columns, 1)).problem),
    ...[2000, 2001].map((rows) => parseItemTable(items(2, rows)).problem),
    ...sizes.map(([width, height]) => said(() => pictureHead(png(width, height)))),
    ...[25e6, 25e6 + 1].map((size) => said(() => pictureHead(new Uint8Array(size)))),
  ];
}

/** What is said of what is typed, pasted or read with one sign or byte too few, another, or too many. */
export function* garbledAnswers(): Generator<[string, unknown]> {
  yield ['clocks', clocks()];
  yield ['moments', moments()];
  yield [
    'days',
    ofTexts(DAYS, '0139-./ ', (day) => readTrace(`date,clock,a\n${day},10:00:00,1\n2026-03-01,10:00:30,2\n`)),
  ];
  yield ['pictures', pictures()];
  yield [
    'quantities',
    ofTexts(['3.50 kg', '1 1/2 g', '2 min 3 s', '1:30', '−4e3', '1,234.5'], '0.,-/ :e^x', (text) => [
      parseQuantity(text, 'g'),
      parseQuantity(text, 's'),
      parseQuantity(text, ''),
    ]),
  ];
  yield [
    'ranges',
    ofTexts(['1 to 2 g', '≥ 8', '5 ± 1', '1–2'], '0.-±<>≤ t', (text) => parseRange(text, 'g')),
  ];
  yield [
    'units',
    ofTexts(['kg m/s^2', 'l/min', '1/°C', 'W·h'], '0123/*^ ·k', (text) => {
      const known = knownUnit(text);
      return known && [unitText(known), known.factor, known.zero, known.dimension];
    }),
  ];
  yield [
    'expressions',
    ofTexts(
      ['2 * pull - 3 g', 'min(pull, mass) ^ 2', 'if(pull >= 3 g, mass, -pull)', 'sqrt(pull) / 1e2'],
      '0()+-*/^,<=!g ',
      expression,
    ),
  ];
  yield ['identifiers', ofTexts(['Air speed, 1 m', 'σ_x'], '0_ -ß(', identifierOf)];
  yield [
    'items',
    ofTexts(ITEMS, '",;\t\n ()[]x1', (text) => parseItemTable(text, [{ name: 'Price', unit: 'money' }])),
  ];
  yield [
    'heads',
    ofTexts(['Speed (m/s)', 'Pull in g', 'dB [A]'], '()[], in', (text) => [headOf(text), splitHeader(text)]),
  ];
  yield [
    'tables',
    ofTexts(TABLES, '",;\n .x1', (text) => {
      const table = parseReadingsTable(text);
      return 'problem' in table ? table : [table, guessStudyMatching(table)];
    }),
  ];
  yield ['delimiters', ofTexts(['a,b;c\td', '"a,b";c'], '",;\t ', guessDelimiter)];
  yield [
    'cells',
    ofTexts(['1234.5', '-0.5e-3', '12345678901234567', '1 234,5'], '059.,-+e ', (text) =>
      ([',', ';', '\t'] as const).map((delimiter) => csvNumber(text, delimiter)),
    ),
  ];
  yield [
    'rows',
    ofTexts(['id,a\n1,"x ""y""\nz"\n2,\n', 'id;a\r\n1;2\r\n\r\n3;4;5'], '",;\r\n#', (text) => {
      const rows: unknown[] = [];
      readCsv(
        text,
        (header) => rows.push(header),
        (fields, line) => rows.push(fields, line),
        (line) => rows.push(`ragged ${String(line)}`),
      );
      return rows;
    }),
  ];
  yield [
    'bytes',
    [...garbledBytes(new TextEncoder().encode('a,°C\n1,2'))].map((bytes) => said(() => decodeAnyText(bytes))),
  ];
  yield ['limits', limits()];
  yield ['clock texts', [0, 0.4, 59.94, 59.96, 60, 3599.4, 3599.96, 3600, 86399, 360000, -5].map(clockText)];
}
