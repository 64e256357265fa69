import { decibels } from '../../core/sound/decibels.ts';
import { findEvents, withoutBackground } from '../../core/sound/events.ts';
import { LevelMeter, SoundMeter } from '../../core/sound/meter.ts';
import { TrackMeter } from '../../core/sound/track.ts';
import { toneFrequency } from '../../core/sound/tone.ts';
import { readExpression } from '../../core/expression/expression.ts';
import { identifierOf } from '../../core/expression/names.ts';
import { parseItemTable } from '../../core/formats/item-table.ts';
import { parseReadingsTable } from '../../core/formats/readings-table.ts';
import { guessStudyMatching, headOf } from '../../core/formats/study-columns.ts';
import { studyFromTable } from '../../core/formats/study-table.ts';
import { readTrace } from '../../core/formats/trace-csv.ts';
import { StudyDocument } from '../../core/model/study-document.ts';
import { FIGURE_KINDS, RULE_JUDGES, RULE_LEVELS, RULE_NAMES } from '../../core/model/words.ts';
import { alikeDf, differenceSeen, power, readingsNeeded } from '../../core/plan/power.ts';
import { lookLevels } from '../../core/plan/look-levels.ts';
import { planDuration, spokenDuration } from '../../core/plan/duration.ts';
import { varianceComponents } from '../../core/precision/variance-components.ts';
import { clockText, spanText } from '../../core/quantity/clock.ts';
import { decimalsFor, formatPlain, formatReading, formatShare } from '../../core/quantity/format.ts';
import { parseQuantity } from '../../core/quantity/parse.ts';
import { parseRange } from '../../core/quantity/parse-range.ts';
import { convert, knownUnit, unitText } from '../../core/quantity/units.ts';
import { type SeededRandom, mixedRandom } from '../../core/random/seeded.ts';
import { screeningRule } from '../../core/screening/index.ts';
import { screenSamples } from '../../core/screening/screen.ts';
import { bootstrapInterval } from '../../core/summary/bootstrap.ts';
import { uncertaintyBudget } from '../../core/summary/budget.ts';
import { median } from '../../core/summary/quantile.ts';
import { summarise } from '../../core/summary/summary.ts';
import { knownBy } from '../../core/summary/typed-text.ts';
import { uniformity } from '../../core/summary/uniformity.ts';
import { TRACE_QUANTITIES } from '../../core/trace/quantities.ts';
import { type Series, cutTo, less, seriesOf, valueAt } from '../../core/trace/series.ts';
import { thinned } from '../../core/trace/thin.ts';
import { traceValue } from '../../core/trace/values.ts';
import { usualStep, watchWindow } from '../../core/trace/watch.ts';
import { testId } from '../../core/testing-study.ts';
import { said } from './said.ts';

/** Every combination of two lists. */
const each = <A, B>(first: readonly A[], second: readonly B[], ask: (a: A, b: B) => unknown): unknown[] =>
  first.flatMap((a) => second.map((b) => said(() => ask(a, b))));

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
function* typed(): Generator<[string, unknown]> {
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
function* printed(): Generator<[string, unknown]> {
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

/** A sample of seeded chance, with a stray reading or two. */
const sample = (random: SeededRandom, n: number, strays: number): number[] =>
  Array.from({ length: n }, (_, i) =>
    Number((10 + random.normal() + (i < strays ? 4 + 3 * i : 0)).toFixed(2)),
  );

/** Samples of seeded chance. */
const samplesOf = (random: SeededRandom): number[][] =>
  [0, 1, 2, 3, 4, 5, 6, 7, 10, 15, 30].flatMap((n) => [0, 1, 2].map((strays) => sample(random, n, strays)));

/** Samples as each rule screens them. */
function* screened(samples: readonly number[][]): Generator<[string, unknown]> {
  for (const name of RULE_NAMES) {
    yield [
      `screened by ${name}`,
      each(RULE_LEVELS, RULE_JUDGES, (level, judges) =>
        [null, 0.5, 2, 8].map((parameter) =>
          screenSamples(
            samples.map((values, i) => ({
              ...{ values, setting: String(i % 2), compared: i % 3 > 0 },
              rounds: i % 4 === 0 ? undefined : values.map((_, round) => round),
              insisted: new Set(i % 5 === 0 ? [0] : []),
            })),
            {
              ...{ rule: screeningRule(name), parameter, alpha: 0.05, level, judges },
              ...{ step: 0.01, limits: { low: 8, high: 13 }, strict: parameter === null },
            },
          ),
        ),
      ),
    ];
  }
}

/** Samples summed up, and how far off they may be. */
function* summedUp(samples: readonly number[][]): Generator<[string, unknown]> {
  const accurate = { accuracyPercent: 2, accuracyConstant: 0.1, resolution: 0.1 };
  const vague = { accuracyPercent: null, accuracyConstant: null, resolution: null };
  yield [
    'summed up',
    each(samples, [0, 0.5, 5], (values, step) => {
      const summary = summarise(values, 0.05, { step });
      return [
        summary,
        summarise(values, 0.05, { average: 'energy' }),
        summarise(values, 0.05, { trim: { perEnd: 1, of: values.length + 2 } }),
        uncertaintyBudget(summary, accurate, step, 0.05, 0.2),
        uncertaintyBudget(summary, vague, step, 0.05),
        bootstrapInterval(values, median, { alpha: 0.05, seed: 3 }),
        uniformity(values),
      ];
    }),
  ];
}

/** How much is to be read, when it may be looked at, and how long it takes. */
function* planned(): Generator<[string, unknown]> {
  yield [
    'power',
    each([2, 3, 5, 8, 20], [0.2, 1, 3], (n, difference) => {
      const input = { difference, sd: 1, alpha: 0.05 };
      return [power(n, input), power(n, { ...input, df: alikeDf(4) }), differenceSeen(n, 0.8, input)];
    }),
  ];
  yield [
    'readings needed',
    each([0.5, 0.8, 0.95], [0.2, 1, 3], (chance, difference) =>
      readingsNeeded(chance, { difference, sd: 1, alpha: 0.05 }),
    ),
  ];
  yield [
    'looks',
    each([[2, 4], [1, 2, 3], [5]], ['late', 'even'] as const, (after, spending) =>
      lookLevels(
        after.map((n) => n / 6),
        0.05,
        spending,
      ),
    ),
  ];
  const work = {
    rounds: 3,
    itemChanges: 9,
    levelChanges: 4,
    readings: [{ measurand: 'Pull', eachS: 40, count: 27 }],
  };
  const waits = { session: 600, item: 20, reading: 5 };
  const timing = { setupS: 10, levelS: 60, roundWaitS: 30, sessionS: 1800, sessionsPerDay: 2 };
  yield [
    'durations',
    [
      planDuration(work, { ...timing, waitS: waits }),
      planDuration(
        { ...work, readings: [] },
        { ...timing, sessionS: 60, waitS: { session: 0, item: 0, reading: 0 } },
      ),
    ],
  ];
}

/** What groupings of readings scatter by. */
function* components(): Generator<[string, unknown]> {
  const random = mixedRandom(20260712, 2);
  const cells = Array.from({ length: 24 }, (_, i) => i % 3);
  const groupings = [
    { groups: cells.map((_, i) => Math.floor(i / 6)), count: 4 },
    { groups: cells.map((_, i) => Math.floor(i / 2) % 6), count: 6 },
  ];
  yield [
    'components',
    [0, 0.5, 3].map((by) => {
      const values = cells.map((cell) => cell + random.normal());
      for (const { groups, count } of groupings) {
        const moved = Array.from({ length: count }, () => by * random.normal());
        groups.forEach((group, i) => {
          values[i] = (values[i] ?? 0) + (moved[group] ?? 0);
        });
      }
      return [
        varianceComponents(values, cells, groupings.slice(0, 1)),
        varianceComponents(values, cells, groupings),
      ];
    }),
  ];
}

/** Shapes of what a logger may write down. */
const SHAPES: Readonly<Record<string, (t: number) => number>> = {
  cooling: (t) => 20 + 70 * Math.exp(-t / 1800),
  warming: (t) => 80 - 60 * Math.exp(-t / 900),
  toZero: (t) => 50 * Math.exp(-t / 1200),
  line: (t) => 5 + 0.01 * t,
  flat: () => 7,
  dip: (t) => 30 - (t > 1200 && t < 2400 ? 8 : 0),
  wave: (t) => 20 + 5 * Math.sin(t / 300),
  slip: (t) => 40 - 0.001 * t - (t > 2000 ? 6 : 0),
};

/** Traces of seeded chance. */
function* traced(): Generator<[string, unknown]> {
  for (const [name, shape] of Object.entries(SHAPES)) {
    for (const noise of [0, 0.05]) {
      const random = mixedRandom(77, noise > 0 ? 1 : 2);
      const there = (i: number) => noise === 0 || (i % 97 !== 13 && (i < 150 || i > 165));
      const times = Float64Array.from(
        Array.from({ length: 361 }, (_, i) => 10 * i).filter((_, i) => there(i)),
      );
      const values = times.map((t) => Number((shape(t) + noise * random.normal()).toFixed(2)));
      const series: Series = seriesOf(times, values);
      const windows = [
        ...[
          { from: 0, to: 3600 },
          { from: 605, to: 2995 },
          { from: 100, to: 130 },
          { from: 2000, to: 1000 },
        ],
        ...[
          { from: -5, to: 10 },
          { from: 3000, to: 4000 },
          { from: 101, to: 104 },
        ],
      ];
      const asked = { threshold: 28, low: 22, high: 41, afterS: 450 };
      yield [
        `${name}, noise ${String(noise)}`,
        windows.map((window) => [
          each(TRACE_QUANTITIES, [false, true], (quantity, toZero) => {
            const found = traceValue(series, window, { ...asked, quantity, toZero }, '°C');
            if ('problem' in found) return found;
            const { curve, ...rest } = found;
            const watched = watchWindow(
              series,
              window,
              usualStep(times),
              { ...(curve ? { curve } : {}) },
              '°C',
            );
            return [rest, curve?.(100), watched];
          }),
          [3, 40].map((columns) => thinned(series, window, columns)),
        ]),
      ];
      const other = seriesOf(
        times.map((t) => t + 5),
        values.map((value) => value / 2),
      );
      yield [
        `${name}, noise ${String(noise)}, less another`,
        [less(series, other), cutTo(series, { from: 15, to: 95 })],
      ];
      yield [
        `${name}, noise ${String(noise)}, at times`,
        [-1, 0, 4, 10, 3599, 3600].map((t) => valueAt(series, t)),
      ];
    }
  }
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
function* read(): Generator<[string, unknown]> {
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

/** Sounds: what is heard of tones and of noise that comes and goes. */
function* heard(): Generator<[string, unknown]> {
  const RATE = 8000;
  const random = mixedRandom(5, 1);
  const noise = Float64Array.from({ length: 6 * RATE }, (_, i) => {
    const loud = i % (2 * RATE) > RATE && i % (2 * RATE) < 1.4 * RATE;
    return (loud ? 0.3 : 0.004) * random.normal() + (i === 12345 ? 1 : 0);
  });
  const tone = noise.map((_, i) => 0.5 * Math.sin((2 * Math.PI * 1000 * i) / RATE));
  for (const weighting of ['A', 'C', 'Z'] as const) {
    const meter = new SoundMeter({ weighting }, RATE, 2);
    for (let from = 0; from < noise.length; from += 5000)
      meter.push([noise.subarray(from, from + 5000), tone.subarray(from, from + 5000)]);
    const banded = new LevelMeter({ weighting, band: '1000' }, RATE, 1);
    banded.push([tone]);
    yield [`levels ${weighting}`, [meter.found(), banded.found()]];
  }
  const track = new TrackMeter({ weighting: 'A' }, RATE, noise.length);
  track.push(noise);
  const levels = track.track();
  yield [
    'events',
    each([-60, -40, -20], [0, 0.1, 0.7], (threshold, apart) => findEvents(levels, threshold, apart)),
  ];
  yield [
    'tones',
    [toneFrequency(tone.subarray(0, 4000), RATE), toneFrequency(noise.subarray(0, 4000), RATE)],
  ];
  yield ['less the background', [0, 3, 6, 8, 15, 15.1, 40].map((by) => withoutBackground(60 + by, 60))];
  yield ['decibels', [0, 1, 0.5].map(decibels)];
}

/** What single pieces say of words, figures, traces, tables and sounds, question by question. */
export function* singleAnswers(): Generator<[string, unknown]> {
  yield ['schema', StudyDocument];
  yield* typed();
  yield* printed();
  const samples = samplesOf(mixedRandom(20260712, 1));
  yield* screened(samples);
  yield* summedUp(samples);
  yield* planned();
  yield* components();
  yield* traced();
  yield* read();
  yield* heard();
}
